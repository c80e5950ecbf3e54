import { type Outcome, settledDuty } from "../hydraulics/operatingPoint.ts";
import type { LineModel, Refused } from "../hydraulics/solveLine.ts";
import { latinHypercube } from "../numeric/latinHypercube.ts";
import { finish, type Steps } from "../numeric/steps.ts";
import { receivingWater } from "../outlet/outlets.ts";
import { headFactorUncertainty } from "../pump/pump.ts";
import { type Condition, conditioned } from "./condition.ts";

/**
 * How far the inputs of a line are in doubt, each as the half-width of a uniform spread. Common practice,
 * no source.
 */
export interface Uncertainty {
  /** m, of every level */
  level: number;
  /** roughness between 1/factor and factor times the stock's */
  roughnessFactor: number;
  /** fraction, of Hazen–Williams C */
  hazenWilliamsC: number;
  /** fraction, of every K and equivalent length */
  fittings: number;
}

/** Draws for a band shown to a person. */
export const USUAL_DRAWS = 1000;

export const USUAL_UNCERTAINTY: Uncertainty = {
  level: 0.05,
  roughnessFactor: 2,
  hazenWilliamsC: 0.05,
  fittings: 0.2,
};

/** Where nineteen of twenty duties lie, and the middle one. SI. */
export interface Band {
  kind: "band";
  /** m³/s at the outlets together, and at each in the order of the path */
  flow: Spread;
  byOutlet: Spread[];
  /** m, total head of the pumps */
  head: Spread;
  /** draws that settled, of all that were tried */
  settled: number;
  tried: number;
}

export interface Spread {
  low: number;
  middle: number;
  high: number;
}

export type BandResult =
  | Band
  /** fewer than half of the draws settle: how many do, and what most often comes of the others */
  | { kind: "unsettled"; settled: number; tried: number; mostly: Unsettled }
  | Refused;

export type Unsettled = Exclude<Outcome["kind"], "runs" | "two-crossings"> | "not-balanced";

/**
 * Band of the duty at normal water from a Latin hypercube over the level of the source and of each outlet
 * under water, roughness, fittings and each pump's own tolerance. `count` draws, at least 20. A line whose pump is
 * still to be chosen has none.
 */
export const dutyBand = (
  ready: LineModel | Refused,
  uncertainty: Uncertainty,
  count: number,
): BandResult => finish(dutyBandInSteps(ready, uncertainty, count));

/** The same in its steps. */
export function* dutyBandInSteps(
  ready: LineModel | Refused,
  uncertainty: Uncertainty,
  count: number,
): Steps<BandResult> {
  if (ready.kind === "refused") return ready;
  if (ready.asked) {
    const { itemId } = ready.asked;
    const diagnostics = [{ code: "pump-not-chosen" as const, itemId }];
    return { kind: "refused", diagnostics, sketch: ready.line };
  }
  const all: Drawn = {
    flows: [],
    atOutlets: ready.line.outlets.map((): number[] => []),
    heads: [],
    failures: new Map(),
  };
  const draws = drawsOf(ready, uncertainty, count);
  // The engine runs a loop of a step by itself at twice the speed of one that is left and entered again.
  for (let from = 0; from < count; from += STEP) {
    yield { done: from / count };
    tryAll(ready, draws.slice(from, from + STEP), all);
  }
  const { flows, atOutlets, heads, failures } = all;
  const settled = flows.length;
  if (settled * 2 < count) {
    const [mostly] = [...failures].reduce((most, own) => (own[1] > most[1] ? own : most));
    return { kind: "unsettled", settled, tried: count, mostly };
  }
  const byOutlet = atOutlets.map(spread);
  return {
    kind: "band",
    flow: spread(flows),
    byOutlet,
    head: spread(heads),
    settled,
    tried: count,
  };
}

/** draws */
const STEP = 50;

/** What came of draws: where they settled, and why others did not. */
interface Drawn {
  flows: number[];
  atOutlets: number[][];
  heads: number[];
  failures: Map<Unsettled, number>;
}

function tryAll(
  ready: LineModel,
  draws: readonly { condition: Condition }[],
  { flows, atOutlets, heads, failures }: Drawn,
): void {
  for (const { condition } of draws) {
    const { model, states, boundaryAt } = conditioned(ready, condition);
    const result = model.solve(boundaryAt("normal"), states);
    const duty = result.kind === "steady" ? settledDuty(result.outcome) : undefined;
    if (result.kind === "steady" && duty) {
      flows.push(result.state.delivered);
      for (const [i, own] of atOutlets.entries()) own.push(result.state.byOutlet[i] as number);
      heads.push(duty.head);
    } else {
      const why = (result.kind === "not-balanced" ? result.kind : result.outcome.kind) as Unsettled;
      failures.set(why, (failures.get(why) ?? 0) + 1);
    }
  }
}

/**
 * Conditions drawn from what is in doubt about a line, a Latin hypercube of `count`, the same ones at every call. Each
 * comes with a number from −1 to 1 for what else the caller has in doubt.
 */
export function drawsOf(
  ready: LineModel,
  uncertainty: Uncertainty,
  count: number,
): { condition: Condition; more: number }[] {
  const outlets = ready.line.outlets.flatMap(({ item }) =>
    receivingWater(item.outlet) ? [item.id] : [],
  );
  const pumps = ready.asked ? [] : ready.pumps;
  return latinHypercube(count, 4 + outlets.length + pumps.length, 20_061).map((draw) => {
    const [level, rough, fitting, ...rest] = draw.map((u) => 2 * u - 1) as Draw;
    const condition: Condition = {
      everywhere: {
        roughnessFactor: uncertainty.roughnessFactor ** rough,
        hazenWilliamsFactor: 1 - rough * uncertainty.hazenWilliamsC,
        lossFactor: 1 + fitting * uncertainty.fittings,
      },
      levels: {
        source: level * uncertainty.level,
        outlets: Object.fromEntries(
          outlets.map((id, i) => [id, (rest[i] as number) * uncertainty.level]),
        ),
      },
      pumps: Object.fromEntries(
        pumps.map(({ itemId, pump }, i) => {
          const strength = rest[outlets.length + i] as number;
          const { flow, head } = headFactorUncertainty(pump);
          return [itemId, { flowFactor: 1 + strength * flow, headFactor: 1 + strength * head }];
        }),
      ),
    };
    return { condition, more: rest.at(-1) as number };
  });
}

type Draw = [level: number, rough: number, fitting: number, ...rest: number[]];

export function spread(values: number[]): Spread {
  const sorted = values.toSorted((a, b) => a - b);
  const at = (fraction: number) => sorted[Math.round(fraction * (sorted.length - 1))] as number;
  return { low: at(0.025), middle: at(0.5), high: at(0.975) };
}
