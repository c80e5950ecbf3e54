/** Input power of a drive against its speed: W that it takes idling, and a part that grows with a power of speed. */
export interface SweepFit {
  /** P = idle + scale · n^exponent, with n the speed over the rated one */
  idle: number;
  scale: number;
  exponent: number;
  /** W, root mean square of what the fit misses */
  misses: number;
  /** slope of log P against log n: what a fit without an idle part would take for the exponent */
  plainSlope: number;
}

export type SweepResult =
  | { kind: "fitted"; fit: SweepFit }
  /** three numbers want four rows, over speeds that differ by half */
  | { kind: "too-few"; rows: number }
  | { kind: "too-alike"; from: number; to: number };

/** Rows it takes to tell three numbers with something left to say how well. */
const LEAST_ROWS = 4;
const EXPONENTS: readonly [number, number] = [1, 4];

/**
 * Fits idle power, scale and exponent to a sweep by least squares: for each exponent the other two follow from a
 * straight line, idle held at none or more, and the exponent that misses least is searched for.
 * @param rows speed over the rated one, and W
 */
export function fitSweep(rows: readonly { speed: number; power: number }[]): SweepResult {
  if (rows.length < LEAST_ROWS) return { kind: "too-few", rows: rows.length };
  const speeds = rows.map(({ speed }) => speed);
  const [from, to] = [Math.min(...speeds), Math.max(...speeds)];
  if (!(to >= 1.5 * from)) return { kind: "too-alike", from, to };
  const missed = (exponent: number) => straight(rows, exponent).sum;
  const exponent = leastBetween(missed, ...EXPONENTS);
  const { idle, scale, sum } = straight(rows, exponent);
  return {
    kind: "fitted",
    fit: {
      ...{ idle, scale, exponent },
      misses: Math.sqrt(sum / rows.length),
      plainSlope: slopeOf(rows.map(({ speed, power }) => [Math.log(speed), Math.log(power)])),
    },
  };
}

/** The line P = idle + scale · x through the rows with x = n^exponent. */
function straight(rows: readonly { speed: number; power: number }[], exponent: number) {
  const pairs = rows.map(({ speed, power }) => [speed ** exponent, power] as const);
  let scale = slopeOf(pairs);
  const mean = (i: 0 | 1) => pairs.reduce((sum, pair) => sum + pair[i], 0) / pairs.length;
  let idle = mean(1) - scale * mean(0);
  if (idle < 0) {
    idle = 0;
    scale =
      pairs.reduce((sum, [x, y]) => sum + x * y, 0) / pairs.reduce((sum, [x]) => sum + x * x, 0);
  }
  const sum = pairs.reduce((all, [x, y]) => all + (y - idle - scale * x) ** 2, 0);
  return { idle, scale, sum };
}

function slopeOf(pairs: readonly (readonly [number, number])[]): number {
  const count = pairs.length;
  const mean = (i: 0 | 1) => pairs.reduce((sum, pair) => sum + (pair[i] as number), 0) / count;
  const [mx, my] = [mean(0), mean(1)];
  const top = pairs.reduce((sum, [x, y]) => sum + (x - mx) * (y - my), 0);
  return top / pairs.reduce((sum, [x]) => sum + (x - mx) ** 2, 0);
}

/** Where a function of one valley is least: golden sections, from a grid's best neighbourhood. */
function leastBetween(f: (x: number) => number, low: number, high: number): number {
  const steps = 60;
  let best = 0;
  const at = (i: number) => low + ((high - low) * i) / steps;
  for (let i = 1; i <= steps; i++) if (f(at(i)) < f(at(best))) best = i;
  let [a, b] = [at(Math.max(best - 1, 0)), at(Math.min(best + 1, steps))];
  const golden = (Math.sqrt(5) - 1) / 2;
  for (let i = 0; i < 60; i++) {
    const [c, d] = [b - golden * (b - a), a + golden * (b - a)];
    if (f(c) < f(d)) b = d;
    else a = c;
  }
  return (a + b) / 2;
}
