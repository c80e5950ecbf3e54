import { conditioned } from "../condition/condition.ts";
import type { Uncertainty } from "../condition/uncertainty.ts";
import { type Boundary, pressureHead, sourcePressure } from "../hydraulics/boundary.ts";
import { headLoss, resistanceOf } from "../hydraulics/resistance.ts";
import type { LineModel } from "../hydraulics/solveLine.ts";
import { type Adjusted, adjust } from "../numeric/leastSquares.ts";
import { evaluate, slopeAt } from "../numeric/monotoneCubic.ts";
import type { Input } from "../numeric/propagation.ts";
import { isWayOut } from "../outlet/outlets.ts";
import { type PumpCurve, pumpCurve } from "../pump/curve.ts";
import { headFactorUncertainty, type Pump } from "../pump/pump.ts";
import {
  type Estimate,
  type FlowUncertainty,
  flowUncertainties,
  HALF,
  measuredFlow,
  rectangular,
} from "./instruments.ts";
import { boundaryDuring, lostDuring } from "./lostWater.ts";
import { isGauged, isOpen, type Reading } from "./reading.ts";
import { type HeadInput, headModel, lossBeforePump, pumpFlow, throughPump } from "./totalHead.ts";

/**
 * What a test may be asked for. `pump`: what its heads are of the published ones; `speed`: of its speed, instead;
 * `line`: what the line past the gauge takes, of what was worked out; `level`: m the water stands over where it is
 * taken to stand.
 */
export const UNKNOWNS = ["pump", "speed", "line", "level"] as const;
export type Unknown = (typeof UNKNOWNS)[number];

/** A line with readings of one of its pumps, the others standing. */
export interface Test {
  on: LineModel;
  pump: Pump;
  /** which of the line's pumps */
  at: number;
  readings: readonly Reading[];
  uncertainty: Uncertainty;
}

export interface Found {
  kind: "found";
  values: Partial<Record<Unknown, Estimate>>;
  /** between each two that were asked for, −1 to 1, in the order of `UNKNOWNS` */
  correlations: { of: readonly [Unknown, Unknown]; value: number }[];
  /** what the doubt of each comes from, as parts of its variance, the largest first */
  budgets: Partial<Record<Unknown, { of: FitInput; share: number }[]>>;
  /** readings of the test, by number, that lie off the others by more than three of their own deviations; the worst first */
  outliers: { reading: number; apart: number }[];
  /** by how much the readings scatter more than their instruments explain; every doubt is widened by it. 1 when they do not. */
  scatter: number;
  /** where the line was read: m³/s through the pump at the fullest reading, and m worked out for what lies past the gauge */
  ofLine?: { flow: number; losses: number };
  freedom: number;
}

export type FitResult =
  | Found
  /** one more or one less of something gives the same readings */
  | { kind: "not-parted" }
  /** no reading tells of it */
  | { kind: "nothing-read" }
  | { kind: "no-value" };

/**
 * Fits what is asked for to all readings of a test at once. A gauge makes two conditions: the head between water and
 * gauge is the pump's, and the head at the gauge is the line's beyond it, which counts only with the valve as the line
 * has it. A flow alone makes one, of both together. What is not asked for is taken as it is said to be, with its
 * doubt: the pump within its tolerance, the line within what is in doubt about it.
 * Errors that an instrument makes alike at every reading are counted once.
 */
