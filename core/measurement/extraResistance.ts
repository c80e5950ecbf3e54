import { type FittingStock, findFitting } from "../catalogue/fittings.ts";
import { throttleCoefficient } from "../fitting/throttle.ts";
import { headLoss, resistanceOf } from "../hydraulics/resistance.ts";
import type { LineModel } from "../hydraulics/solveLine.ts";
import { beforeFork, type Segment } from "../line/compiledLine.ts";
import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { coefficientLoss, meanVelocity } from "../pipe/darcyWeisbach.ts";
import { COVERAGE } from "./acceptance.ts";
import type { Estimate } from "./instruments.ts";

/** The best value, and where it lies with nineteen in twenty. */
export interface Likely {
  low: number;
  value: number;
  high: number;
}

/** Head lost beyond what was worked out, as a fitter may find it. */
export interface SameAs {
  /** the longest run of the discharge, and m more of it */
  itemId: string;
  length: Likely;
  /** m of bore left of it all along; absent where no narrowing explains so much */
  bore?: Likely;
  /** how far a valve on the line, or a gate valve where it has none, would stand open */
  valve: { itemId?: string; fitting: string; opening: Likely };
}

/**
 * What a head in m taken beyond what was worked out, at a flow in m³/s, would be as pipe, as a narrowed bore and as a
 * valve partly shut. Undefined where the discharge has no pipe.
 */
export function sameAs(
  { line, model }: Pick<LineModel, "line" | "model">,
  at: number,
  flow: number,
  extra: Estimate,
): SameAs | undefined {
  const path = beforeFork(line, line.pumps[at]).map((i) => line.segments[i] as Segment);
  const main = path
    .filter(({ kind, run }) => kind === "pipe" && run)
    .reduce<Segment | undefined>(
      (longest, own) => ((own.run?.length ?? 0) > (longest?.run?.length ?? 0) ? own : longest),
      undefined,
    );
  const { run } = main ?? {};
  if (!main || !run || flow <= 0) return undefined;
  const lossOf = (over: Partial<typeof run>) =>
    headLoss(
      resistanceOf([{ ...main, run: { ...run, ...over } }], model.context),
      flow,
      model.context.friction,
    );
  const [perMetre, own] = [lossOf({ length: 1 }), lossOf({})];
  const valve = path.find(({ fitting }) => fitting?.throttles);
  const fitting = valve?.fitting ?? (findFitting(PLAIN_VALVE) as FittingStock);
  const { bore } = valve ?? main;
  const velocity = meanVelocity(flow, bore);

  const expanded = COVERAGE * extra.standardUncertainty;
  const likely = (of: (head: number) => number): Likely => {
    const [a, b] = [
      of(Math.max(extra.value - expanded, 0)),
      of(Math.max(extra.value + expanded, 0)),
    ];
    return { low: Math.min(a, b), value: of(Math.max(extra.value, 0)), high: Math.max(a, b) };
  };
  const boreFor = (head: number) => {
    const short = (left: number) => lossOf({ bore: left * run.bore }) - own - head;
    return head <= 0
      ? run.bore
      : run.bore * bracketedRoot(short, LEAST_BORE, 1, short(LEAST_BORE), -head, 1e-9);
  };
  const openingFor = (head: number) => {
    const short = (opening: number) =>
      coefficientLoss(throttleCoefficient(fitting, bore, opening), velocity) - head;
    return head <= 0
      ? 1
      : bracketedRoot(short, LEAST_OPENING, 1, short(LEAST_OPENING), -head, 1e-9);
  };
  const narrows = lossOf({ bore: LEAST_BORE * run.bore }) - own > extra.value + expanded;
  return {
    itemId: main.itemId,
    length: likely((head) => head / perMetre),
    ...(narrows && { bore: likely(boreFor) }),
    valve: {
      ...(valve && { itemId: valve.itemId }),
      fitting: fitting.id,
      opening: likely(openingFor),
    },
  };
}

const PLAIN_VALVE = "gate-valve";
/** Parts of the bore and of the travel below which nothing is looked for. */
const LEAST_BORE = 0.05;
const LEAST_OPENING = 1e-4;
