/** A stretch of what lines a well: bore in m, from and to in m down from the casing's top. */
export interface Casing {
  bore: number;
  from: number;
  to: number;
}

/** The narrowest bore in m at a depth in m; of several, a liner inside a casing, the inner one counts. Undefined in bare rock. */
export function boreAt(casings: readonly Casing[], depth: number): number | undefined {
  const there = casings.filter(({ from, to }) => from <= depth && depth <= to);
  return there.length > 0 ? Math.min(...there.map(({ bore }) => bore)) : undefined;
}

/** The narrowest bore in m that is met on the way down to a depth in m. */
export function narrowestTo(casings: readonly Casing[], depth: number): Casing | undefined {
  return casings
    .filter(({ from }) => from < depth)
    .reduce<Casing | undefined>(
      (least, own) => (!least || own.bore < least.bore ? own : least),
      undefined,
    );
}

/**
 * m² of water surface in the well between two depths, on average: what the casing holds for each m, less the pipe that
 * hangs in it. Stretches that nothing lines count as the narrowest bore known.
 */
export function meanArea(
  casings: readonly Casing[],
  from: number,
  to: number,
  pipe = 0,
): number | undefined {
  if (casings.length === 0 || to <= from) return undefined;
  const edges = [from, to, ...casings.flatMap((own) => [own.from, own.to])]
    .filter((edge) => edge >= from && edge <= to)
    .toSorted((a, b) => a - b);
  const least = Math.min(...casings.map(({ bore }) => bore));
  let volume = 0;
  for (let i = 1; i < edges.length; i++) {
    const [a, b] = [edges[i - 1] as number, edges[i] as number];
    volume += (b - a) * disc(boreAt(casings, (a + b) / 2) ?? least);
  }
  return Math.max(volume / (to - from) - disc(pipe), MOST_FILLED * disc(least));
}

/** Of a casing a pipe that hangs in it leaves at least this part. */
const MOST_FILLED = 0.05;

const disc = (diameter: number) => (Math.PI / 4) * diameter ** 2;

/**
 * s a well takes to come to 1/e of a change where its casing holds `area` m² and the ground gives a flow as its drawdown
 * asks, `linear` in m per m³/s: A·B. The closed form of A ds/dt = Q − s/B, for a well whose drawdown is linear.
 */
export const settlingTime = (area: number, linear: number): number => area * linear;

/** m of drawdown so many s after the pump stopped: s = s₀ e^(−t/AB). */
export const recoveringDrawdown = (start: number, settling: number, time: number): number =>
  start * Math.exp(-time / settling);

/** s until a part of the drawdown, 0 to 1, is left after the pump stopped. */
export const recoveryTime = (settling: number, part: number): number =>
  settling * Math.log(1 / part);
