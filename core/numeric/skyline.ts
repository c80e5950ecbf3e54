/**
 * A symmetric positive definite matrix as the triangle L D Lᵀ, each row kept from its first entry that
 * is not zero (its skyline) to the diagonal. Rows numbered along a line give short rows, so a long chain
 * costs in proportion to its length.
 * Source: A. Jennings, A compact storage scheme for the solution of symmetric linear simultaneous
 * equations, Computer J. 9 (1966) 281–285.
 */
export interface SkylineFactor {
  first: readonly number[];
  /** entries of L left of the diagonal, by row */
  rows: readonly number[][];
  diagonal: readonly number[];
}

/**
 * Factorises the matrix of `size` rows whose lower triangle holds `entries` at row · size + column.
 * Undefined when it is not positive definite to working accuracy.
 */
export function factorize(
  size: number,
  entries: ReadonlyMap<number, number>,
): SkylineFactor | undefined {
  const first = Array.from({ length: size }, (_, i) => i);
  for (const key of entries.keys()) {
    const row = Math.floor(key / size);
    first[row] = Math.min(first[row] as number, key % size);
  }
  const rows = first.map((start, row) =>
    Array.from({ length: row - start }, (_, i) => entries.get(row * size + start + i) ?? 0),
  );
  const diagonal: number[] = [];
  for (let i = 0; i < size; i++) {
    const row = rows[i] as number[];
    const start = first[i] as number;
    let pivot = entries.get(i * size + i) ?? 0;
    const whole = pivot;
    for (let j = start; j < i; j++) {
      const other = rows[j] as number[];
      const otherStart = first[j] as number;
      let sum = row[j - start] as number;
      for (let k = Math.max(start, otherStart); k < j; k++) {
        sum -= (row[k - start] as number) * (other[k - otherStart] as number);
      }
      row[j - start] = sum;
    }
    for (let j = start; j < i; j++) {
      const scaled = row[j - start] as number;
      const entry = scaled / (diagonal[j] as number);
      pivot -= scaled * entry;
      row[j - start] = entry;
    }
    if (!(pivot > whole * 1e-14)) return undefined;
    diagonal.push(pivot);
  }
  return { first, rows, diagonal };
}

/** x of L D Lᵀ x = right. */
export function solveFactorized(
  { first, rows, diagonal }: SkylineFactor,
  right: readonly number[],
): number[] {
  const x = [...right];
  for (const [i, row] of rows.entries()) {
    const start = first[i] as number;
    for (const [k, entry] of row.entries())
      x[i] = (x[i] as number) - entry * (x[start + k] as number);
  }
  for (const [i, pivot] of diagonal.entries()) x[i] = (x[i] as number) / pivot;
  for (let i = rows.length - 1; i >= 0; i--) {
    const start = first[i] as number;
    for (const [k, entry] of (rows[i] as number[]).entries()) {
      x[start + k] = (x[start + k] as number) - entry * (x[i] as number);
    }
  }
  return x;
}