export function fitTest(test: Test, asked: readonly Unknown[]): FitResult {
  const unknowns = UNKNOWNS.filter((unknown) => asked.includes(unknown));
  const setWith = (fresh: Fresh): Conditions => {
    const all = conditionsOf(test, unknowns.includes("level"), fresh);
    return { ...all, rows: telling(all.rows, unknowns) };
  };
  const tried = FRESH.map((fresh) => {
    let known: { set: Conditions; found: Adjusted } | undefined;
    return () => {
      if (!known) {
        const set = setWith(fresh);
        known = { set, found: solve(set, unknowns) };
      }
      return known;
    };
  });
  const last = tried.length - 1;
  const explains = (i: number) => {
    const { found } = (tried[i] as (typeof tried)[number])();
    return found.kind === "adjusted" && found.misfit <= found.freedom;
  };
  // The least that is new at each reading which explains how much they scatter.
  let [low, high] = [0, last];
  if (explains(0)) high = 0;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (explains(middle)) high = middle;
    else low = middle;
  }
  const { set, found } = (tried[high] as (typeof tried)[number])();
  if (set.rows.length === 0) return { kind: "nothing-read" };
  if (found.kind !== "adjusted") return found;

  const { parameters, covariance, misfit, freedom } = found;
  // A χ² that only one test in a hundred exceeds, by E. B. Wilson and M. M. Hilferty (1931), from memory.
  const usual = freedom * (1 - 2 / (9 * freedom) + 2.326 * Math.sqrt(2 / (9 * freedom))) ** 3;
  const scatter = freedom > 0 && misfit > usual ? Math.sqrt(misfit / freedom) : 1;
  const deviation = (i: number) => Math.sqrt(covariance[i]?.[i] as number);
  const values = Object.fromEntries(
    unknowns.map((unknown, i): [Unknown, Estimate] => [
      unknown,
      { value: parameters[i] as number, standardUncertainty: scatter * deviation(i) },
    ]),
  );
  const correlations = unknowns.flatMap((one, i) =>
    unknowns.slice(i + 1).map((other, k) => ({
      of: [one, other] as const,
      value: (covariance[i]?.[i + 1 + k] as number) / deviation(i) / deviation(i + 1 + k),
    })),
  );
  return {
    kind: "found",
    values,
    correlations,
    budgets: Object.fromEntries(
      unknowns.map((unknown, i) => [unknown, budgetOf(set.inputs, found.effects[i] as number[])]),
    ),
    outliers: outliersOf(set, unknowns, found),
    scatter,
    ...(set.ofLine && { ofLine: set.ofLine }),
    freedom,
  };
}

/**
 * Parts of the variance of gauges, meters and rules that may be new at each reading, the least first. An instrument is
 * wrong alike all through a visit unless its readings scatter more than that lets them.
 */
const STEPS = [0.04, 0.08, 0.16, 0.3, HALF] as const;
/** Those of what measures the flow grow first: a needle that stands still is wrong alike all day. */
const FRESH: readonly Fresh[] = [
  ...STEPS.map((flow): Fresh => ({ flow, gauge: STEPS[0] })),
  ...STEPS.slice(1).map((gauge): Fresh => ({ flow: HALF, gauge })),
];
interface Fresh {
  flow: number;
  gauge: number;
}

function budgetOf(inputs: readonly TestInput[], effects: readonly number[]) {
  const variances = new Map<FitInput, number>();
  for (const [k, { of }] of inputs.entries()) {
    variances.set(of, (variances.get(of) ?? 0) + (effects[k] as number) ** 2);
  }
  const whole = effects.reduce((sum, effect) => sum + effect ** 2, 0);
  return [...variances]
    .map(([of, variance]) => ({ of, share: whole > 0 ? variance / whole : 0 }))
    .filter(({ share }) => share > 0)
    .toSorted((a, b) => b.share - a.share);
}

/**
 * The conditions that tell of what is asked. A gauge tells pump and line apart, so that neither is judged by what is
 * taken of the other; a flow alone tells of both, and counts where both are asked for or there is nothing else.
 */
function telling(rows: readonly Row[], unknowns: readonly Unknown[]): Row[] {
  const line = unknowns.includes("line");
  const pump = unknowns.some((unknown) => unknown !== "line");
  const own = rows.filter(({ of }) => (of === "pump" && pump) || (of === "line" && line));
  const both = rows.filter(({ of }) => of === "both");
  return (line && pump) || own.length === 0 ? [...own, ...both] : own;
}

/**
 * Readings that lie off the others, found one after another: each is left out before the next is looked for, so that
 * one does not hide another. Which one it is can be told from two conditions more than there are unknowns.
 */
function outliersOf(
  set: Conditions,
  unknowns: readonly Unknown[],
  whole: Extract<Adjusted, { kind: "adjusted" }>,
): Found["outliers"] {
  const found: Found["outliers"] = [];
  let left = set.rows;
  let fit: Adjusted = whole;
  while (fit.kind === "adjusted" && fit.freedom >= 2) {
    const { apart } = fit;
    const worst = apart.reduce(
      (most, own, i) => (Math.abs(own) > Math.abs(apart[most] as number) ? i : most),
      0,
    );
    const own = left[worst];
    if (!own || Math.abs(apart[worst] as number) <= OUTLYING) break;
    found.push({ reading: own.reading, apart: apart[worst] as number });
    left = left.filter(({ reading }) => reading !== own.reading);
    fit = solve({ ...set, rows: left }, unknowns);
  }
  return found;
}

