import type { BodyOfWater, JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { findFitting } from "#core/catalogue/fittings.ts";
import { FLOATS_IN } from "#core/check/intake.ts";
import { type Condition, conditioned } from "#core/condition/condition.ts";
import { type LineModel, lineModel, type Refused } from "#core/hydraulics/solveLine.ts";
import { everyItem, levelsOf } from "#core/line/path.ts";
import { receivingWater } from "#core/outlet/outlets.ts";
import type { Trouble } from "#core/simulation/answers.ts";
import { fallingBack } from "#core/simulation/drainBack.ts";
import type {
  Control,
  Dynamics,
  Guard,
  SimulatedStore,
  Timeline,
} from "#core/simulation/dynamics.ts";
import { type LineTable, lineTable } from "#core/simulation/lineTable.ts";
import { simulate } from "#core/simulation/simulate.ts";
import { bottomOf, storeOf } from "../demand/bodies.ts";
import { flowOfDemand, runoffArea } from "../demand/demand.ts";
import type { SolvableJob } from "../job/solveJob.ts";
import { batteryOf, onBattery } from "./battery.ts";
import { inflowOf, type Piece, stormPieces, tablePieces } from "./storm.ts";
import { troublesOf } from "./troubles.ts";

/** What of a job its run over time depends on. */
export type SimulatedJob = SolvableJob & Pick<JobDocument, "need" | "bodies">;

/** A job over time, or why it cannot be told. */
export type OverTime =
  /** the water's shape is not known, so nothing moves in it */
  | { kind: "still" }
  /** the line cannot be solved as it stands */
  | { kind: "no-line" }
  | { kind: "wrong"; troubles: Trouble[] }
  | SimulationRun;

export interface SimulationRun {
  kind: "run";
  setting: Setting;
  timeline: Timeline;
}

/** Everything a run is made of, so that it can be asked again in another way. */
export interface Setting {
  bodies: readonly BodyOfWater[];
  stores: readonly SimulatedStore[];
  /** places of the path where pumps stand, in the order of the line */
  pumps: readonly string[];
  /** number of the body that is the source, and of the one the first outlet puts into */
  source: number | undefined;
  receiver: number | undefined;
  /** nothing switches the pumps: somebody starts them, and stops them when the water is gone */
  byHand: boolean;
  /** the pump is still to be chosen, and moves what is wanted */
  asked: boolean;
  dynamics: Dynamics;
  table: LineTable;
  startLevels: readonly number[];
  /** m³/s into every body at a time in s */
  inflowAt: (time: number) => Float64Array;
  breaks: readonly number[];
  /** s */
  span: number;
  ready: LineModel;
}

/** A job's inputs as one draw of their doubt has them. */
export interface Draw {
  condition?: Condition;
  /** times the water that comes in */
  inflow?: number;
}

/** m that carpet and pad lift a pump, unless they are cut. Common practice, no source: 3/4 to 1 in. */
const CARPET = 0.022;
const HOUR = 3600;
/** s: no run is followed for longer, whatever it waits for */
const LONGEST = 60 * 24 * HOUR;

/** A job from its start for as long as it says, or until what is done by hand is done. */
export function overTime(job: SimulatedJob, ready: LineModel | Refused = readyOf(job)): OverTime {
  const found = settingOf(job, ready);
  return found.kind === "setting" ? runOf(found.setting) : found;
}

export function runOf(setting: Setting): SimulationRun {
  return { kind: "run", setting, timeline: simulateSetting(setting) };
}

export function simulateSetting(setting: Setting): Timeline {
  const { dynamics, startLevels, breaks, byHand, source, receiver, span } = setting;
  const watched = source ?? receiver;
  const start = {
    levels: startLevels,
    called: dynamics.controls.map(() => byHand),
  };
  return simulate(dynamics, start, span, {
    // No float is passed there and back within this while storms bend at their own times.
    longestStep: Math.max(Math.min(span / 500, byHand ? drawnDownIn(setting) / 60 : span), 1),
    breaks,
    mostEvents: MOST_EVENTS,
    ...(byHand && {
      enough: ({ kind, index }) =>
        kind === "pump-off" || ((kind === "empty" || kind === "full") && index === watched),
    }),
  });
}

/** s in which the water that is there would be drawn at the flow it begins with, where nothing more came in. */
function drawnDownIn({ stores, source, receiver, startLevels, table, pumps, span }: Setting) {
  const own = source ?? receiver;
  const store = own === undefined ? undefined : stores[own];
  if (!store || own === undefined) return span;
  const level = startLevels[own] as number;
  const volume =
    source === undefined
      ? store.volumeAt(store.rim) - store.volumeAt(level)
      : store.volumeAt(level) - store.volumeAt(store.dry ?? store.bottom);
  const drawn = table.drawn(
    startLevels,
    pumps.map(() => true),
  );
  return drawn > 0 && volume > 0 ? volume / drawn : span;
}

const MOST_EVENTS = 20_000;

/** The job's line, ready to be asked. */
const readyOf = (job: SimulatedJob) => lineModel(job, job.pumps, job.wantedFlow);

/**
 * A job made ready to run, its line as one draw has it.
 * @param ready the job's line
 */
export function settingOf(
  job: SimulatedJob,
  ready: LineModel | Refused = readyOf(job),
  draw: Draw = {},
): Exclude<OverTime, SimulationRun> | { kind: "setting"; setting: Setting } {
  const { bodies = [], overTime: time = {}, source } = job;
  const sourceBody = "body" in source ? indexOf(bodies, source.body) : undefined;
  if (bodies.length === 0) return { kind: "still" };
  const troubles = troublesOf(job);
  if (troubles.some(({ stops }) => stops)) return { kind: "wrong", troubles };
  if (ready.kind === "refused") return { kind: "no-line" };

  const receivers = ready.line.outlets.map(({ item: { outlet } }) =>
    "body" in outlet ? indexOf(bodies, outlet.body as string | undefined) : undefined,
  );
  const [receiver] = receivers.filter((index) => index !== undefined);
  if (sourceBody === undefined && receiver === undefined) return { kind: "still" };
  const filmOfPumps = Math.max(0, ...job.pumps.map(({ film = 0 }) => film));
  const alarms = new Map(
    (time.controls ?? []).flatMap((own) => (own.kind === "alarm" ? [[own.body, own.at]] : [])),
  );
  const stores = bodies.map((body, i): SimulatedStore => {
    const store = storeOf(body, bottomOf(body, job));
    const film = body.film ?? filmOfPumps;
    return {
      ...store,
      overflowTo: indexOf(bodies, body.overflowTo),
      alarm: alarms.get(body.id),
      // Water under the intake is out of reach, and the last of it stays as a film.
      dry:
        i === sourceBody
          ? Math.max(store.bottom + film + (body.carpet ? CARPET : 0), intakeOf(job, store.bottom))
          : undefined,
    };
  });
  const startLevels = bodies.map((body, i) => {
    const store = stores[i] as SimulatedStore;
    const level = body.levels?.normal ?? (i === sourceBody ? levelsOf(source).normal : undefined);
    const own = ready.line.outlets[receivers.indexOf(i)]?.item.outlet;
    const there = level ?? (own && receivingWater(own)?.normal) ?? store.bottom;
    return Math.min(Math.max(there, store.bottom), store.rim);
  });

  const { model, states, boundaryAt } = draw.condition
    ? conditioned(ready, draw.condition)
    : {
        model: ready.model,
        states: ready.states,
        boundaryAt: (at: "normal") => ready.boundaries[at],
      };
  const levelsThen = bodies.map((_, i) => {
    const own = ready.line.outlets[receivers.indexOf(i)]?.item.outlet;
    if (i === sourceBody) return levelsOf(source).normal;
    return (own && receivingWater(own)?.normal) ?? (startLevels[i] as number);
  });
  const table = lineTable({
    ...{ model, states, boundary: boundaryAt("normal"), stores, receivers, levelsThen },
    source: sourceBody,
    specificGravity: job.site.specificGravity,
  });
  const pumps = ready.line.pumps.map(({ item }) => item.id);
  const { controls, guards, byHand } = controlsOf(job, pumps, sourceBody, receiver, stores);
  const pieces = piecesOf(job, draw.inflow ?? 1);
  const steady = bodies.map((body, i) => steadyInto(job, body, i === sourceBody, draw.inflow ?? 1));
  const drawn = bodies.map((body) => body.drawn ?? 0);
  const storm = inflowOf(pieces);
  const stormInto = sourceBody ?? 0;
  const fed = onBattery(job);
  const { powerCut } = time;
  const battery = batteryOf(time.battery);
  const dynamics: Dynamics = {
    stores,
    pumps: pumps.map((id) => ({ supply: fed.has(id) ? "battery" : "mains" })),
    controls,
    guards,
    inflow: (at, into) => {
      for (let i = 0; i < steady.length; i++) into[i] = steady[i] as number;
      into[stormInto] = (into[stormInto] as number) + storm(at);
    },
    line: (levels, running, flows) => {
      table.line(levels, running, flows);
      const { taken } = flows;
      for (let i = 0; i < drawn.length; i++) taken[i] = (taken[i] as number) + (drawn[i] as number);
    },
    ...(sourceBody !== undefined && {
      fallBack: { store: sourceBody, at: (level) => fallingBack(ready, level) },
    }),
    ...(powerCut && { powerCut }),
    ...(battery && { battery }),
  };
  return {
    kind: "setting",
    setting: {
      ...{ bodies, stores, pumps, source: sourceBody, receiver, byHand, dynamics, table },
      ...{ startLevels, ready, asked: ready.asked !== undefined },
      inflowAt: (at) => {
        const into = new Float64Array(stores.length);
        dynamics.inflow(at, into);
        return into;
      },
      breaks: pieces.map(({ from }) => from),
      span: time.span ?? usualSpan(pieces, powerCut, byHand),
    },
  };
}

/** As long as its storm and its power cut take, with time for what follows; else half a day. */
function usualSpan(
  pieces: readonly Piece[],
  powerCut: { to: number } | undefined,
  byHand: boolean,
): number {
  const last = Math.max(pieces.at(-1)?.from ?? 0, powerCut?.to ?? 0);
  if (last > 0) return Math.ceil((last * 1.25) / HOUR) * HOUR;
  return byHand ? LONGEST : 12 * HOUR;
}

/** m above datum under which nothing is drawn: a floating intake goes down with the water, any other hangs where it is. */
function intakeOf({ source, path }: SimulatedJob, bottom: number): number {
  const floats = everyItem<JobPathItem>(path).some(
    (item) => item.kind === "fitting" && findFitting(item.fitting)?.floats,
  );
  return floats ? bottom + FLOATS_IN : source.intake;
}

/**
 * m³/s into a body that does not change: as typed, or for the source what was found to come in. A storm on the catches
 * of the need stands in its place.
 */
function steadyInto(
  job: SimulatedJob,
  body: BodyOfWater,
  isSource: boolean,
  factor: number,
): number {
  if (body.inflow !== undefined) return body.inflow * factor;
  const need = flowOfDemand(job.need);
  if (!isSource || !need?.comesIn) return 0;
  if (job.need?.kind === "rain" && piecesOf(job, 1).length > 0) return 0;
  return need.flow * factor;
}

function piecesOf({ overTime: time = {}, need }: SimulatedJob, factor: number): Piece[] {
  const { storm, hyetograph } = time;
  const rain = need?.kind === "rain" ? need : undefined;
  const area = runoffArea(storm?.catches ?? rain?.catches ?? []) * factor;
  if (storm && area > 0) return stormPieces(storm, area, rain?.hardestHour);
  return tablePieces(hyetograph ?? []).map((piece) => ({
    ...piece,
    inflow: piece.inflow * factor,
  }));
}

function controlsOf(
  { bodies = [], overTime: time = {} }: SimulatedJob,
  pumps: readonly string[],
  source: number | undefined,
  receiver: number | undefined,
  stores: readonly SimulatedStore[],
): { controls: Control[]; guards: Guard[]; byHand: boolean } {
  const controls: Control[] = [];
  const guards: Guard[] = [];
  const all = pumps.map((_, i) => i);
  for (const own of time.controls ?? []) {
    if (own.kind !== "float") continue;
    const store = indexOf(bodies, own.body);
    if (store === undefined) continue;
    const named = own.pumps?.map((id) => pumps.indexOf(id)).filter((i) => i >= 0);
    const moved = named && named.length > 0 ? named : all;
    if (own.role === "guard") {
      guards.push({ store, stop: own.off, release: own.on, pumps: moved });
    } else {
      const { on, off, alternate } = own;
      controls.push({ store, on, off, pumps: moved, alternate });
    }
  }
  if (controls.length > 0) return { controls, guards, byHand: false };
  // Started by hand: each pump until the water is gone, or the other body is full.
  const store = source ?? receiver;
  const own = store === undefined ? undefined : stores[store];
  if (!own || store === undefined) return { controls, guards, byHand: true };
  const [on, off] =
    source !== undefined ? [own.rim + 1, own.dry ?? own.bottom] : [own.bottom - 1, own.rim];
  return {
    controls: all.map((pump) => ({ store, on, off, pumps: [pump] })),
    guards,
    byHand: true,
  };
}

function indexOf(bodies: readonly BodyOfWater[], id: string | undefined): number | undefined {
  const found = bodies.findIndex((body) => body.id === id);
  return id === undefined || found < 0 ? undefined : found;
}
