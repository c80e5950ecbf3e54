import type { PumpDocument } from "#contract/documents/pump.ts";
import { feeds } from "#core/check/placing.ts";
import { findConductor } from "#core/driving/conductor.ts";
import { derating, type EngineAtWork, engineAtWork, FUEL_PER_JOULE } from "#core/driving/engine.ts";
import { type MotorAtWork, motorAtWork } from "#core/driving/motor.ts";
import { fitOf, type SpeedSheet, speedRange, speedSheet } from "#core/driving/variableSpeed.ts";
import { type FindingIn, findingsIn } from "#core/finding/registry.ts";
import { type PumpState, staticHead } from "#core/hydraulics/boundary.ts";
import { type LineModel, lineModel, type Refused, stateOf } from "#core/hydraulics/solveLine.ts";
import { quickDuty, systemCurve } from "#core/hydraulics/systemCurve.ts";
import type { Supply } from "#core/line/path.ts";
import { pumpCurve, shaftPower } from "#core/pump/curve.ts";
import { ZERO_CELSIUS } from "#core/quantity/constants.ts";
import { pumpSets } from "../job/pumpSets.ts";
import type { JobToChooseFor } from "./choose.ts";

/** What drives a pump on its line, and what that comes to. */
export interface Driving {
  pump: PumpDocument;
  /** m³/s at the outlets and W, as it runs now; absent where it does not settle */
  flow?: number;
  power?: number;
  /** where its speed can be chosen */
  speeds?: SpeedSheet;
  speedRatio: number;
  /** J for a m³ as it runs now; absent where its power is not known, or is less than the lift alone takes */
  perVolume?: number;
  motor?: MotorAtWork;
  engine?: EngineAtWork & { rated: number; part: number };
  /** an engine is there, and its plate does not say how strong */
  engineUnknown: boolean;
  findings: DrivingFinding[];
  /** engine pumps of the library on this line: the best of each kind */
  rivals: Rival[];
  /** of several pumps, what any of them moves while the others stand, and all together */
  running: Running[];
}

export type DrivingFinding = FindingIn<"motor" | "engine">;

export interface Rival {
  kind: PumpDocument["kind"];
  id: string;
  flow: number;
  head: number;
  /** m³/s of fuel */
  fuel?: number;
}

export interface Running {
  itemIds: string[];
  flow: number;
  power?: number;
}

/** °C of the air where nobody says. Common practice, no source. */
export const USUAL_AIR = 25;

/** Everything about how a pump of a job is driven; nothing while its place has none, or the line cannot be solved. */
export function drivingOf(
  job: JobToChooseFor,
  itemId: string,
  library: readonly PumpDocument[] = [],
  ready: LineModel | Refused = lineModel(job, job.pumps),
): Driving | undefined {
  if (ready.kind === "refused") return undefined;
  const at = ready.pumps.findIndex((on) => on.itemId === itemId);
  const pump = job.pumps.find(({ id }) => id === ready.pumps[at]?.pump.id);
  if (at < 0 || !pump) return undefined;
  const driven = drivenOf(job, ready, at, pump);
  const { state, own, power, speedRatio, motor, engine } = driven;
  const { density } = ready.water;
  const { specificGravity } = job.site;
  const range = speedRange(pump);
  const most = (pump.points.at(-1)?.flow ?? 0) * Math.max(range.most, speedRatio, 1) * 1.05;
  const system = range.least < range.most ? systemCurve(ready, at, most) : undefined;
  const speeds =
    system &&
    speedSheet(pump, system, job.wantedFlow, staticHead(ready.boundaries.normal), {
      density,
      specificGravity,
    });
  const perVolume = state && own > 0 && power !== undefined ? power / state.delivered : undefined;
  return {
    pump,
    ...(state && own > 0 && { flow: state.delivered }),
    ...(power !== undefined && { power }),
    ...(speeds && { speeds }),
    ...(perVolume !== undefined && perVolume >= (speeds?.floor ?? 0) && { perVolume }),
    speedRatio,
    ...(motor && { motor }),
    ...(engine && { engine }),
    engineUnknown: pump.drive === "engine" && !engine,
    rivals: pump.drive === "engine" ? rivalsOf(ready, at, library, specificGravity) : [],
    running: ready.pumps.length > 1 ? runningOf(ready, specificGravity) : [],
    findings: drivingFindings(driven),
  };
}

/** What is to be said of what drives each pump of a line that is ready. */
export function findingsOfDriving(
  job: JobToChooseFor,
  ready: LineModel | Refused,
): { itemId: string; findings: DrivingFinding[] }[] {
  if (ready.kind === "refused") return [];
  return ready.pumps.flatMap(({ itemId, pump: { id } }, at) => {
    const pump = job.pumps.find((each) => each.id === id);
    if (!pump) return [];
    return [{ itemId, findings: drivingFindings(drivenOf(job, ready, at, pump)) }];
  });
}

const drivingFindings = ({ motor, engine }: ReturnType<typeof drivenOf>): DrivingFinding[] => [
  ...(motor ? findingsIn("motor", motor) : []),
  ...(engine ? findingsIn("engine", engine) : []),
];

