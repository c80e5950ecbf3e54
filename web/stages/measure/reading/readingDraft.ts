import { useRef, useState } from "react";
import * as z from "zod";
import {
  type FieldTestDocument,
  type ReadingDocument,
  readingSchema,
  readingVersions,
} from "#contract/documents/fieldTest.ts";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { everyItem, levelsOf } from "#core/line/path.ts";
import { USUAL_FILL } from "#core/measurement/instruments.ts";
import { type Reach, unfitOf } from "#core/measurement/reach.ts";
import type { pitOf } from "#model/demand/pit.ts";
import { lineKnown } from "#model/job/assumed.ts";
import { type JobSolution, lineOf } from "#model/job/solveJob.ts";
import { wellheadItem } from "#model/well/dropPipe.ts";
import { unfitWords } from "#words/instruments.ts";
import { newId } from "../../../api/client.ts";
import { outletItems, pumpItems } from "../../../openJob/jobStore.ts";
import type { ChannelNow } from "../../../streams/LivePanel.tsx";
import { USUAL_BUCKET } from "./usual.ts";

/** What is said of a visit as a whole. */
export type AboutVisit = Pick<
  FieldTestDocument,
  "by" | "note" | "cautions" | "limits" | "setups" | "unitId"
>;

/** A reading being taken: like a reading, but fills and gauge may still be missing. */
export type ReadingDraft = {
  /** of the reading it will be, made with the draft */
  id: string;
  /** when it was begun */
  takenAt: string;
  /** how the visit is kept apart from the other of the day */
  configuration: NonNullable<FieldTestDocument["configuration"]> | "";
  /** what is said of a visit that has no reading on file yet */
  about: AboutVisit;
  /** how the discharge valve stood */
  valve: "open" | "throttled" | "shut";
  method: "bucket" | "timed" | "meter" | "counter" | "draw-down";
  /** what ran in the set time */
  collected: number | undefined;
  setTime: number;
  volume: number;
  volumeTolerance: number;
  times: number[];
  timingTolerance: number;
  meterFlow: number | undefined;
  meterTolerance: number;
  /** the most the meter that was picked is made for */
  greatestFlow: number | undefined;
  counterStart: number | undefined;
  counterEnd: number | undefined;
  /** s the counter or the fall was watched for */
  watchedFor: number | undefined;
  area: number | undefined;
  areaTolerance: number;
  fall: number | undefined;
  fallTolerance: number;
  inflow: number | undefined;
  inflowTolerance: number;
  pressure: number | undefined;
  /** Pa; as large as its place asks for when absent */
  fullScale: number | undefined;
  accuracyClass: number;
  elevation: number | undefined;
  afterItemId: string;
  suctionKind: "gauge" | "water-level" | "unknown";
  level: number | undefined;
  levelTolerance: number;
  suctionPressure: number | undefined;
  suctionFullScale: number;
  suctionClass: number;
  suctionElevation: number | undefined;
  /** running over rated speed */
  speedRatio: number | undefined;
  speedTolerance: number;
  volts: number | undefined;
  /** A of each conductor */
  currents: (number | undefined)[];
  power: number | undefined;
  /** half-widths of what was picked to read them with, as parts */
  currentTolerance: number | undefined;
  powerTolerance: number | undefined;
  powerFactor: number | undefined;
  throwDistance: number | undefined;
  /** which of the set-ups the visit holds side by side */
  setup: string;
  /** instruments of the firm's, by what they read */
  instruments: Partial<Record<"flow" | "discharge" | "suction" | "electric" | "speed", string>>;
  /** which outlet, where there are several */
  outletId: string;
  /** items of the pumps that ran; all of them when empty */
  running: string[];
  note: string;
  /** ids of attachments */
  pictures: string[];
};

const draftSchema = z.looseObject({
  method: z.string(),
  times: z.array(z.number()),
  afterItemId: z.string(),
});