/** Deviations beyond which a reading is an outlier: one sound reading in a thousand (W. Baarda, 1968, from memory). */
const OUTLYING = 3.29;

type Parameters = Record<Unknown, number>;
const AS_SAID: Parameters = { pump: 1, speed: 1, line: 1, level: 0 };

interface Row {
  reading: number;
  of: "pump" | "line" | "both";
  /** numbers of the inputs it depends on */
  on: readonly number[];
  condition: (parameters: Parameters, inputs: readonly number[]) => number | undefined;
}

type Condition = (parameters: Parameters, values: Record<HeadInput, number>) => number | undefined;

interface Conditions {
  /** of readings and instruments, all independent, then what is taken of pump and of line */
  inputs: TestInput[];
  rows: Row[];
  ofLine: Found["ofLine"];
}

interface TestInput {
  of: FitInput;
  value: number;
  standardUncertainty: number;
}

/** What the doubt of a fit may come from. */
export type FitInput = HeadInput | FlowUncertainty | (typeof TAKEN)[number];

function solve(
  { inputs, rows }: Pick<Conditions, "inputs" | "rows">,
  unknowns: readonly Unknown[],
): Adjusted {
  const taken = inputs.length - TAKEN.length;
  return adjust({
    start: unknowns.map((unknown) => AS_SAID[unknown]),
    readings: inputs,
    conditions: rows.map(({ on, condition }) => ({
      on: [...on, ...TAKEN.map((_, k) => taken + k)],
      of: (parameters, values) => {
        const all = { ...AS_SAID };
        for (const [k, name] of TAKEN.entries()) all[name] = values[taken + k] as number;
        for (const [i, unknown] of unknowns.entries()) all[unknown] = parameters[i] as number;
        return condition(all, values);
      },
    })),
  });
}

/** What is taken as it is said to be where it is not asked for, last of the inputs. */
const TAKEN = ["pump", "line"] as const;