/** One pump of the line at normal water: what it moves and takes, and how its motor or engine stands. */
function drivenOf(job: JobToChooseFor, ready: LineModel, at: number, pump: PumpDocument) {
  const speedRatio = ready.line.pumps[at]?.item.speedRatio ?? 1;
  const state = stateOf(ready.model.solve(ready.boundaries.normal, ready.states));
  const own = state?.byPump[at] ?? 0;
  const power = powerAt(ready, at, own, job.site.specificGravity) ?? sweptAt(pump, speedRatio, own);
  const motor =
    pump.drive === "electric" && power !== undefined
      ? motorAtWork(pump, { flow: own, power, speedRatio }, feedingOf(job, pump))
      : undefined;
  const rated = pump.drive === "engine" ? pump.engine?.power : undefined;
  const engine = rated === undefined ? undefined : engineOf(job, pump, rated, ready, at);
  return { state, own, power, speedRatio, motor, engine };
}

function powerAt(ready: LineModel, at: number, flow: number, specificGravity: number) {
  const curve = ready.pumps[at]?.curve;
  const shaft = curve && flow > 0 ? shaftPower(curve, flow) : undefined;
  return shaft && shaft * specificGravity;
}

/** What a sweep of the drive read, where the pump publishes no power. */
function sweptAt(pump: PumpDocument, speedRatio: number, flow: number) {
  const fit = flow > 0 ? fitOf(pump) : undefined;
  return fit && fit.idle + fit.scale * speedRatio ** fit.exponent;
}

/** The supply that feeds a pump, with what lies between. */
function feedingOf({ site }: JobToChooseFor, pump: PumpDocument) {
  const supplies = site.supplies ?? [];
  const supply =
    supplies.find((each) => feeds(each as Supply, pump)) ??
    supplies.find((each) => feeds(each as Supply, pump) === undefined);
  const conductor = site.cable && findConductor(site.cable.conductor);
  return {
    volts: supply?.volts,
    breaker: supply?.breaker,
    generator: supply?.generator ? supply.power : undefined,
    cable: site.cable && conductor ? { length: site.cable.length, conductor } : undefined,
  };
}

function engineOf(
  { site }: JobToChooseFor,
  pump: PumpDocument,
  rated: number,
  ready: LineModel,
  at: number,
) {
  const part = derating(site.altitude, site.airTemperature ?? ZERO_CELSIUS + USUAL_AIR);
  const governed = ready.line.pumps[at]?.item.speedRatio ?? 1;
  const shaft = (speed: number) => {
    const curve = pumpCurve(pump, governed * speed);
    const states = ready.states.map(
      (state, i): PumpState => (i === at ? { kind: "running", curve } : state),
    );
    const flow = stateOf(ready.model.solve(ready.boundaries.normal, states))?.byPump[at] ?? 0;
    return (shaftPower(curve, flow) ?? 0) * site.specificGravity;
  };
  return { ...engineAtWork(rated * governed, part, shaft, pump.engine?.tank), rated, part };
}

/** The engine pump of each kind that moves most here, on its curve. */
function rivalsOf(
  ready: LineModel,
  at: number,
  library: readonly PumpDocument[],
  specificGravity: number,
): Rival[] {
  const engines = library.filter(({ drive }) => drive === "engine");
  const most = engines.reduce((flow, { points }) => Math.max(flow, points.at(-1)?.flow ?? 0), 0);
  const system = most > 0 ? systemCurve(ready, at, most) : undefined;
  if (!system) return [];
  const port = ready.pumps[at]?.pump.suctionPort;
  const best = new Map<PumpDocument["kind"], Rival>();
  for (const pump of engines) {
    // On the same ports: a larger pump is no answer to which kind.
    if (port !== undefined && pump.suctionPort !== port) continue;
    const curve = pumpCurve(pump);
    const duty = quickDuty(system, curve);
    if (duty.kind !== "runs") continue;
    const held = best.get(pump.kind);
    if (held && held.flow >= duty.delivered) continue;
    const power = shaftPower(curve, duty.flow);
    const fuel = power && FUEL_PER_JOULE * power * specificGravity;
    best.set(pump.kind, {
      ...{ kind: pump.kind, id: pump.id, flow: duty.delivered, head: duty.head },
      ...(fuel !== undefined && { fuel }),
    });
  }
  return [...best.values()].toSorted((a, b) => b.flow - a.flow);
}

/** What the line moves with each set of its pumps. */
function runningOf(ready: LineModel, specificGravity: number): Running[] {
  return pumpSets([...ready.pumps.keys()]).map((on) => {
    const states = ready.states.map(
      (state, i): PumpState => (on.includes(i) ? state : { kind: "stopped" }),
    );
    const state = stateOf(ready.model.solve(ready.boundaries.normal, states));
    const powers = on.map((i) => powerAt(ready, i, state?.byPump[i] ?? 0, specificGravity));
    const known = powers.every((power) => power !== undefined);
    return {
      itemIds: on.map((i) => ready.pumps[i]?.itemId as string),
      flow: state?.delivered ?? 0,
      ...(known && { power: powers.reduce<number>((sum, power) => sum + (power ?? 0), 0) }),
    };
  });
}
