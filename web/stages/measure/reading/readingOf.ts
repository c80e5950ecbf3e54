import {
  type ReadingDocument,
  readingSchema,
  readingVersions,
} from "#contract/documents/fieldTest.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { levelsOf } from "#core/line/path.ts";
import { type Reach, unfitOf } from "#core/measurement/reach.ts";
import type { pitOf } from "#model/demand/pit.ts";
import { lineKnown } from "#model/job/assumed.ts";
import { type JobSolution, lineOf } from "#model/job/solveJob.ts";
import { unfitWords } from "#words/instruments.ts";
import { without } from "../../../lib/without.ts";
import type { Flows, Method, ReadingDraft } from "./readingDraft.ts";

/** m above the datum; none of them on a line that nobody has drawn */
export interface KnownHeights {
  tap: number | undefined;
  pump: number | undefined;
  water: number | undefined;
}

/** Heights the job already knows: of the pipe at the tap, of the pump, and the water's normal level. */
export function knownHeights(
  solved: JobSolution,
  job: JobDocument,
  { discharge: { afterItemId }, running }: Pick<ReadingDraft, "discharge" | "running">,
): KnownHeights {
  const line = lineOf(solved);
  if (!lineKnown(job)) return { tap: undefined, pump: undefined, water: undefined };
  const ran = line.pumps.find(({ item }) => item.id === running[0]) ?? line.pumps[0];
  const pump = ran?.elevation ?? 0;
  // A hole or a reducer has no length of its own: what is passed by then says where it is.
  const after = line.segments[(line.passed.get(afterItemId) ?? 0) - 1];
  return { tap: after?.endElevation ?? pump, pump, water: levelsOf(job.source).normal };
}

/** What a reading is of, beside what was typed of it. */
export interface ReadingOf {
  testId: string;
  pumpId: string | undefined;
  jobRevision: number;
  severalOutlets: boolean;
  /** of the visit */
  setups: readonly { id: string }[];
  /** Pa: the dial taken until one is picked */
  scale: number;
  /** what is asked of its instruments */
  reach: Reach;
  units: UnitSystem;
  /** what the job knows of the water that falls */
  pit: ReturnType<typeof pitOf>;
}

/** The reading a draft stands for, or what it still lacks. */
export function readingOf(
  draft: ReadingDraft,
  of: ReadingOf,
  heights: KnownHeights,
): { kind: "ready"; reading: ReadingDocument } | { kind: "lacks"; what: string } {
  const lacks = (what: string) => ({ kind: "lacks", what }) as const;
  const whole = withKnown(draft, of, heights);
  const missing = lackOf(whole);
  if (missing) return lacks(missing);
  const { testId, pumpId, jobRevision, severalOutlets, setups, reach, units } = of;
  const instruments = [...new Set(Object.values(draft.instruments))];
  const { valve, note, setup, attachments, running, takenAt, throwDistance } = draft;
  const gauged = draft.discharge.pressure !== undefined;
  const { suctionKind: kind } = draft;
  const parsed = readingSchema.safeParse(
    without({
      format: readingVersions.format,
      version: readingVersions.version,
      ...{ testId, pumpId, takenAt, throwDistance },
      jobRevision: jobRevision > 0 ? jobRevision : undefined,
      throttled: valve === "throttled" || undefined,
      ...(draft.speedRatio !== undefined && {
        ...{ speedRatio: draft.speedRatio, speedTolerance: draft.speedTolerance },
      }),
      electric: electricOf(draft),
      instruments: instruments.length > 0 ? instruments : undefined,
      setup: setups.some(({ id }) => id === setup) ? setup : undefined,
      note: note.trim() || undefined,
      attachments: attachments.length > 0 ? attachments : undefined,
      outletId: severalOutlets ? draft.outletId : undefined,
      running: running.length > 0 ? running : undefined,
      flow:
        valve === "shut"
          ? { method: "shut" }
          : { method: draft.method, ...whole.flows[draft.method] },
      ...(gauged && {
        discharge: whole.discharge,
        ...(kind !== "unknown" && { suction: { kind, ...whole.suctions[kind] } }),
      }),
    }),
  );
  if (!parsed.success) return lacks(parsed.error.issues[0]?.message ?? "Check the entries.");
  const reading = parsed.data as ReadingDocument;
  const unfit = unfitOf(reading, reach, draft.greatestFlow);
  return unfit ? lacks(unfitWords(unfit, units)) : { kind: "ready", reading };
}

