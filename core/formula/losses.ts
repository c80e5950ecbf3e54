import { FAMILIES } from "../catalogue/pipes.ts";
import { lossCoefficient } from "../fitting/resistance.ts";
import { type Boundary, headOutside } from "../hydraulics/boundary.ts";
import { HOLE_COEFFICIENT } from "../hydraulics/hydraulicModel.ts";
import type { LossContext } from "../hydraulics/resistance.ts";
import type { Hole, Segment } from "../line/compiledLine.ts";
import { type Derivation, type DerivationStep, derive, deriveOver, term } from "./formula.ts";
import {
  COEFFICIENT_LOSS,
  DARCY_WEISBACH,
  DRAWDOWN,
  EMITTER,
  EQUIVALENT_LENGTH,
  FACTOR_BETWEEN,
  FACTOR_LAMINAR,
  FACTOR_TURBULENT,
  HAZEN_WILLIAMS,
  ORIFICE,
  REYNOLDS,
  RUNS_BACK,
  SUM_OF_HEADS,
  VELOCITY,
} from "./laws.ts";

/**
 * How the head a segment takes at a flow in m³/s comes about; it ends with that head, which is negative where the
 * water runs against the path.
 */
export function lossDerivation(segment: Segment, flow: number, context: LossContext): Derivation {
  const steps = alongFlow(segment, Math.abs(flow), context);
  const last = steps.at(-1);
  return flow < 0 && last ? [...steps, derive(RUNS_BACK, [last.result.value])] : steps;
}

function alongFlow(segment: Segment, q: number, context: LossContext): Derivation {
  const { emitter, drawdown, run, k, bore } = segment;
  const { water } = context;
  if (emitter) return [derive(EMITTER, [emitter.pressure, water.density, q, emitter.flow])];
  if (drawdown) return [derive(DRAWDOWN, [drawdown.linear, drawdown.quadratic, q])];
  const friction = run && q > 0 ? frictionSteps(segment, run, q, context) : [];
  const velocity = derive(VELOCITY, [q, bore]);
  const local =
    k > 0 || friction.length === 0
      ? [velocity, derive(COEFFICIENT_LOSS, [k, velocity.result.value], coefficientNotes(segment))]
      : [];
  const parts = [friction, local].filter((steps) => steps.length > 0);
  if (parts.length < 2) return parts.flat();
  // A throttled valve in the equivalent-length school takes both.
  const both = parts.map((steps) => (steps.at(-1) as DerivationStep).result);
  return [...parts.flat(), deriveOver(SUM_OF_HEADS, both)];
}

function frictionSteps(
  segment: Segment,
  run: NonNullable<Segment["run"]>,
  flow: number,
  { water, friction }: LossContext,
): Derivation {
  const { fitting, stock } = segment;
  const { length, bore, roughness, hazenWilliamsC } = run;
  const length_ = fitting
    ? [derive(EQUIVALENT_LENGTH, [length / bore, bore], { source: fitting.source })]
    : [];
  const assumed = stock ? [FAMILIES[stock.family].assumption] : [];
  const names = fitting ? { 1: "equivalent length" } : {};
  if (friction === "hazen-williams") {
    const first = fitting ? { 0: "equivalent length" } : {};
    return [
      ...length_,
      derive(HAZEN_WILLIAMS, [length, flow, hazenWilliamsC, bore], { assumed, names: first }),
    ];
  }
  const velocity = derive(VELOCITY, [flow, bore]);
  const v = velocity.result.value;
  const reynolds = derive(REYNOLDS, [water.density, v, bore, water.viscosity]);
  const re = reynolds.result.value;
  const law = re <= 2000 ? FACTOR_LAMINAR : re < 4000 ? FACTOR_BETWEEN : FACTOR_TURBULENT;
  const factor = derive(law, [re, roughness, bore], { assumed });
  const loss = derive(DARCY_WEISBACH, [factor.result.value, length, bore, v], { names });
  return [...length_, velocity, reynolds, factor, loss];
}

/** Where a segment's loss coefficient comes from. */
function coefficientNotes({ kind, fitting, bore, k, count, opening }: Segment) {
  switch (kind) {
    case "exit":
      return { source: "The speed of the jet is spent: K = 1" };
    case "nozzle":
      return {
        source: "Nozzle q = Cd A √(2p/ρ)",
        names: { 0: "loss coefficient 1/Cd²" },
        assumed: ["The discharge coefficient typed for this outlet"],
      };
    case "bore-change":
      return {
        source:
          "Sudden: widening (1 − β²)² (Borda–Carnot), narrowing 0.5 (1 − β²); tapered: Crane TP 410",
        names: { 0: "loss coefficient on the smaller bore" },
        assumed: ["Sudden, unless a tapered reducer stands before it"],
      };
    default: {
      if (!fitting) return {};
      const pieces = count > 1 ? `loss coefficient, ${count} pieces` : "loss coefficient";
      const partly = opening < 1 || Math.abs(k - count * lossCoefficient(fitting, bore)) > 1e-9 * k;
      const assumed = partly ? ["The opening of the valve: from measured tables, from memory"] : [];
      return { source: fitting.source, names: { 0: pieces }, assumed };
    }
  }
}

/** What leaves through a hole under a total head in m above datum, less what stands outside it. */
export function holeStep(hole: Hole, totalHead: number, boundary: Boundary): DerivationStep {
  const head = Math.max(totalHead - headOutside(hole, boundary), 0);
  return derive(ORIFICE, [HOLE_COEFFICIENT, hole.bore, head]);
}

/** Bores and the lengths of pipe that hold water, pipes of one bore together. */
export function volumeTerms(pipes: readonly { bore: number; length: number }[]) {
  const lengths = new Map<number, number>();
  for (const { bore, length } of pipes) lengths.set(bore, (lengths.get(bore) ?? 0) + length);
  return [...lengths].flatMap(([bore, length], i) => [
    term({ symbol: `D_${i + 1}`, name: "real bore", quantity: "diameter" }, bore),
    term({ symbol: `L_${i + 1}`, name: "length that counts", quantity: "length" }, length),
  ]);
}
