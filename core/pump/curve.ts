import {
  evaluate,
  type MonotoneCubic,
  monotoneCubic,
  scaled,
  slopeAt,
} from "../numeric/monotoneCubic.ts";
import type { Pump } from "./pump.ts";

/**
 * A pump's curve at one speed. Between the published points it is a monotone cubic; outside them
 * there is nothing: `headAt` says "below" or "beyond" instead of inventing a value.
 */
export interface PumpCurve {
  firstFlow: number;
  lastFlow: number;
  head: MonotoneCubic;
  /** the published point of most head: at no flow unless the curve droops */
  peak: { flow: number; head: number };
  power?: MonotoneCubic;
  npshRequired?: MonotoneCubic;
}

export type OnCurve =
  | { kind: "on"; value: number }
  | { kind: "below"; firstFlow: number }
  | { kind: "beyond"; lastFlow: number }
  | { kind: "not-published" };

/** How a pump differs from its plate: worn, slowed, or doubted. 1 where absent. */
export interface PumpCondition {
  /** on every head and every flow of the curve */
  headFactor?: number;
  flowFactor?: number;
  /** running speed over rated speed, in place of the job's own */
  speedRatio?: number;
  stopped?: boolean;
}

/**
 * Curve of a pump at `speedRatio` = running speed / rated speed.
 *
 * Affinity: Q ∝ n, H ∝ n², P ∝ n³, NPSHr taken ∝ n². Good within about 0.7–1.3 of rated speed, where
 * efficiency holds nearly still (common practice, no source); taken from 0.1 to 1.3.
 */
export function pumpCurve(
  pump: Pump,
  speedRatio = 1,
  { headFactor = 1, flowFactor = 1 }: PumpCondition = {},
): PumpCurve {
  const n = speedRatio;
  const { firstFlow, lastFlow, head, peak, power, npshRequired } = publishedCurve(pump);
  const [flow, rise] = [n * flowFactor, n * n * headFactor];
  return {
    firstFlow: firstFlow * flow,
    lastFlow: lastFlow * flow,
    head: scaled(head, flow, rise),
    peak: { flow: peak.flow * flow, head: peak.head * rise },
    ...(power && { power: scaled(power, flow, n ** 3) }),
    ...(npshRequired && { npshRequired: scaled(npshRequired, flow, n * n) }),
  };
}

/** Curves as published, fitted once a pump: a draw of a thousand scales them, and what is scaled keeps its shape. */
const published = new WeakMap<Pump, PumpCurve>();

function publishedCurve(pump: Pump): PumpCurve {
  const known = published.get(pump);
  if (known) return known;
  const column = (key: "head" | "power" | "npshRequired") => {
    const rows = pump.points.filter((p) => p[key] !== undefined);
    if (rows.length < 2) return undefined;
    return monotoneCubic(
      rows.map((p) => p.flow),
      rows.map((p) => p[key] as number),
    );
  };
  const head = column("head") as MonotoneCubic;
  let top = 0;
  for (let i = 1; i < head.y.length; i++) {
    if ((head.y[i] as number) > (head.y[top] as number)) top = i;
  }
  const curve: PumpCurve = {
    firstFlow: head.x[0] as number,
    lastFlow: head.x.at(-1) as number,
    head,
    peak: { flow: head.x[top] as number, head: head.y[top] as number },
  };
  const power = column("power");
  const npshRequired = column("npshRequired");
  if (power) curve.power = power;
  if (npshRequired) curve.npshRequired = npshRequired;
  published.set(pump, curve);
  return curve;
}

export function headAt(curve: PumpCurve, flow: number): OnCurve {
  return read(curve.head, flow);
}

/**
 * Head in m of a pump among others at any flow, for balancing a network only: what lies outside the
 * published points is continued, so the caller must not show a duty out there. Below its peak the curve
 * is taken flat, since a network with a rising curve may have no balance or two.
 */
export function continuedHead({ head, peak, lastFlow }: PumpCurve, flow: number): number {
  if (flow <= peak.flow) return peak.head;
  if (flow <= lastFlow) return evaluate(head, flow);
  const last = head.y.at(-1) as number;
  return last + continuedSlope(head, peak, lastFlow) * (flow - lastFlow);
}

/** Slope in m per m³/s of `continuedHead`: zero or falling. */
export function continuedHeadSlope({ head, peak, lastFlow }: PumpCurve, flow: number): number {
  if (flow <= peak.flow) return 0;
  return flow <= lastFlow ? slopeAt(head, flow) : continuedSlope(head, peak, lastFlow);
}

function continuedSlope(head: MonotoneCubic, peak: PumpCurve["peak"], lastFlow: number): number {
  return Math.min(head.slope.at(-1) as number, -peak.head / lastFlow);
}

/** Power in W taken at a flow. */
export function powerAt(curve: PumpCurve, flow: number): OnCurve {
  return curve.power ? read(curve.power, flow) : { kind: "not-published" };
}

/** W at the shaft, by its nearest published flow where there is none there; undefined where no power is published. */
export const shaftPower = ({ power, firstFlow, lastFlow }: PumpCurve, flow: number) =>
  power && evaluate(power, Math.min(Math.max(flow, firstFlow), lastFlow));

export function npshRequiredAt(curve: PumpCurve, flow: number): OnCurve {
  return curve.npshRequired ? read(curve.npshRequired, flow) : { kind: "not-published" };
}

/** The value where it is published, otherwise undefined. */
export function publishedValue(reading: OnCurve): number | undefined {
  return reading.kind === "on" ? reading.value : undefined;
}

function read(cubic: MonotoneCubic, flow: number): OnCurve {
  const first = cubic.x[0] as number;
  const last = cubic.x.at(-1) as number;
  if (flow < first) return { kind: "below", firstFlow: first };
  if (flow > last) return { kind: "beyond", lastFlow: last };
  return { kind: "on", value: evaluate(cubic, flow) };
}

/** Head at the first published point: the shut-off head when that point is at no flow. */
export function shutoffHead(curve: PumpCurve): number {
  return curve.head.y[0] as number;
}

/**
 * Flow of best efficiency, and where it comes from. Without published power the middle of the curve
 * is a guess, and is called one.
 */
export function bestEfficiencyFlow(curve: PumpCurve): { flow: number; basis: "power" | "guess" } {
  const { power } = curve;
  if (!power) return { flow: (curve.firstFlow + curve.lastFlow) / 2, basis: "guess" };
  const from = power.x[0] as number;
  const to = power.x.at(-1) as number;
  const steps = 200;
  let best = { flow: from, useful: 0 };
  for (let i = 1; i <= steps; i++) {
    const flow = from + ((to - from) * i) / steps;
    const useful = (flow * evaluate(curve.head, flow)) / evaluate(power, flow);
    if (useful > best.useful) best = { flow, useful };
  }
  return { flow: best.flow, basis: "power" };
}

/**
 * How far a line published at another speed lies from where the affinity laws put it: the greatest difference of head
 * within what both tell, as a part of the greatest head there. Undefined where they tell of no flow in common.
 * @param ratio of that speed to the rated one
 */
export function affinityMiss(
  pump: Pump,
  ratio: number,
  points: readonly { flow: number; head: number }[],
): number | undefined {
  const scaled = pumpCurve(pump, ratio);
  const misses = points.flatMap(({ flow, head }) => {
    const put = publishedValue(headAt(scaled, flow));
    return put === undefined ? [] : [Math.abs(put - head) / scaled.peak.head];
  });
  return misses.length === 0 ? undefined : Math.max(...misses);
}