/** A draft with what the job knows where nothing else was typed. */
function withKnown(
  draft: ReadingDraft,
  { pit, scale }: Pick<ReadingOf, "pit" | "scale">,
  { tap, pump, water }: KnownHeights,
): ReadingDraft {
  const { flows, discharge, suctions } = draft;
  const { gauge, "water-level": surface } = suctions;
  const fall = flows["draw-down"];
  return {
    ...draft,
    flows: {
      ...flows,
      "draw-down": { ...fall, area: fall.area ?? pit.area, inflow: fall.inflow ?? pit.inflow },
    },
    discharge: {
      ...discharge,
      fullScale: discharge.fullScale ?? scale,
      elevation: discharge.elevation ?? tap,
    },
    suctions: {
      gauge: { ...gauge, elevation: gauge.elevation ?? pump },
      "water-level": { ...surface, level: surface.level ?? water },
    },
  };
}

/** What is to be done next, where something has to be. */
function lackOf({ valve, method, flows, discharge, ...draft }: ReadingDraft): string | undefined {
  const gauged = discharge.pressure !== undefined;
  if (valve === "shut") {
    if (!gauged) return "Type what the gauge shows with the valve shut.";
  } else {
    const missing = LACKS[method](flows);
    if (missing) return missing;
  }
  if (!gauged) return undefined;
  const { suctionKind, suctions } = draft;
  const { gauge, "water-level": surface } = suctions;
  if (suctionKind === "gauge" && gauge.pressure === undefined) {
    return "Type the pressure off the suction gauge.";
  }
  if (discharge.elevation === undefined) return "Type how high the gauge’s dial stands.";
  if (suctionKind === "gauge" && gauge.elevation === undefined) {
    return "Type how high the suction gauge’s dial stands.";
  }
  return suctionKind === "water-level" && surface.level === undefined
    ? "Type the water level, or say that it is not known."
    : undefined;
}

/** The number a way of measuring the flow still lacks. */
const LACKS: Record<Method, (flows: Flows) => string | undefined> = {
  bucket: ({ bucket: { times } }) =>
    times.length === 0 ? "Time at least one fill of the bucket." : undefined,
  timed: ({ timed: { volume } }) =>
    volume === undefined ? "Measure what ran in that time, and type it." : undefined,
  meter: ({ meter: { flow } }) => (flow === undefined ? "Type the flow off the meter." : undefined),
  counter: ({ counter: { start, end, time } }) => {
    if (start === undefined || end === undefined) {
      return "Type what the meter showed at the start and at the end.";
    }
    return time === undefined ? "Time it between the two." : undefined;
  },
  "draw-down": ({ "draw-down": { area, fall, time, inflow } }) => {
    if (area === undefined || fall === undefined) {
      return "Type the area of the water and how far it fell.";
    }
    if (time === undefined) return "Time it between the two marks.";
    return inflow === undefined
      ? "Type what comes in with the pump off: 0 where nothing does."
      : undefined;
  },
};

/** What was read at the supply; nothing where neither a current nor a power was. */
function electricOf({ electric: { currents, ...electric } }: ReadingDraft) {
  const read = currents.filter((current) => current !== undefined);
  if (electric.power === undefined && read.length === 0) return undefined;
  return without({ ...electric, currents: read.length > 0 ? read : undefined });
}