/** m: half-width of a level as it is usually read, in each system of units. */
const USUAL_LEVEL = { metric: 0.02, us: 0.0254 } as const;

export function emptyDraft(job: JobDocument, units: UnitSystem): ReadingDraft {
  const [volume, levelTolerance] = [USUAL_BUCKET[units], USUAL_LEVEL[units]];
  return {
    ...fresh(),
    configuration: "",
    about: {},
    valve: "open",
    method: "bucket",
    volume,
    ...USUAL_FILL,
    times: [],
    collected: undefined,
    setTime: 60,
    meterFlow: undefined,
    meterTolerance: 0.02,
    greatestFlow: undefined,
    counterStart: undefined,
    counterEnd: undefined,
    watchedFor: undefined,
    area: undefined,
    areaTolerance: 0.03,
    fall: undefined,
    fallTolerance: 0.005,
    inflow: undefined,
    inflowTolerance: 0.1,
    pressure: undefined,
    fullScale: undefined,
    accuracyClass: 0.016,
    elevation: undefined,
    afterItemId: wellheadItem(job) ?? pumpItems(job.path)[0]?.id ?? "",
    suctionKind: lineKnown(job) ? "water-level" : "unknown",
    level: undefined,
    levelTolerance,
    suctionPressure: undefined,
    suctionFullScale: 100_000,
    suctionClass: 0.016,
    suctionElevation: undefined,
    speedRatio: undefined,
    speedTolerance: 0.01,
    volts: undefined,
    currents: [],
    power: undefined,
    currentTolerance: undefined,
    powerTolerance: undefined,
    powerFactor: undefined,
    throwDistance: undefined,
    setup: "",
    instruments: {},
    outletId: outletItems(job.path)[0]?.id ?? "",
    running: [],
    note: "",
    pictures: [],
  };
}

const fresh = () => ({ id: newId(), takenAt: new Date().toISOString() });

/** After one was filed: another with the same instruments in the same places. */
export function nextDraft(draft: ReadingDraft): ReadingDraft {
  return {
    ...draft,
    ...fresh(),
    times: [],
    collected: undefined,
    pressure: undefined,
    meterFlow: undefined,
    // Where the last count ended the next begins.
    counterStart: draft.counterEnd ?? draft.counterStart,
    counterEnd: undefined,
    fall: undefined,
    suctionPressure: undefined,
    currents: [],
    power: undefined,
    throwDistance: undefined,
    note: "",
    pictures: [],
  };
}

/** Nothing of this visit is in it yet. */
function isUntouched(draft: ReadingDraft): boolean {
  const { times, collected, pressure, meterFlow, suctionPressure, counterEnd, fall } = draft;
  const typed = [collected, pressure, meterFlow, suctionPressure, counterEnd, fall, draft.power];
  return times.length === 0 && typed.every((x) => x === undefined);
}

/** Changes a draft by what it is given, or by what that makes of the draft as it stands then. */
export type ChangeDraft = (
  by: Partial<ReadingDraft> | ((before: ReadingDraft) => Partial<ReadingDraft>),
) => void;

/** The draft of a job, kept on this device until it is filed: a phone that sleeps loses nothing. */
export function useReadingDraft(jobId: string, job: JobDocument, units: UnitSystem) {
  const key = `upright-gusher-reading-${jobId}`;
  const [draft, setDraft] = useState<ReadingDraft>(() => restore(key, emptyDraft(job, units), job));
  const latest = useRef(draft);
  // Kept at once and not after the next drawing: a page closed in between would bring back a reading
  // that was filed already, or lose the last fill.
  const replace = (next: ReadingDraft) => {
    latest.current = next;
    keep(key, next);
    setDraft(next);
  };
  const change: ChangeDraft = (by) => {
    const patch = typeof by === "function" ? by(latest.current) : by;
    // A reading is of the time its first number was taken, not of when the page was opened.
    const begins = isUntouched(latest.current) ? { takenAt: new Date().toISOString() } : {};
    replace({ ...latest.current, ...begins, ...patch });
  };
  return {
    draft,
    change,
    addFill: (seconds: number) => change(({ times }) => ({ times: [...times, seconds] })),
    replace,
  };
}

