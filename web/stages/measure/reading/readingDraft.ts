import type { FieldTestDocument, ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { USUAL_FILL } from "#core/measurement/instruments.ts";
import { lineKnown } from "#model/job/assumed.ts";
import { wellheadItem } from "#model/well/dropPipe.ts";
import { newId } from "../../../api/client.ts";
import { outletItems, pumpItems } from "../../../openJob/jobStore.ts";
import { USUAL_BUCKET } from "./usual.ts";

/** What is said of a visit as a whole. */
export type AboutVisit = Pick<
  FieldTestDocument,
  "by" | "note" | "cautions" | "limits" | "setups" | "unitId"
>;

/** A record as it will be, of which some numbers may still be missing. */
type Unfinished<T, Missing extends keyof T> = {
  [K in keyof T]-?: K extends Missing ? T[K] | undefined : NonNullable<T[K]>;
};

type Flow = ReadingDocument["flow"];
/** A way to measure a flow. */
export type Method = Exclude<Flow["method"], "shut">;
type OfMethod<M extends Method> = Omit<Extract<Flow, { method: M }>, "method">;
type Suction = NonNullable<ReadingDocument["suction"]>;
type OfSuction<K extends Suction["kind"]> = Omit<Extract<Suction, { kind: K }>, "kind">;
type Gauge = NonNullable<ReadingDocument["discharge"]>;
type Electric = NonNullable<ReadingDocument["electric"]>;

/** What each way of measuring a flow takes, as the reading will hold it. */
export interface Flows {
  bucket: Unfinished<OfMethod<"bucket">, never>;
  timed: Unfinished<OfMethod<"timed">, "volume">;
  meter: Unfinished<OfMethod<"meter">, "flow">;
  counter: Unfinished<OfMethod<"counter">, "start" | "end" | "time">;
  "draw-down": Unfinished<OfMethod<"draw-down">, "area" | "fall" | "time" | "inflow">;
}

export interface Suctions {
  gauge: Unfinished<OfSuction<"gauge">, "pressure" | "elevation">;
  "water-level": Unfinished<OfSuction<"water-level">, "level">;
}

/**
 * A reading being taken, shaped as the document it becomes: what is not known yet is undefined. Of the ways to measure
 * a flow, and to know the suction side, one is in hand; what was typed of the others waits for them.
 */
export interface ReadingDraft {
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
  method: Method;
  flows: Flows;
  /** the most the meter that was picked is made for */
  greatestFlow: number | undefined;
  /** its dial is as large as its place asks for, and stands where the pipe is, until it is said */
  discharge: Unfinished<Gauge, "pressure" | "fullScale" | "elevation">;
  suctionKind: Suction["kind"] | "unknown";
  suctions: Suctions;
  electric: Omit<Unfinished<Electric, keyof Electric>, "currents"> & {
    currents: (number | undefined)[];
  };
  /** running over rated speed */
  speedRatio: number | undefined;
  speedTolerance: number;
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
  attachments: string[];
}

/** m: half-width of a level as it is usually read, in each system of units. */
const USUAL_LEVEL = { metric: 0.02, us: 0.0254 } as const;

/** The draft of a job that nothing was measured of yet, with what is usual and what the job says. */
export function emptyDraft(job: JobDocument, units: UnitSystem): ReadingDraft {
  const { volumeTolerance, timingTolerance } = USUAL_FILL;
  return {
    ...begun(),
    configuration: "",
    about: {},
    valve: "open",
    method: "bucket",
    flows: {
      bucket: { volume: USUAL_BUCKET[units], volumeTolerance, times: [], timingTolerance },
      timed: { volume: undefined, volumeTolerance, time: 60, timingTolerance },
      meter: { flow: undefined, tolerance: 0.02 },
      counter: {
        ...{ start: undefined, end: undefined, time: undefined },
        ...{ tolerance: 0.02, timingTolerance },
      },
      "draw-down": {
        ...{ area: undefined, areaTolerance: 0.03, fall: undefined, fallTolerance: 0.005 },
        ...{ time: undefined, timingTolerance, inflow: undefined, inflowTolerance: 0.1 },
      },
    },
    greatestFlow: undefined,
    discharge: {
      ...{ pressure: undefined, fullScale: undefined, accuracyClass: 0.016, elevation: undefined },
      afterItemId: wellheadItem(job) ?? pumpItems(job.path)[0]?.id ?? "",
    },
    suctionKind: lineKnown(job) ? "water-level" : "unknown",
    suctions: {
      "water-level": { level: undefined, tolerance: USUAL_LEVEL[units] },
      gauge: {
        ...{ pressure: undefined, fullScale: 100_000, accuracyClass: 0.016, elevation: undefined },
      },
    },
    electric: {
      ...{ volts: undefined, currents: [], power: undefined, powerFactor: undefined },
      ...{ voltsTolerance: undefined, currentTolerance: undefined, powerTolerance: undefined },
    },
    speedRatio: undefined,
    speedTolerance: 0.01,
    throwDistance: undefined,
    setup: "",
    instruments: {},
    outletId: outletItems(job.path)[0]?.id ?? "",
    running: [],
    note: "",
    attachments: [],
  };
}

const begun = () => ({ id: newId(), takenAt: new Date().toISOString() });

/** After one was filed: another with the same instruments in the same places. */
export function nextDraft(draft: ReadingDraft): ReadingDraft {
  const { flows, discharge, suctions, electric } = draft;
  const { counter } = flows;
  return {
    ...draft,
    ...begun(),
    flows: {
      bucket: { ...flows.bucket, times: [] },
      timed: { ...flows.timed, volume: undefined },
      meter: { ...flows.meter, flow: undefined },
      // Where the last count ended the next begins.
      counter: { ...counter, start: counter.end ?? counter.start, end: undefined },
      "draw-down": { ...flows["draw-down"], fall: undefined },
    },
    discharge: { ...discharge, pressure: undefined },
    suctions: { ...suctions, gauge: { ...suctions.gauge, pressure: undefined } },
    electric: { ...electric, currents: [], power: undefined },
    throwDistance: undefined,
    note: "",
    attachments: [],
  };
}

/** Nothing of this visit is in it yet. */
export function isUntouched({ flows, discharge, suctions, electric }: ReadingDraft): boolean {
  const typed = [
    ...[flows.timed.volume, flows.meter.flow, flows.counter.end, flows["draw-down"].fall],
    ...[discharge.pressure, suctions.gauge.pressure, electric.power],
  ];
  return flows.bucket.times.length === 0 && typed.every((x) => x === undefined);
}

/** What a draft is changed by: new values, or what makes them of the draft as it stands then. */
export type Change = Partial<ReadingDraft> | ((before: ReadingDraft) => Partial<ReadingDraft>);

/** Changes what one way of measuring the flow takes, and none of the others. */
export const flowBy =
  <M extends Method>(method: M, by: Partial<Flows[M]>) =>
  ({ flows }: Pick<ReadingDraft, "flows">): Pick<ReadingDraft, "flows"> => ({
    flows: { ...flows, [method]: { ...flows[method], ...by } },
  });

export const dischargeBy =
  (by: Partial<ReadingDraft["discharge"]>) =>
  ({ discharge }: Pick<ReadingDraft, "discharge">): Pick<ReadingDraft, "discharge"> => ({
    discharge: { ...discharge, ...by },
  });

export const suctionBy =
  <K extends keyof Suctions>(kind: K, by: Partial<Suctions[K]>) =>
  ({ suctions }: Pick<ReadingDraft, "suctions">): Pick<ReadingDraft, "suctions"> => ({
    suctions: { ...suctions, [kind]: { ...suctions[kind], ...by } },
  });

export const electricBy =
  (by: Partial<ReadingDraft["electric"]>) =>
  ({ electric }: Pick<ReadingDraft, "electric">): Pick<ReadingDraft, "electric"> => ({
    electric: { ...electric, ...by },
  });
