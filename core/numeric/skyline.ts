/**
 * A symmetric positive definite matrix as the triangle L D Lᵀ, each row kept from its first entry that
 * is not zero (its skyline) to the diagonal. Rows numbered along a line give short rows, so a long chain
 * costs in proportion to its length.
 * Source: A. Jennings, A compact storage scheme for the solution of symmetric linear simultaneous
 * equations, Computer J. 9 (1966) 281–285.
 */
export interface Skyline {
  size: number;
  /** column of each row's first entry */
  first: Int32Array;
  /** place of each row's first entry in `values`; one more at the end */
  start: Int32Array;
  /** rows one after another, each ending in its diagonal */
  values: Float64Array;
}

/** Room for a matrix of `size` rows with entries at the given pairs of rows, in either order. */
export function skyline(size: number, pairs: Iterable<readonly [number, number]>): Skyline {
  const first = Int32Array.from({ length: size }, (_, row) => row);
  for (const [a, b] of pairs) {
    const row = Math.max(a, b);
    first[row] = Math.min(first[row] as number, a, b);
  }
  const start = new Int32Array(size + 1);
  for (let row = 0; row < size; row++) {
    start[row + 1] = (start[row] as number) + row - (first[row] as number) + 1;
  }
  return { size, first, start, values: new Float64Array(start[size] as number) };
}

/** Adds to an entry at or below the diagonal that was given room. */
export function addEntry({ first, start, values }: Skyline, a: number, b: number, value: number) {
  const row = Math.max(a, b);
  const place = (start[row] as number) + Math.min(a, b) - (first[row] as number);
  values[place] = (values[place] as number) + value;
}

/**
 * Overwrites the matrix with its factors and `right` with the solution. False when it is not positive
 * definite to working accuracy.
 */
export function solveSkyline({ size, first, start, values }: Skyline, right: Float64Array) {
  // Entries of one row stand side by side: entry (i, j) is at base(i) + j.
  const base = (row: number) => (start[row] as number) - (first[row] as number);
  for (let i = 0; i < size; i++) {
    const from = first[i] as number;
    const rowI = base(i);
    const whole = values[rowI + i] as number;
    for (let j = from + 1; j < i; j++) {
      const rowJ = base(j);
      let sum = values[rowI + j] as number;
      for (let k = Math.max(from, first[j] as number); k < j; k++) {
        sum -= (values[rowI + k] as number) * (values[rowJ + k] as number);
      }
      values[rowI + j] = sum;
    }
    let pivot = whole;
    for (let j = from; j < i; j++) {
      const scaled = values[rowI + j] as number;
      const entry = scaled / (values[base(j) + j] as number);
      pivot -= scaled * entry;
      values[rowI + j] = entry;
    }
    if (!(pivot > whole * 1e-14)) return false;
    values[rowI + i] = pivot;
  }
  for (let i = 0; i < size; i++) {
    const rowI = base(i);
    let sum = right[i] as number;
    for (let k = first[i] as number; k < i; k++) {
      sum -= (values[rowI + k] as number) * (right[k] as number);
    }
    right[i] = sum;
  }
  for (let i = 0; i < size; i++) right[i] = (right[i] as number) / (values[base(i) + i] as number);
  for (let i = size - 1; i > 0; i--) {
    const rowI = base(i);
    const x = right[i] as number;
    for (let k = first[i] as number; k < i; k++) {
      right[k] = (right[k] as number) - (values[rowI + k] as number) * x;
    }
  }
  return true;
}
