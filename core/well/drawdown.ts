import type { Drawdown } from "../line/path.ts";

/** What was read while a well was pumped at one rate: m³/s, and m drawn down. */
export interface TestStep {
  flow: number;
  drawdown: number;
}

export type DrawdownFit =
  | {
      kind: "fitted";
      drawdown: Drawdown;
      /**
       * Standard uncertainties of B and C, and what they have in common: from the scatter of three steps or more, and
       * never less than what a dip tape and a bucket leave in doubt.
       */
      covariance: { linear: number; quadratic: number; both: number };
      /** m by which the steps scatter about the curve; absent where it goes through all of them anyhow */
      scatter?: number;
      /** m³/s: above it nothing was measured */
      testedTo: number;
      /** the best curve bends the wrong way, or would push water up: the other term alone was fitted */
      held?: "quadratic" | "linear";
    }
  | { kind: "none" }
  /** step `at` stands above the standing water, or at it */
  | { kind: "no-drawdown"; at: number };

/** Doubt of one dip of the water level in m, and of a flow as a fraction. Common practice, no source. */
const DIP = 0.02;
const TIMED = 0.05;

/**
 * B and C of s = B Q + C Q² by unweighted least squares of s/Q against Q; from one step C is nothing.
 * Source: C. E. Jacob, Trans. ASCE 112 (1947) 1047–1064; the straight line of s/Q against Q is his.
 */
export function fitDrawdown(steps: readonly TestStep[]): DrawdownFit {
  const wrong = steps.findIndex(({ drawdown, flow }) => drawdown <= 0 || flow <= 0);
  if (wrong >= 0) return { kind: "no-drawdown", at: wrong };
  if (steps.length === 0) return { kind: "none" };
  const flows = steps.map(({ flow }) => flow);
  const specific = steps.map(({ flow, drawdown }) => drawdown / flow);
  const n = steps.length;
  const meanFlow = mean(flows);
  const meanSpecific = mean(specific);
  const spread = sum(flows.map((flow) => (flow - meanFlow) ** 2));
  // Steps of one and the same flow tell of no bend.
  const oneFlow = spread <= (1e-6 * meanFlow) ** 2 * n;
  const slope = oneFlow
    ? 0
    : sum(flows.map((flow, i) => (flow - meanFlow) * ((specific[i] as number) - meanSpecific))) /
      spread;
  const intercept = meanSpecific - slope * meanFlow;
  const held = slope < 0 ? "quadratic" : intercept < 0 ? "linear" : undefined;
  const bent = !oneFlow && held === undefined;
  const drawdown: Drawdown =
    held === "linear"
      ? {
          linear: 0,
          quadratic: sum(flows.map((q, i) => q * (specific[i] as number))) / squares(flows),
        }
      : bent
        ? { linear: intercept, quadratic: slope }
        : { linear: meanSpecific, quadratic: 0 };
  // How B and C move with each s/Q that was read: both are sums of them with these weights.
  const linearWeights = flows.map((flow) =>
    held === "linear" ? 0 : bent ? 1 / n - (meanFlow * (flow - meanFlow)) / spread : 1 / n,
  );
  const quadraticWeights = flows.map((flow) =>
    held === "linear" ? flow / squares(flows) : bent ? (flow - meanFlow) / spread : 0,
  );
  const off = flows.map(
    (flow, i) => (specific[i] as number) - drawdown.linear - drawdown.quadratic * flow,
  );
  const free = n - (bent ? 2 : 1);
  const scattered = free > 0 ? squares(off) / free : 0;
  const read = steps.map(
    ({ flow, drawdown: own }) => (DIP / flow) ** 2 + (TIMED * (own / flow)) ** 2,
  );
  const variance = read.map((own) => Math.max(own, scattered));
  const together = (a: readonly number[], b: readonly number[]) =>
    sum(variance.map((own, i) => own * (a[i] as number) * (b[i] as number)));
  return {
    kind: "fitted",
    drawdown,
    covariance: {
      linear: together(linearWeights, linearWeights),
      quadratic: together(quadraticWeights, quadraticWeights),
      both: together(linearWeights, quadraticWeights),
    },
    ...(free > 0 && {
      scatter: Math.sqrt(sum(off.map((own, i) => (own * (flows[i] as number)) ** 2)) / free),
    }),
    testedTo: Math.max(...flows),
    ...(held && { held }),
  };
}

/**
 * m drawn down at a flow in m³/s once it has settled.
 * @example drawdownAt({ linear: 2000, quadratic: 1e6 }, 0.001) // 3
 */
export const drawdownAt = ({ linear, quadratic }: Drawdown, flow: number): number =>
  linear * flow + quadratic * flow * flow;

/** Half-width in m of a drawdown by its fit, at two standard deviations. */
export function drawdownUncertainty(
  { covariance }: Extract<DrawdownFit, { kind: "fitted" }>,
  flow: number,
): number {
  const { linear, quadratic, both } = covariance;
  return 2 * Math.sqrt(linear * flow ** 2 + quadratic * flow ** 4 + 2 * both * flow ** 3);
}

/**
 * m³/s that draws a well down by so many m and no further; without end where nothing draws it down.
 * @example flowDrawing({ linear: 2000, quadratic: 1e6 }, 3) // 0.001
 */
export function flowDrawing({ linear, quadratic }: Drawdown, drawdown: number): number {
  if (drawdown <= 0) return 0;
  if (linear <= 0 && quadratic <= 0) return Number.POSITIVE_INFINITY;
  // The root that keeps its digits while C is small.
  return (2 * drawdown) / (linear + Math.sqrt(linear ** 2 + 4 * quadratic * drawdown));
}

const sum = (values: readonly number[]) => values.reduce((total, own) => total + own, 0);
const squares = (values: readonly number[]) => sum(values.map((own) => own * own));
const mean = (values: readonly number[]) => sum(values) / values.length;
