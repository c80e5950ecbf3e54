import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { evaluate, monotoneCubic } from "../numeric/monotoneCubic.ts";
import { type PumpCurve, pumpCurve, shaftPower } from "./curve.ts";
import type { Pump } from "./pump.ts";

/** What may be put in one place of a line. */
export type Arrangement =
  /** running speed over rated speed where it is not 1 */
  | { kind: "one"; pump: Pump; speedRatio?: number }
  /** each with a check valve of its own, into one main */
  | { kind: "beside"; pumps: readonly [Pump, Pump] }
  /** the second draws from the first */
  | { kind: "after"; pumps: readonly [Pump, Pump] };

export const pumpsOf = (arrangement: Arrangement): readonly Pump[] =>
  arrangement.kind === "one" ? [arrangement.pump] : arrangement.pumps;

/** Points a curve made of two is drawn through. */
const POINTS = 24;

/**
 * Two pumps that push into one main: their flows add up at equal head, the weaker passing nothing while the stronger
 * makes more than it can. Up to where the first of them runs past its published curve; power adds up alike.
 * @param own m per (m³/s)² of what each alone passes on its way to the main
 */
export function besideEachOther(
  first: PumpCurve,
  second: PumpCurve,
  own: readonly [number, number],
): PumpCurve | undefined {
  const arms = [first, second].map((curve, i) => ({ curve, k: own[i] as number }));
  const headOf = ({ curve, k }: (typeof arms)[number], flow: number) =>
    evaluate(curve.head, flow) - k * flow * flow;
  const top = Math.max(...arms.map((arm) => headOf(arm, arm.curve.peak.flow)));
  const bottom = Math.max(...arms.map((arm) => headOf(arm, arm.curve.lastFlow)));
  if (!(top > bottom)) return undefined;
  const flowAt = (arm: (typeof arms)[number], head: number) => {
    const { peak, lastFlow } = arm.curve;
    const over = (flow: number) => headOf(arm, flow) - head;
    const [a, b] = [over(peak.flow), over(lastFlow)];
    if (a <= 0) return 0;
    return b >= 0 ? lastFlow : bracketedRoot(over, peak.flow, lastFlow, a, b, lastFlow * 1e-10);
  };
  const rows = Array.from({ length: POINTS + 1 }, (_, i) => {
    const head = top - (top - bottom) * (i / POINTS) ** 1.5;
    const flows = arms.map((arm) => flowAt(arm, head));
    const powers = arms.map(({ curve }, n) => shaftPower(curve, flows[n] as number) ?? Number.NaN);
    return {
      flow: (flows[0] as number) + (flows[1] as number),
      ...{ head, power: (powers[0] as number) + (powers[1] as number) },
    };
  });
  return curveThrough(rows);
}

/** Two pumps one after the other: their heads add up at equal flow, as far as both are published. */
export function afterEachOther(first: PumpCurve, second: PumpCurve): PumpCurve | undefined {
  const from = Math.max(first.firstFlow, second.firstFlow);
  const to = Math.min(first.lastFlow, second.lastFlow);
  if (!(to > from)) return undefined;
  const rows = Array.from({ length: POINTS + 1 }, (_, i) => {
    const flow = from + ((to - from) * i) / POINTS;
    const sum = (of: (curve: PumpCurve) => number) => of(first) + of(second);
    return {
      flow,
      head: sum(({ head }) => evaluate(head, flow)),
      power: sum((curve) => shaftPower(curve, flow) ?? Number.NaN),
    };
  });
  return curveThrough(rows);
}

function curveThrough(rows: readonly { flow: number; head: number; power: number }[]) {
  // Flows that do not rise are one point of the curve.
  const kept = rows.filter(
    ({ flow }, i) => i === 0 || flow > (rows[i - 1]?.flow as number) + 1e-12,
  );
  if (kept.length < 2) return undefined;
  const flows = kept.map(({ flow }) => flow);
  const head = monotoneCubic(
    flows,
    kept.map((row) => row.head),
  );
  let top = 0;
  for (let i = 1; i < head.y.length; i++) {
    if ((head.y[i] as number) > (head.y[top] as number)) top = i;
  }
  const curve: PumpCurve = {
    firstFlow: flows[0] as number,
    lastFlow: flows.at(-1) as number,
    head,
    peak: { flow: flows[top] as number, head: head.y[top] as number },
  };
  const powers = kept.map(({ power }) => power);
  if (powers.every((power) => !Number.isNaN(power))) curve.power = monotoneCubic(flows, powers);
  return curve;
}

/** The curve of what stands in a place; undefined where two have no flow or head in common. */
export function curveOf(
  arrangement: Arrangement,
  own: readonly [number, number] = [0, 0],
): PumpCurve | undefined {
  if (arrangement.kind === "one") {
    return pumpCurve(arrangement.pump, arrangement.speedRatio ?? 1);
  }
  const [first, second] = arrangement.pumps;
  const [a, b] = [pumpCurve(first), pumpCurve(second)];
  return arrangement.kind === "beside" ? besideEachOther(a, b, own) : afterEachOther(a, b);
}

/**
 * The speed, over the rated one, at which a pump makes just a head in m at a flow in m³/s: n² H(Q/n) = head. Undefined
 * where it does not between the two speeds its drive allows, or where its curve is not published so far.
 * Source: affinity, Q ∝ n and H ∝ n².
 */
export function speedFor(
  pump: Pump,
  duty: { flow: number; head: number },
  { least, most }: { least: number; most: number },
): number | undefined {
  const rated = pumpCurve(pump);
  const made = (n: number) => {
    const flow = duty.flow / n;
    if (flow > rated.lastFlow) return Number.NaN;
    return n * n * evaluate(rated.head, Math.max(flow, rated.firstFlow)) - duty.head;
  };
  // Slower than this its published curve ends before the flow.
  const low = Math.max(least, (duty.flow / rated.lastFlow) * (1 + 1e-9));
  if (!(low <= most)) return undefined;
  const [a, b] = [made(low), made(most)];
  if (!(b >= 0)) return undefined;
  return a >= 0 ? low : bracketedRoot(made, low, most, a, b, 1e-10);
}
