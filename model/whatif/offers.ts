import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { findFitting } from "#core/catalogue/fittings.ts";
import { findPipeStock, nextSizeUp } from "#core/catalogue/pipes.ts";
import { gunsOf, withOneGun, withSecondGun } from "#core/irrigation/gunsOnLine.ts";
import { everyItem, type PathItem } from "#core/line/path.ts";
import { receivingWater } from "#core/outlet/outlets.ts";
import { besideItself, hasRoomForTwo } from "#core/whatif/changes.ts";
import type { FieldChange } from "../job/changes.ts";
import { halfWithBooster } from "../well/booster.ts";

/** What a what-if is about. */
export type OfferSaid =
  | { kind: "bigger-pipe"; from: string; to: string }
  | { kind: "second-gun" }
  | { kind: "one-gun" }
  | { kind: "trash-pump" | "pressure-pump"; name: string }
  | { kind: "second-pump" }
  | { kind: "half-and-booster"; name: string; booster: string }
  | { kind: "other-pump"; name: string }
  | { kind: "float-higher"; by: number }
  | { kind: "no-check" }
  | { kind: "power-cut"; from: number; to: number }
  | { kind: "no-power-cut" }
  | { kind: "water-higher"; by: number }
  | { kind: "more-rain"; times: number };

/** A what-if that is offered for a job as it stands, by what it is about. */
export type Offer = { changes: FieldChange[] } & OfferSaid;

/** m a float is hung higher, and outside water stands higher; times a storm. */
const FLOAT_STEP = 0.1;
const WATER_STEP = 1;
const STORM_STEP = 1.5;

/** How many other pumps are offered. */
const MOST_PUMPS = 3;

/**
 * Everything that can be asked of this job in one tap, the plainest first.
 * @param library pumps of which those of its pump's kind are offered in its place
 */
export function offersFor(job: JobDocument, library: readonly PumpDocument[] = []): Offer[] {
  return [
    ...biggerPipe(job),
    ...halfPump(job, library),
    ...guns(job),
    ...secondPump(job),
    ...otherKind(job, library),
    ...otherPumps(job, library),
    ...floatHigher(job),
    ...noCheck(job),
    ...powerCut(job),
    ...waterHigher(job),
    ...moreRain(job),
  ];
}

/** All runs of the size of which most is laid, in the next size. */
function biggerPipe({ path }: JobDocument): Offer[] {
  const laid = new Map<string, { length: number; ids: string[] }>();
  for (const item of everyItem<PathItem>(path)) {
    if (item.kind !== "pipe") continue;
    const own = laid.get(item.stock) ?? { length: 0, ids: [] };
    laid.set(item.stock, { length: own.length + item.length, ids: [...own.ids, item.id] });
  }
  const [most] = [...laid].sort(([, a], [, b]) => b.length - a.length);
  const from = most && findPipeStock(most[0]);
  const to = from && nextSizeUp(from);
  if (!most || !from || !to) return [];
  const changes = most[1].ids.map((id) => ({ field: `path.${id}.stock`, value: to.id }));
  return [{ kind: "bigger-pipe", from: from.nominal, to: to.nominal, changes }];
}

/** A pump of half the power that fills an open tank, and a booster behind it. */
function halfPump(job: JobDocument, library: readonly PumpDocument[]): Offer[] {
  const found = halfWithBooster(job, library);
  if (!found) return [];
  const { small, booster, changes } = found;
  const name = `${small.maker} ${small.model}`;
  return [
    { kind: "half-and-booster", name, booster: `${booster.maker} ${booster.model}`, changes },
  ];
}

function secondPump({ path, source }: JobDocument): Offer[] {
  if (!hasRoomForTwo({ source })) return [];
  const pumps = everyItem<PathItem>(path).filter((item) => item.kind === "pump");
  const [only] = pumps;
  const twice = only && pumps.length === 1 ? besideItself(path as PathItem[], only) : undefined;
  if (!twice) return [];
  return [{ kind: "second-pump", changes: [{ field: "path", value: twice as never }] }];
}

/** A second gun beside the one there is, or only one of several. */
function guns({ path }: JobDocument): Offer[] {
  const all = gunsOf(path as PathItem[]);
  if (all.length === 0) return [];
  const changed =
    all.length === 1 ? withSecondGun(path as PathItem[]) : withOneGun(path as PathItem[]);
  const kind = all.length === 1 ? "second-gun" : "one-gun";
  return changed ? [{ kind, changes: [{ field: "path", value: changed as never }] }] : [];
}

