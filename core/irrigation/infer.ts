import { conditioned } from "../condition/condition.ts";
import { headLine, pressureHeadBefore } from "../hydraulics/headLine.ts";
import { segmentLoss } from "../hydraulics/resistance.ts";
import type { LineModel } from "../hydraulics/solveLine.ts";
import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { type Propagated, propagate } from "../numeric/propagation.ts";
import { velocityHead } from "../pipe/darcyWeisbach.ts";
import { headAt, publishedValue } from "../pump/curve.ts";
import { GRAVITY } from "../quantity/constants.ts";
import {
  type Calibration,
  CHART_UNCERTAINTY,
  expectedThrow,
  type Gun,
  TEXTBOOK_UNCERTAINTY,
} from "./gun.ts";

/** What is worked back from a reading, its doubt as one standard deviation, and what would halve that. */
export interface Inferred<Name extends string = string> extends Propagated<Name> {
  /** absent where nothing is in doubt */
  halving?: Halving<Name>;
}

/** The one reading to better. */
export interface Halving<Name extends string = string> {
  name: Name;
  /** the part of the doubt that is left were it known exactly */
  left: number;
  /** the part of its own doubt it may keep for the whole to be halved; absent where it alone cannot halve it */
  toHalf?: number;
}

/** The reading whose betterment takes most off the doubt, and how much better it would have to be to halve it. */
export function halvingOf<Name extends string>({
  budget,
}: Pick<Propagated<Name>, "budget">): Halving<Name> | undefined {
  const [most] = budget;
  if (!most || most.share <= 0) return undefined;
  const { name, share } = most;
  const left = Math.sqrt(Math.max(1 - share, 0));
  const room = 0.25 - (1 - share);
  return room >= 0 ? { name, left, toHalf: Math.sqrt(room / share) } : { name, left };
}

const inferred = <Name extends string>(
  found: Propagated<Name> | undefined,
): Inferred<Name> | undefined => {
  if (!found) return undefined;
  const halving = halvingOf(found);
  return halving ? { ...found, halving } : found;
};

export interface Read {
  value: number;
  standardUncertainty: number;
}

/**
 * m², Cd times the area of all nozzles of a gun, from what flows through it and what the gauge at its base reads:
 * Cd A = q / √(2 p/ρ + v²), v the velocity in the bore `inlet` in m where the gauge sits; left out without it.
 */
export function nozzleArea(
  flow: Read,
  pressure: Read,
  density: number,
  inlet?: number,
): Inferred<"flow" | "pressure"> | undefined {
  return inferred(
    propagate(
      [
        { name: "flow", ...flow },
        { name: "pressure", ...pressure },
      ],
      (of) => {
        const head = of.pressure / (density * GRAVITY) + (inlet ? velocityHead(of.flow, inlet) : 0);
        return head > 0 && of.flow > 0 ? of.flow / Math.sqrt(2 * GRAVITY * head) : undefined;
      },
    ),
  );
}

/** Pa: no gun throws with more. */
const MOST_PRESSURE = 2e6;

/**
 * Pa at the base of a gun from how far it throws in m, by what is expected of it and, where it was calibrated, the
 * factor found. Since throw goes with √p, twice its doubt comes out.
 */
export function pressureFromThrow(
  gun: Gun,
  radius: Read,
  measured?: Calibration,
): Inferred<"throw" | "calibration"> | undefined {
  const expected = gun.chart && gun.chart.length > 0 ? CHART_UNCERTAINTY : TEXTBOOK_UNCERTAINTY;
  const factor = measured
    ? { value: measured.factor, standardUncertainty: measured.standardUncertainty }
    : { value: 1, standardUncertainty: expected / 2 };
  return inferred(
    propagate(
      [
        { name: "throw", ...radius },
        { name: "calibration", ...factor },
      ],
      (of) => {
        const over = (p: number) => expectedThrow(gun, p) * of.calibration - of.throw;
        const [low, high] = [over(0), over(MOST_PRESSURE)];
        if (!(low < 0 && high > 0)) return undefined;
        return bracketedRoot(over, 0, MOST_PRESSURE, low, high, 0.1);
      },
    ),
  );
}

/** A pressure in Pa read, or worked back, at the base of a gun while so many stood open. */
export interface GunReading {
  ready: LineModel;
  gunId: string;
  guns: number;
  pressure: Read;
}

/** Doubts of what was not measured, one standard deviation as parts, and m. Common practice, no source. */
const NOZZLE_DOUBT = 0.03;
const LINE_DOUBT = 0.1;
const LEVEL_DOUBT = 0.1;

export interface HeadFactor extends Inferred<keyof Assumed> {
  guns: number;
  /** m³/s and m the pump was at */
  flow: number;
  head: number;
}

/**
 * The head a pump makes over what its curve says at that flow, from the pressure at the base of one gun: the flow is
 * the one at which the line leaves that pressure there, and the head what the line then takes. Nothing where that flow
 * lies off the published curve, or no flow gives it.
 */