/** Builds inputs and conditions from the readings. */
function conditionsOf(test: Test, levelAsked: boolean, fresh: Fresh): Conditions {
  const { on, pump, at, readings, uncertainty: doubt } = test;
  const standing =
    on.boundaries.normal.source - pressureHead(sourcePressure(on.line.source), on.water);
  let ofLine: Found["ofLine"];
  const inputs: TestInput[] = [];
  const rows: Row[] = [];
  const add = (of: FitInput, value: number, standardUncertainty: number) =>
    inputs.push({ of, value, standardUncertainty }) - 1;
  const alike = new Map<string, number>();
  /** Number of the input that moves all readings of an instrument together, in deviations. */
  const alikeInput = (of: FitInput, instrument: string) => {
    const key = `${of} ${instrument}`;
    const place = alike.get(key) ?? add(of, 0, 1);
    alike.set(key, place);
    return place;
  };
  const curveAt = remembered((speed: number) => pumpCurve(pump, speed));
  const note = (flow: number, losses: number) => {
    if (losses > LEAST_LOSS && flow > (ofLine?.flow ?? 0)) ofLine = { flow, losses };
  };

  for (const [number, given] of readings.entries()) {
    const levelUnknown = given.discharge !== undefined && given.suction === undefined;
    const reading: Reading = levelUnknown
      ? { ...given, suction: { kind: "water-level", level: standing, tolerance: 0 } }
      : given;
    const lost = lostDuring(on, reading, at);
    const wasted = lost.reduce((sum, { flow }) => sum + flow, 0);
    const speedRatio = reading.speedRatio ?? on.line.pumps[at]?.item.speedRatio ?? 1;
    const { lastFlow, firstFlow } = curveAt(speedRatio);
    const moved = measuredFlow(reading.flow).value + wasted;
    // What is not published cannot be held against anything.
    if (moved > lastFlow || moved < firstFlow) continue;
    const total = isGauged(reading) ? headModel(on.model, reading, lost, at) : undefined;
    // Where nothing runs the line takes nothing, whatever it is.
    const open = isOpen(reading) && moved > 0;
    if (total?.misplaced || !(total || open)) continue;

    const named = total?.inputs ?? flowAlone(reading, on.boundaries.normal.source, wasted, doubt);
    const centre = Object.fromEntries(named.map(({ name, value }) => [name, value]));
    const moves = doubtsOf(reading, named, fresh).map(({ name, of, instrument, u, common }) => ({
      name,
      alike: common > 0 ? alikeInput(of, instrument) : -1,
      byAlike: Math.sqrt(common) * u,
      own: common < 1 ? add(of, 0, Math.sqrt(1 - common) * u) : -1,
    }));
    const valuesFrom = (all: readonly number[]) => {
      const values = { ...centre } as Record<HeadInput, number>;
      for (const { name, alike: together, byAlike, own } of moves) {
        if (together >= 0) values[name] += byAlike * (all[together] as number);
        if (own >= 0) values[name] += all[own] as number;
      }
      return values;
    };
    const made = (parameters: Parameters, values: Record<HeadInput, number>) => {
      const speed = (values.speed ?? speedRatio) * parameters.speed;
      return parameters.pump * continued(curveAt(speed), throughPump(values));
    };
    const boundary = boundaryDuring(on.boundaries.normal, on.model, reading);
    const demand = remembered((flow: number) => lineDemand(on, boundary, at, flow));
    const row = (of: Row["of"], condition: Condition) =>
      rows.push({
        ...{
          reading: number,
          of,
          on: moves.flatMap(({ alike: one, own }) => [one, own]).filter((k) => k >= 0),
        },
        condition: (parameters, all) => condition(parameters, valuesFrom(all)),
      });

    if (!total) {
      const before = lossBeforePump(on.model, at);
      const pushed = pressureHead(sourcePressure(on.line.source), on.water);
      note(moved, (demand(moved)?.losses ?? 0) + (before(moved) ?? 0));
      row("both", (parameters, values) => {
        const flow = throughPump(values);
        const [asked, drawn] = [demand(flow), before(flow)];
        if (!asked || drawn === undefined) return undefined;
        const surface = values["water-level"] + parameters.level + pushed;
        const taken = parameters.line * (asked.losses + drawn);
        return surface + made(parameters, values) - asked.fixed - taken;
      });
      continue;
    }
    const byLevel = reading.suction?.kind === "water-level";
    // Without the water's level the pump's head is not known, unless the level itself is what is asked for.
    if (!levelUnknown || levelAsked) {
      row("pump", (parameters, values) => {
        const level = byLevel ? { "water-level": values["water-level"] + parameters.level } : {};
        const head = total.head({ ...values, ...level });
        return head === undefined ? undefined : head - made(parameters, values);
      });
    }
    if (!open) continue;
    note(moved, (demand(moved)?.losses ?? 0) - total.between(centre as Record<HeadInput, number>));
    row("line", (parameters, values) => {
      const asked = demand(throughPump(values));
      if (!asked) return undefined;
      const beyond = asked.losses - total.between(values);
      return total.atGauge(values) - asked.fixed - parameters.line * beyond;
    });
  }
  add("pump", 1, rectangular(headFactorUncertainty(pump).head));
  add("line", 1, rectangular(lineUncertainty(test)));
  return { inputs, rows, ofLine };
}

/** m: a line that takes less beyond the gauge than a needle shows tells nothing of itself. */
const LEAST_LOSS = 0.02;

interface DoubtIn {
  name: HeadInput;
  of: FitInput;
  /** the same for all readings taken with one and the same */
  instrument: string;
  u: number;
  /** part of its variance that all those readings have alike */
  common: number;
}

