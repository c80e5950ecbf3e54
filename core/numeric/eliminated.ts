/**
 * The solution of a few linear equations, rows ending with their right-hand side, by Gauss with the largest pivot.
 * Undefined where the rows do not tell all of them apart. The rows are used up.
 * @example eliminated([[2, 1, 5], [1, 3, 10]]) // [1, 3]
 */
export function eliminated(rows: number[][]): number[] | undefined {
  const n = rows.length;
  for (let i = 0; i < n; i++) {
    let pivot = i;
    for (let k = i + 1; k < n; k++) {
      if (Math.abs(rows[k]?.[i] as number) > Math.abs(rows[pivot]?.[i] as number)) pivot = k;
    }
    const own = rows[pivot] as number[];
    if (Math.abs(own[i] as number) < 1e-9) return undefined;
    rows[pivot] = rows[i] as number[];
    rows[i] = own;
    for (const [k, row] of rows.entries()) {
      if (k === i) continue;
      const factor = (row[i] as number) / (own[i] as number);
      for (let j = i; j <= n; j++) row[j] = (row[j] as number) - factor * (own[j] as number);
    }
  }
  return rows.map((row, i) => (row[n] as number) / (row[i] as number));
}