export function headFactorFrom({
  ready,
  gunId,
  guns,
  pressure,
}: GunReading): HeadFactor | undefined {
  if (ready.pumps.length !== 1 || ready.asked) return undefined;
  const found = inferred(
    propagate<keyof Assumed>(
      [
        { name: "pressure", ...pressure },
        { name: "nozzle", value: 1, standardUncertainty: NOZZLE_DOUBT },
        { name: "line", value: 1, standardUncertainty: LINE_DOUBT },
        { name: "level", value: 0, standardUncertainty: LEVEL_DOUBT },
      ],
      (of) => pumpPoint(ready, gunId, of)?.strength,
    ),
  );
  const at = pumpPoint(ready, gunId, { pressure: pressure.value, nozzle: 1, line: 1, level: 0 });
  return found && at ? { ...found, guns, flow: at.flow, head: at.head } : undefined;
}

interface Assumed {
  pressure: number;
  /** on the area of every nozzle, and on what the line loses */
  nozzle: number;
  line: number;
  /** m on the water's level */
  level: number;
}

function pumpPoint(ready: LineModel, gunId: string, of: Assumed) {
  const nozzles = Object.fromEntries(
    ready.line.outlets.map(({ item }) => [item.id, { boreFactor: Math.sqrt(of.nozzle) }]),
  );
  // Loss goes nearly with the fifth power of the bore, so that this is the line's loss times its factor.
  const { model, boundaryAt } = conditioned(ready, {
    everywhere: { boreFactor: of.line ** (-1 / 5) },
    items: nozzles,
    levels: { source: of.level },
  });
  const boundary = boundaryAt("normal");
  const curve = ready.pumps[0]?.curve;
  if (!curve) return undefined;
  const stateAt = (flow: number) => {
    const result = model.imposed(boundary, flow);
    return result.kind === "steady" ? result : undefined;
  };
  const pressureAt = (flow: number) => {
    const result = stateAt(flow);
    if (!result) return undefined;
    const { line, context } = model;
    const losses = line.segments.map((segment, i) =>
      segmentLoss(segment, result.state.bySegment[i] as number, context),
    );
    const head = pressureHeadBefore(headLine(line, result.state, losses), gunId);
    return head === undefined ? undefined : head * ready.water.density * GRAVITY;
  };
  const over = (flow: number) => (pressureAt(flow) ?? Number.NaN) - of.pressure;
  const [low, high] = [curve.lastFlow * 1e-3, curve.lastFlow];
  const [atLow, atHigh] = [over(low), over(high)];
  if (!(atLow < 0 && atHigh >= 0)) return undefined;
  const flow = bracketedRoot(over, low, high, atLow, atHigh, curve.lastFlow * 1e-7);
  const head = stateAt(flow)?.head;
  const rated = publishedValue(headAt(curve, flow));
  if (head === undefined || rated === undefined || rated <= 0) return undefined;
  return { flow, head, strength: head / rated };
}

export interface TogetherHeadFactor extends Inferred<string> {
  /** they say the same within twice the doubt of their difference */
  agree: boolean;
  /** the later reading over the first, less 1, and its doubt as one standard deviation */
  apart: Read;
}

/**
 * One strength from the pump with one gun and with two. What both rest on alike (nozzles, line, level) is not made
 * surer by saying it twice: the two are weighted by their covariance, and the doubt of their difference leaves it out.
 */
export function headFactorTogether(
  one: HeadFactor,
  two: HeadFactor,
): TogetherHeadFactor | undefined {
  const shared = ["nozzle", "line", "level"] as const;
  const effect = (own: HeadFactor, name: (typeof shared)[number] | "pressure") =>
    own.effects[name] ?? 0;
  const common = (a: HeadFactor, b: HeadFactor) =>
    shared.reduce((sum, name) => sum + effect(a, name) * effect(b, name), 0);
  const c11 = common(one, one) + effect(one, "pressure") ** 2;
  const c22 = common(two, two) + effect(two, "pressure") ** 2;
  const c12 = common(one, two);
  const differ = c11 + c22 - 2 * c12;
  if (!(differ > 0)) return undefined;
  // A weight below nothing would lean on a difference that is mostly doubt.
  const weight = Math.min(Math.max((c22 - c12) / differ, 0), 1);
  const mix = (of: (own: HeadFactor) => number) => weight * of(one) + (1 - weight) * of(two);
  const effects: Record<string, number> = {
    "pressure-one": weight * effect(one, "pressure"),
    "pressure-two": (1 - weight) * effect(two, "pressure"),
    ...Object.fromEntries(shared.map((name) => [name, mix((own) => effect(own, name))])),
  };
  const variance = Object.values(effects).reduce((all, own) => all + own * own, 0);
  const budget = Object.entries(effects)
    .map(([name, own]) => ({ name, share: variance > 0 ? (own * own) / variance : 0 }))
    .sort((x, y) => y.share - x.share);
  const apart = two.value - one.value;
  const apartDoubt = Math.sqrt(
    shared.reduce((all, name) => all + (effect(two, name) - effect(one, name)) ** 2, 0) +
      effect(one, "pressure") ** 2 +
      effect(two, "pressure") ** 2,
  );
  const halving = halvingOf({ budget });
  return {
    value: mix((own) => own.value),
    standardUncertainty: Math.sqrt(variance),
    effects,
    budget,
    ...(halving && { halving }),
    agree: Math.abs(apart) <= 2 * apartDoubt,
    apart: { value: apart, standardUncertainty: apartDoubt },
  };
}