/** Every doubt of a reading apart, with what of it repeats at the next reading with the same instrument. */
function doubtsOf(reading: Reading, inputs: readonly Input<HeadInput>[], fresh: Fresh): DoubtIn[] {
  return inputs.flatMap(({ name, standardUncertainty: u }): DoubtIn[] => {
    if (name === "flow") {
      const { method } = reading.flow;
      return flowUncertainties(reading.flow).doubts.flatMap(
        ({ of, standardUncertainty, common = 1 - fresh.flow }) =>
          standardUncertainty > 0
            ? [{ name, of, instrument: method, u: standardUncertainty, common }]
            : [],
      );
    }
    if (u === 0) return [];
    const { discharge, suction } = reading;
    const dial = name.startsWith("suction") ? suction?.kind === "gauge" && suction : discharge;
    const instrument = dial ? `${dial.fullScale} ${dial.accuracyClass} ${dial.elevation}` : "";
    return [{ name, of: name, instrument, u, common: ALIKE[name] ?? 1 - fresh.gauge }];
  });
}

/** What is reckoned or measured once is wrong alike at every reading. */
const ALIKE: Partial<Record<HeadInput, number>> = {
  "discharge-height": 1,
  "suction-height": 1,
  "line-between": 1,
  holes: 1,
};

/** What a reading without a gauge rests on. */
function flowAlone(
  { flow, suction }: Reading,
  normal: number,
  wasted: number,
  uncertainty: Uncertainty,
): Input<HeadInput>[] {
  const level =
    suction?.kind === "water-level"
      ? { value: suction.level, standardUncertainty: rectangular(suction.tolerance) }
      : { value: normal, standardUncertainty: rectangular(uncertainty.level) };
  const inputs: Input<HeadInput>[] = [
    { name: "flow", ...measuredFlow(flow) },
    { name: "water-level", ...level },
  ];
  if (wasted > 0)
    inputs.push({ name: "holes", ...pumpFlow({ value: 0, standardUncertainty: 0 }, wasted) });
  return inputs;
}

/**
 * What the line past the pump asks for at a flow through it in m³/s: m above datum that it takes whatever the pipes
 * are like, and m lost in them.
 */
function lineDemand(
  { line, model }: Test["on"],
  boundary: Boundary,
  at: number,
  flow: number,
): { fixed: number; losses: number } | undefined {
  const imposed = model.imposed(boundary, Math.max(flow, 0), [], at);
  const pump = line.pumps[at];
  if (imposed.kind !== "steady" || !pump) return undefined;
  const { byOutlet, bySegment, nodeHeads } = imposed.state;
  const outlet = byOutlet.indexOf(Math.max(...byOutlet));
  let fixed = boundary.outlets[outlet] as number;
  for (const [i, segment] of line.segments.entries()) {
    if (!isWayOut(segment)) continue;
    fixed += headLoss(
      resistanceOf([segment], model.context),
      bySegment[i] as number,
      model.context.friction,
    );
  }
  return { fixed, losses: (nodeHeads[pump.outlet] as number) - fixed };
}

/** Half-width, as a fraction, of what the line takes at the flow it was measured at. */
export function lineUncertainty({ on, at, readings, uncertainty: doubt }: Test): number {
  const flow = Math.max(...readings.map(({ flow: own }) => measuredFlow(own).value), 0);
  const asWorkedOut = lineDemand(on, on.boundaries.normal, at, flow);
  const rough = conditioned(on, {
    everywhere: {
      roughnessFactor: doubt.roughnessFactor,
      hazenWilliamsFactor: 1 - doubt.hazenWilliamsC,
      lossFactor: 1 + doubt.fittings,
    },
  });
  const most = lineDemand(
    { ...on, ...rough, line: rough.model.line },
    on.boundaries.normal,
    at,
    flow,
  );
  const more =
    asWorkedOut && most && asWorkedOut.losses > 0 ? most.losses / asWorkedOut.losses - 1 : 0;
  return Math.max(more, LEAST_LINE_DOUBT);
}

/** Lengths are paced and bends miscounted, however smooth the pipe. Common practice, no source. */
const LEAST_LINE_DOUBT = 0.1;

/** Head of a curve, drawn straight on past its ends for the search alone: nothing out there is ever shown. */
function continued({ head, firstFlow, lastFlow }: PumpCurve, flow: number): number {
  const edge = Math.min(Math.max(flow, firstFlow), lastFlow);
  const value = evaluate(head, edge);
  return flow === edge ? value : value + slopeAt(head, edge) * (flow - edge);
}

function remembered<T>(work: (of: number) => T): (of: number) => T {
  const known = new Map<number, T>();
  return (of) => {
    if (!known.has(of)) known.set(of, work(of));
    return known.get(of) as T;
  };
}
