/**
 * A smooth curve through given points that never overshoots them: it rises only where the points
 * rise and falls only where they fall.
 *
 * Source: F. N. Fritsch, R. E. Carlson, Monotone Piecewise Cubic Interpolation, SIAM J. Numer.
 * Anal. 17 (1980) 238–246. The slopes before their limiter are those of the parabola through three
 * neighbouring points, so that points set unevenly along a smooth curve give back that curve.
 */
export interface MonotoneCubic {
  x: readonly number[];
  y: readonly number[];
  /** dy/dx at each point */
  slope: readonly number[];
}

/** Curve through two or more points with strictly rising `x`. */
export function monotoneCubic(x: readonly number[], y: readonly number[]): MonotoneCubic {
  const step = (i: number) => at(x, i + 1) - at(x, i);
  const secant = (i: number) => (at(y, i + 1) - at(y, i)) / step(i);
  const last = x.length - 2;
  const slope = x.map((_, i) => {
    if (last === 0) return secant(0);
    if (i === 0) return atEnd(step(0), step(1), secant(0), secant(1));
    if (i > last) return atEnd(step(last), step(last - 1), secant(last), secant(last - 1));
    const [before, after] = [secant(i - 1), secant(i)];
    if (before * after <= 0) return 0;
    const [left, right] = [step(i - 1), step(i)];
    return (before * right + after * left) / (left + right);
  });
  // Slopes within three times the neighbouring secants keep every piece monotone (section 3 there).
  for (let i = 0; i <= last; i++) {
    const most = 3 * Math.abs(secant(i));
    slope[i] = Math.max(-most, Math.min(most, at(slope, i)));
    slope[i + 1] = Math.max(-most, Math.min(most, at(slope, i + 1)));
  }
  return { x, y, slope };
}

/**
 * The curve through the same points with every x and y times a factor above zero: it keeps its shape.
 * @example evaluate(scaled(monotoneCubic([0, 1], [2, 4]), 10, 3), 5) // 9
 */
export function scaled({ x, y, slope }: MonotoneCubic, byX: number, byY: number): MonotoneCubic {
  if (byX === 1 && byY === 1) return { x, y, slope };
  return { x: times(x, byX), y: times(y, byY), slope: times(slope, byY / byX) };
}

function times(values: readonly number[], factor: number): number[] {
  const found = new Array<number>(values.length);
  for (let i = 0; i < values.length; i++) found[i] = (values[i] as number) * factor;
  return found;
}

/** End slope of the parabola through the last three points; flat where it would turn the curve back. */
function atEnd(near: number, far: number, secantNear: number, secantFar: number): number {
  const slope = ((2 * near + far) * secantNear - near * secantFar) / (near + far);
  return slope * secantNear > 0 ? slope : 0;
}

/** Value at `x`, which the caller keeps between the first and last point. */
export function evaluate(curve: MonotoneCubic, x: number): number {
  const i = intervalOf(curve.x, x);
  const x0 = at(curve.x, i);
  const h = at(curve.x, i + 1) - x0;
  const t = (x - x0) / h;
  const t2 = t * t;
  const t3 = t2 * t;
  return (
    at(curve.y, i) * (2 * t3 - 3 * t2 + 1) +
    at(curve.slope, i) * h * (t3 - 2 * t2 + t) +
    at(curve.y, i + 1) * (3 * t2 - 2 * t3) +
    at(curve.slope, i + 1) * h * (t3 - t2)
  );
}

/** dy/dx at `x`, which the caller keeps between the first and last point. */
export function slopeAt(curve: MonotoneCubic, x: number): number {
  const i = intervalOf(curve.x, x);
  const x0 = at(curve.x, i);
  const h = at(curve.x, i + 1) - x0;
  const t = (x - x0) / h;
  const rise = (at(curve.y, i + 1) - at(curve.y, i)) / h;
  return (
    6 * t * (1 - t) * rise +
    at(curve.slope, i) * (3 * t * t - 4 * t + 1) +
    at(curve.slope, i + 1) * (3 * t * t - 2 * t)
  );
}

function intervalOf(xs: readonly number[], x: number): number {
  let low = 0;
  let high = xs.length - 2;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (at(xs, middle) <= x) low = middle;
    else high = middle - 1;
  }
  return low;
}

function at(values: readonly number[], index: number): number {
  return values[index] as number;
}