function keep(key: string, draft: ReadingDraft): void {
  try {
    localStorage.setItem(key, JSON.stringify(draft));
  } catch {
    // Without a store the draft lives as long as the page.
  }
}

function restore(key: string, empty: ReadingDraft, job: JobDocument): ReadingDraft {
  try {
    const kept = draftSchema.safeParse(JSON.parse(localStorage.getItem(key) ?? "null"));
    if (!kept.success) return empty;
    const draft = { ...empty, ...kept.data } as ReadingDraft;
    const there = new Set(everyItem<JobPathItem>(job.path).map(({ id }) => id));
    const { afterItemId, outletId, running } = draft;
    return {
      ...draft,
      afterItemId: there.has(afterItemId) ? afterItemId : empty.afterItemId,
      outletId: there.has(outletId) ? outletId : empty.outletId,
      running: running.every((id) => there.has(id)) ? running : empty.running,
    };
  } catch {
    return empty;
  }
}

type KnownPit = ReturnType<typeof pitOf>;

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
  { afterItemId, running }: Pick<ReadingDraft, "afterItemId" | "running">,
): KnownHeights {
  const line = lineOf(solved);
  if (!lineKnown(job)) return { tap: undefined, pump: undefined, water: undefined };
  const ran = line.pumps.find(({ item }) => item.id === running[0]) ?? line.pumps[0];
  const pump = ran?.elevation ?? 0;
  // A hole or a reducer has no length of its own: what is passed by then says where it is.
  const after = line.segments[(line.passed.get(afterItemId) ?? 0) - 1];
  return { tap: after?.endElevation ?? pump, pump, water: levelsOf(job.source).normal };
}

/** The reading a draft stands for, or what it still lacks. */
export function readingOf(
  draft: ReadingDraft,
  {
    testId,
    pumpId,
    jobRevision,
    severalOutlets,
    setups,
    scale,
    reach,
    units,
    pit,
  }: {
    pit: KnownPit;
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
  },
  heights: KnownHeights,
): { kind: "ready"; reading: ReadingDocument } | { kind: "lacks"; what: string } {
  const lacks = (what: string) => ({ kind: "lacks", what }) as const;
  const gauged = draft.pressure !== undefined;
  const missing = draft.valve === "shut" ? (gauged ? undefined : LACKS_SHUT) : lackOf(draft, pit);
  if (missing) return lacks(missing);
  if (gauged && draft.suctionKind === "gauge" && draft.suctionPressure === undefined) {
    return lacks("Type the pressure off the suction gauge.");
  }
  if (gauged && draft.elevation === undefined && heights.tap === undefined) {
    return lacks("Type how high the gauge’s dial stands.");
  }
  if (gauged && !suctionHeightKnown(draft, heights)) {
    return lacks(
      draft.suctionKind === "gauge"
        ? "Type how high the suction gauge’s dial stands."
        : "Type the water level, or say that it is not known.",
    );
  }
  const instruments = [...new Set(Object.values(draft.instruments))];
  const parsed = readingSchema.safeParse({
    format: readingVersions.format,
    version: readingVersions.version,
    testId,
    ...(pumpId !== undefined && { pumpId }),
    ...(jobRevision > 0 && { jobRevision }),
    takenAt: draft.takenAt,
    ...(draft.valve === "throttled" && { throttled: true }),
    ...(draft.speedRatio !== undefined && {
      speedRatio: draft.speedRatio,
      speedTolerance: draft.speedTolerance,
    }),
    ...electricOf(draft),
    ...(draft.throwDistance !== undefined && { throwDistance: draft.throwDistance }),
    ...(instruments.length > 0 && { instruments }),
    ...(setups.some(({ id }) => id === draft.setup) && { setup: draft.setup }),
    ...(draft.note.trim() !== "" && { note: draft.note.trim() }),
    ...(draft.pictures.length > 0 && { attachments: draft.pictures }),
    ...(severalOutlets && { outletId: draft.outletId }),
    ...(draft.running.length > 0 && { running: draft.running }),
    flow: flowOf(draft, pit),
    ...(gauged && headOf(draft, heights, scale)),
  });
  if (!parsed.success) return lacks(parsed.error.issues[0]?.message ?? "Check the entries.");
  const reading = parsed.data as ReadingDocument;
  const unfit = unfitOf(reading, reach, draft.greatestFlow);
  return unfit ? lacks(unfitWords(unfit, units)) : { kind: "ready", reading };
}

