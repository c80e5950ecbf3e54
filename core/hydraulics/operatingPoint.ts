import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import type { PumpCurve } from "../pump/curve.ts";

/** A flow in m³/s and the head in m that belongs to it. */
export interface Duty {
  flow: number;
  head: number;
}

/** Everything that can come of a pump on a line. */
export type Outcome =
  | { kind: "runs"; duty: Duty }
  /**
   * the pump makes less than the line asks for: at no flow already, or, where a drooping curve peaks above
   * the static head, by the time it peaks; `shortfall` in m
   */
  | {
      kind: "cannot-lift";
      staticHead: number;
      bestHead: number;
      shortfall: number;
      /** `holes`: what it moves leaves by holes before any outlet; `shortfall` is what is missing there */
      short: "static-head" | "friction" | "holes";
    }
  /** at the first published flow the line already asks for more than the pump gives */
  | { kind: "below-curve"; first: Duty; headNeeded: number }
  /** at the last published flow the pump still has head to spare: it runs out beyond what is known */
  | { kind: "beyond-curve"; last: Duty; headNeeded: number }
  /**
   * a drooping curve meets the line twice: the pump settles at `stable` once water runs, but from
   * rest it may not get past `unstable`, and sticks at no flow or, where it gets that far, at `sticksAt`
   */
  | {
      kind: "two-crossings";
      stable: Duty;
      unstable: Duty;
      startsFromRest: boolean;
      sticksAt?: Duty;
    }
  /** switched off: water may pass it, and it adds nothing */
  | { kind: "stopped" };

/**
 * Where the pump's head equals the line's, for a line whose head never falls as flow rises.
 *
 * Wherever the pump's curve falls there can be at most one crossing, so each falling interval is
 * decided by its ends; a rising (drooping towards shut-off) interval is searched in steps.
 */
export function operatingPoint(curve: PumpCurve, lineHead: (flow: number) => number): Outcome {
  const surplus = (flow: number) => evaluate(curve.head, flow) - lineHead(flow);
  const crossings = crossingsOf(curve, surplus);
  const atEnd = surplus(curve.lastFlow);
  const dutyAt = (flow: number): Duty => ({ flow, head: evaluate(curve.head, flow) });

  if (atEnd > 0) {
    const last = dutyAt(curve.lastFlow);
    return { kind: "beyond-curve", last, headNeeded: lineHead(curve.lastFlow) };
  }
  const stable = crossings.at(-1);
  if (stable === undefined) {
    if (curve.firstFlow > 0) {
      const first = dutyAt(curve.firstFlow);
      return { kind: "below-curve", first, headNeeded: lineHead(curve.firstFlow) };
    }
    const staticHead = lineHead(0);
    const bestHead = Math.max(...curve.head.y);
    // A drooping curve may peak above the static head and still never reach the line.
    const lifts = bestHead > staticHead;
    const shortfall = lifts ? -closest(curve, surplus) : staticHead - bestHead;
    const short = lifts ? "friction" : "static-head";
    return { kind: "cannot-lift", staticHead, bestHead, shortfall, short };
  }
  const unstable = crossings.at(-2);
  if (unstable !== undefined) {
    // From rest the flow rises as far as the first crossing, and stays there.
    const rises = surplus(curve.firstFlow) > 0;
    const [first] = crossings;
    const sticks = rises && first !== undefined && first < unstable;
    return {
      kind: "two-crossings",
      stable: dutyAt(stable),
      unstable: dutyAt(unstable),
      startsFromRest: rises && !sticks,
      ...(sticks && { sticksAt: dutyAt(first) }),
    };
  }
  return { kind: "runs", duty: dutyAt(stable) };
}

/** The duty the pump settles at, where it settles at one that is known. */
export function settledDuty(outcome: Outcome): Duty | undefined {
  if (outcome.kind === "runs") return outcome.duty;
  if (outcome.kind === "two-crossings") return outcome.stable;
  return undefined;
}

/** Flows at which the surplus changes sign, rising order. */
function crossingsOf(curve: PumpCurve, surplus: (flow: number) => number): number[] {
  const found: number[] = [];
  const tolerance = Math.max(1e-13, curve.lastFlow * 1e-12);
  const knots = samples(curve);
  let low = knots[0] as number;
  let fLow = surplus(low);
  // A pump that exactly holds the static head at rest moves nothing: not a crossing.
  for (const high of knots.slice(1)) {
    const fHigh = surplus(high);
    const crosses = (fLow > 0 && fHigh <= 0) || (fLow < 0 && fHigh > 0);
    if (crosses) found.push(bracketedRoot(surplus, low, high, fLow, fHigh, tolerance));
    low = high;
    fLow = fHigh;
  }
  return found;
}

/**
 * Flows to look at: the ends of every stretch over which the head falls, since the surplus falls with
 * it and can cross zero once at most, and close steps wherever the head rises.
 */
function samples(curve: PumpCurve): number[] {
  const { x, y } = curve.head;
  const falls = (i: number) => (y[i + 1] as number) <= (y[i] as number);
  const flows: number[] = [x[0] as number];
  for (let i = 0; i + 1 < x.length; i++) {
    const [from, to] = [x[i] as number, x[i + 1] as number];
    if (falls(i)) {
      if (i + 2 === x.length || !falls(i + 1)) flows.push(to);
      continue;
    }
    for (let s = 1; s <= RISING_STEPS; s++) flows.push(from + ((to - from) * s) / RISING_STEPS);
  }
  return flows;
}

const RISING_STEPS = 24;

function closest(curve: PumpCurve, surplus: (flow: number) => number): number {
  return Math.max(...samples(curve).map(surplus));
}