/** For a gun's engine pump the other kind: volume against pressure, the one nearest to it in strength. */
function otherKind({ path, pumps }: JobDocument, library: readonly PumpDocument[]): Offer[] {
  const places = everyItem<PathItem>(path).filter((item) => item.kind === "pump");
  const [place] = places;
  const own = pumps.find(({ id }) => id === place?.pump);
  if (!place || !own || places.length > 1 || gunsOf(path as PathItem[]).length === 0) return [];
  const to = own.kind === "engine-trash" ? "engine-pressure" : "engine-trash";
  if (own.drive !== "engine" || own.kind === to) return [];
  const others = library.filter(({ kind }) => kind === to);
  // On the same ports, where there is one: a larger pump is no answer to which kind.
  const alike = others.filter(({ suctionPort }) => suctionPort === own.suctionPort);
  const [nearest] = nearestTo(own, alike.length > 0 ? alike : others);
  if (!nearest) return [];
  return [
    {
      kind: to === "engine-trash" ? "trash-pump" : "pressure-pump",
      name: `${nearest.maker} ${nearest.model}`,
      changes: inPlace(place.id, nearest),
    },
  ];
}

const inPlace = (itemId: string, pump: PumpDocument): FieldChange[] => [
  { field: "pumps", value: [pump] as never },
  { field: `path.${itemId}.pump`, value: pump.id },
];

/** Pumps by how near in strength they are to one. */
function nearestTo(own: PumpDocument, others: readonly PumpDocument[]): PumpDocument[] {
  const strength = ({ points }: PumpDocument) =>
    Math.max(...points.map(({ flow, head }) => flow * head));
  const off = (pump: PumpDocument) => Math.abs(Math.log(strength(pump) / strength(own)));
  return others.toSorted((a, b) => off(a) - off(b));
}

/** Pumps of the same kind in its place, those nearest to it in strength first. */
function otherPumps({ path, pumps }: JobDocument, library: readonly PumpDocument[]): Offer[] {
  const places = everyItem<PathItem>(path).filter((item) => item.kind === "pump");
  const [place] = places;
  const own = pumps.find(({ id }) => id === place?.pump);
  if (!place || !own || places.length > 1) return [];
  const alike = library.filter(({ id, kind }) => id !== own.id && kind === own.kind);
  return nearestTo(own, alike)
    .slice(0, MOST_PUMPS)
    .map((pump) => ({
      kind: "other-pump",
      name: `${pump.maker} ${pump.model}`,
      changes: inPlace(place.id, pump),
    }));
}

function floatHigher({ overTime, source }: JobDocument): Offer[] {
  const changes = (overTime?.controls ?? []).flatMap((own, i) =>
    own.kind === "float" && own.role !== "guard" && "body" in source && own.body === source.body
      ? [{ field: `overTime.controls.${i}.on`, value: Number((own.on + FLOAT_STEP).toFixed(4)) }]
      : [],
  );
  return changes.length > 0 ? [{ kind: "float-higher", by: FLOAT_STEP, changes }] : [];
}

function noCheck({ path }: JobDocument): Offer[] {
  const changes = everyItem<PathItem>(path).flatMap((item) =>
    item.kind === "fitting" && findFitting(item.fitting)?.group === "check"
      ? [{ field: `path.${item.id}`, value: null }]
      : [],
  );
  return changes.length > 0 ? [{ kind: "no-check", changes }] : [];
}

function powerCut({ overTime, bodies }: JobDocument): Offer[] {
  if (!bodies || bodies.length === 0) return [];
  const { powerCut: own, storm } = overTime ?? {};
  if (own) {
    return [{ kind: "no-power-cut", changes: [{ field: "overTime.powerCut", value: null }] }];
  }
  // In the middle of the storm, when it hurts most.
  const from = storm ? (storm.start ?? 0) + storm.duration / 2 - 1800 : 3600;
  const cut = { from: Math.max(from, 0), to: Math.max(from, 0) + 3600 };
  return [{ kind: "power-cut", ...cut, changes: [{ field: "overTime.powerCut", value: cut }] }];
}

/** The water an outlet lies in, such as a lake in flood. */
function waterHigher({ path }: JobDocument): Offer[] {
  const changes = everyItem<PathItem>(path).flatMap((item) => {
    const receiving = item.kind === "outlet" && receivingWater(item.outlet);
    if (!receiving) return [];
    const { low, normal, high } = receiving;
    const value = { low: low + WATER_STEP, normal: normal + WATER_STEP, high: high + WATER_STEP };
    return [{ field: `path.${item.id}.outlet.level`, value }];
  });
  return changes.length > 0 ? [{ kind: "water-higher", by: WATER_STEP, changes }] : [];
}

function moreRain({ overTime }: JobDocument): Offer[] {
  const { storm } = overTime ?? {};
  if (!storm) return [];
  const value = storm.depth * STORM_STEP;
  return [
    { kind: "more-rain", times: STORM_STEP, changes: [{ field: "overTime.storm.depth", value }] },
  ];
}