const LACKS_SHUT = "Type what the gauge shows with the valve shut.";

/** The number a way of measuring the flow still lacks. */
function lackOf(draft: ReadingDraft, pit: KnownPit): string | undefined {
  switch (draft.method) {
    case "bucket":
      return draft.times.length === 0 ? "Time at least one fill of the bucket." : undefined;
    case "timed":
      return draft.collected === undefined
        ? "Measure what ran in that time, and type it."
        : undefined;
    case "meter":
      return draft.meterFlow === undefined ? "Type the flow off the meter." : undefined;
    case "counter":
      if (draft.counterStart === undefined || draft.counterEnd === undefined) {
        return "Type what the meter showed at the start and at the end.";
      }
      return draft.watchedFor === undefined ? "Time it between the two." : undefined;
    case "draw-down":
      if ((draft.area ?? pit.area) === undefined || draft.fall === undefined) {
        return "Type the area of the water and how far it fell.";
      }
      if (draft.watchedFor === undefined) return "Time it between the two marks.";
      return (draft.inflow ?? pit.inflow) === undefined
        ? "Type what comes in with the pump off: 0 where nothing does."
        : undefined;
  }
}

function electricOf({ volts, currents, power, powerFactor, ...draft }: ReadingDraft) {
  const { currentTolerance, powerTolerance } = draft;
  const read = currents.filter((current) => current !== undefined);
  if (power === undefined && read.length === 0) return {};
  return {
    electric: {
      ...(volts !== undefined && { volts }),
      ...(read.length > 0 && { currents: read }),
      ...(power !== undefined && { power }),
      ...(powerFactor !== undefined && { powerFactor }),
      ...(currentTolerance !== undefined && { currentTolerance }),
      ...(powerTolerance !== undefined && { powerTolerance }),
    },
  };
}

function flowOf(draft: ReadingDraft, pit: KnownPit) {
  const { volumeTolerance, timingTolerance } = draft;
  if (draft.valve === "shut") return { method: "shut" };
  switch (draft.method) {
    case "bucket": {
      const { volume, times } = draft;
      return { method: "bucket", volume, volumeTolerance, times, timingTolerance };
    }
    case "timed": {
      const { collected: volume, setTime: time } = draft;
      return { method: "timed", volume, volumeTolerance, time, timingTolerance };
    }
    case "meter":
      return { method: "meter", flow: draft.meterFlow, tolerance: draft.meterTolerance };
    case "counter":
      return {
        method: "counter",
        start: draft.counterStart,
        end: draft.counterEnd,
        time: draft.watchedFor,
        tolerance: draft.meterTolerance,
        timingTolerance,
      };
    case "draw-down": {
      const { area = pit.area, areaTolerance, fall, fallTolerance, watchedFor: time } = draft;
      const { inflow = pit.inflow, inflowTolerance } = draft;
      return {
        method: "draw-down",
        ...{ area, areaTolerance, fall, fallTolerance, time, timingTolerance },
        ...{ inflow, inflowTolerance },
      };
    }
  }
}

