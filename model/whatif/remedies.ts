import type { JobDocument } from "#contract/documents/job.ts";
import { SEVERITY_ORDER } from "#core/check/registry.ts";
import type { JobFindings } from "#core/finding/registry.ts";
import type { Steps } from "#core/numeric/steps.ts";
import { preChargeBy } from "#core/well/pressureTank.ts";
import { bottomOf, storeOf } from "../demand/bodies.ts";
import { applyChanges, type FieldChange } from "../job/changes.ts";
import type { WellResult } from "../well/well.ts";

/** What a remedy does, for whoever words it. SI. */
export type RemedyDoes =
  | { does: "lay-size"; itemId: string; stock: string }
  | { does: "raise-float"; by: number }
  | { does: "hang-alarm"; at: number }
  | { does: "take-cable"; conductor: string }
  | { does: "set-air"; pressure: number }
  | { does: "take-tank"; volume: number };

/** A change of the document that mends one thing that was found. */
export type Remedy = RemedyDoes & {
  /** code of what was found, and the item of the path it is about */
  of: string;
  itemId?: string;
  changes: FieldChange[];
};

/** One thing that was found, of the line or beside it. */
type Told = JobFindings["line"][number] | JobFindings["beside"][number];

/** More are not tried: each is worked out on the whole job. */
const MOST = 6;
/** m a float is hung over the level that would just do */
const IN_HAND = 0.001;
/** m³ to which a tank is rounded up */
const LITRE = 1e-3;

/** What may mend what was found, not tried yet: the worst first. */
function remediesFor(
  job: JobDocument,
  { line, beside }: JobFindings,
  well: WellResult | undefined,
): Remedy[] {
  return [...line, ...beside]
    .filter(({ severity }) => severity === "stop" || severity === "watch")
    .toSorted((a, b) => SEVERITY_ORDER[b.severity] - SEVERITY_ORDER[a.severity])
    .flatMap((own) => remedyFor(own, job, well) ?? [])
    .slice(0, MOST);
}

function remedyFor(own: Told, job: JobDocument, well: WellResult | undefined): Remedy | undefined {
  const controls = job.overTime?.controls ?? [];
  switch (own.code) {
    case "suction-velocity":
    case "discharge-velocity-high": {
      const { larger } = own.facts;
      const { itemId } = own;
      if (typeof larger !== "object" || itemId === undefined) return undefined;
      const changes = [{ field: `path.${itemId}.stock`, value: larger.id }];
      return { of: own.code, does: "lay-size", itemId, stock: larger.id, changes };
    }
    case "starts-too-often": {
      const lead = controls.findIndex((each) => each.kind === "float" && each.role === "lead");
      const float = controls[lead];
      if (own.raiseBy === undefined || float?.kind !== "float") return undefined;
      const by = own.raiseBy + IN_HAND;
      const changes = [{ field: `overTime.controls.${lead}.on`, value: float.on + by }];
      return { of: own.code, does: "raise-float", by, changes };
    }
    case "no-alarm": {
      const { source } = job;
      const body = "body" in source ? source.body : undefined;
      const starts = controls.flatMap((each) =>
        each.kind === "float" && each.body === body ? [Math.max(each.on, each.off)] : [],
      );
      const pit = job.bodies?.find(({ id }) => id === body);
      if (!pit || body === undefined || starts.length === 0) return undefined;
      const { rim } = storeOf(pit, bottomOf(pit, job));
      const highest = Math.max(...starts);
      // Halfway from the highest float that starts a pump to the rim: it speaks before the floor is wet.
      const at = Math.round(((highest + rim) / 2) * 1000) / 1000;
      if (at <= highest) return undefined;
      const value = [...controls, { kind: "alarm", body, at }] as FieldChange["value"];
      return {
        of: own.code,
        does: "hang-alarm",
        at,
        changes: [{ field: "overTime.controls", value }],
      };
    }
    case "cable-size": {
      const choice = well?.cable.choice;
      if (choice?.kind !== "found") return undefined;
      return takeCable(own.code, choice.row.conductor.id);
    }
    case "cord-drop":
    case "start-voltage":
      return own.enough && takeCable(own.code, own.enough.id);
    case "tank-over-charged": {
      const tank = well?.tank.tank;
      if (!tank) return undefined;
      const pressure = preChargeBy(tank.school, tank.cutIn);
      const changes = [{ field: "pressureTank.preCharge", value: pressure }];
      return { of: own.code, does: "set-air", pressure, changes };
    }
    case "tank-run": {
      const tank = well?.tank.tank;
      if (!tank || own.value <= 0) return undefined;
      // A tank of twice the size runs twice as long between the same pressures.
      const volume = Math.ceil((tank.volume * own.limit) / own.value / LITRE) * LITRE;
      const changes = [{ field: "pressureTank.volume", value: volume }];
      return { of: own.code, does: "take-tank", volume, changes };
    }
    default:
      return undefined;
  }
}

const takeCable = (of: string, conductor: string): Remedy => ({
  ...{ of, does: "take-cable", conductor },
  changes: [{ field: "site.cable.conductor", value: conductor }],
});

/** Gives what was found on a job. */
type LookAt = (name: "findings") => JobFindings;

/**
 * Remedies that were tried on the whole job and mend what they are of, with nothing new to stop for.
 * @param lookAt gives what is found on a changed job
 */
export function* remediesInSteps(
  job: JobDocument,
  found: JobFindings,
  well: WellResult | undefined,
  lookAt: (changed: JobDocument) => LookAt,
): Steps<Remedy[]> {
  const all = remediesFor(job, found, well);
  const before = stopsOf(found);
  const holds: Remedy[] = [];
  for (const [i, remedy] of all.entries()) {
    yield { done: i / all.length };
    const changed = applyChanges(job, remedy.changes);
    if (!changed.ok) continue;
    const then = lookAt(changed.job)("findings");
    const worse = [...stopsOf(then)].some((key) => !before.has(key));
    if (!worse && severityOf(then, remedy) < severityOf(found, remedy)) holds.push(remedy);
  }
  return holds;
}

const keyOf = (own: Told) => `${own.code} ${"itemId" in own ? (own.itemId ?? "") : ""}`;

const stopsOf = ({ line, beside }: JobFindings): ReadonlySet<string> =>
  new Set([...line, ...beside].flatMap((own) => (own.severity === "stop" ? [keyOf(own)] : [])));

/** The worst of what a remedy is of; nothing found is as good as good. */
function severityOf({ line, beside }: JobFindings, { of, itemId }: Remedy): number {
  const alike = [...line, ...beside].filter(
    (own) =>
      own.code === of && (itemId === undefined || ("itemId" in own && own.itemId === itemId)),
  );
  return Math.max(0, ...alike.map(({ severity }) => SEVERITY_ORDER[severity]));
}