function suctionOf(draft: ReadingDraft, heights: KnownHeights) {
  switch (draft.suctionKind) {
    case "unknown":
      return {};
    case "gauge":
      return {
        suction: {
          kind: "gauge",
          pressure: draft.suctionPressure,
          fullScale: draft.suctionFullScale,
          accuracyClass: draft.suctionClass,
          elevation: draft.suctionElevation ?? heights.pump,
        },
      };
    case "water-level": {
      const { level = heights.water, levelTolerance: tolerance } = draft;
      return { suction: { kind: "water-level", level, tolerance } };
    }
  }
}

function suctionHeightKnown(draft: ReadingDraft, { pump, water }: KnownHeights): boolean {
  if (draft.suctionKind === "unknown") return true;
  return draft.suctionKind === "gauge"
    ? (draft.suctionElevation ?? pump) !== undefined
    : (draft.level ?? water) !== undefined;
}

/** What the pump's head is made of. */
function headOf(draft: ReadingDraft, heights: KnownHeights, scale: number) {
  return {
    discharge: {
      pressure: draft.pressure,
      fullScale: draft.fullScale ?? scale,
      accuracyClass: draft.accuracyClass,
      elevation: draft.elevation ?? heights.tap,
      afterItemId: draft.afterItemId,
    },
    ...suctionOf(draft, heights),
  };
}

/** A reading of instruments that stream, as it goes into the draft: what each channel showed while it stood still. */
export function takenLive(
  now: readonly ChannelNow[],
  { valve }: Pick<ReadingDraft, "valve">,
  ratedSpeed: number | undefined,
  /** Pa: the dial taken for a channel that does not say its own */
  scale: number,
): Partial<ReadingDraft> {
  const by: Partial<ReadingDraft> = {};
  for (const { channel, steady, value } of now) {
    const mean = steady.kind === "steady" ? steady.mean : { value, standardUncertainty: 0 };
    const { tolerance = USUAL_CHANNEL, fullScale } = channel;
    const size = Math.abs(mean.value);
    // The instrument's own half-width, and what the mean still trembles, as one of a size.
    const half = Math.hypot(
      tolerance * (fullScale ?? size),
      Math.sqrt(3) * mean.standardUncertainty,
    );
    switch (channel.reads) {
      case "flow":
        if (valve === "shut" || mean.value <= 0) break;
        by.method = "meter";
        by.meterFlow = mean.value;
        by.meterTolerance = Math.min(half / size, 0.5);
        break;
      case "discharge":
        by.pressure = mean.value;
        by.fullScale = fullScale ?? Math.max(size, scale);
        by.accuracyClass = Math.min(half / by.fullScale, 0.5);
        if (channel.afterItemId !== undefined) by.afterItemId = channel.afterItemId;
        if (channel.elevation !== undefined) by.elevation = channel.elevation;
        break;
      case "suction":
        by.suctionKind = "gauge";
        by.suctionPressure = mean.value;
        by.suctionFullScale = fullScale ?? Math.max(size, LEAST_SCALE);
        by.suctionClass = Math.min(half / by.suctionFullScale, 0.5);
        if (channel.elevation !== undefined) by.suctionElevation = channel.elevation;
        break;
      case "level":
        by.suctionKind = "water-level";
        by.level = mean.value;
        by.levelTolerance = Math.max(half, 0.001);
        break;
      case "current":
        by.currents = [mean.value];
        if (size > 0) by.currentTolerance = Math.min(half / size, 0.5);
        break;
      case "power":
        if (mean.value > 0) {
          by.power = mean.value;
          by.powerTolerance = Math.min(half / size, 0.5);
        }
        break;
      case "speed":
        if (ratedSpeed && mean.value > 0.1 * ratedSpeed) {
          by.speedRatio = mean.value / ratedSpeed;
          by.speedTolerance = Math.min(half / size, 0.5);
        }
        break;
    }
  }
  return by;
}

/** Half-width of a channel that says nothing of itself, as a part. Common practice, no source. */
const USUAL_CHANNEL = 0.02;
/** Pa */
const LEAST_SCALE = 1e4;
