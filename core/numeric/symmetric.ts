/**
 * Lower triangle L of a symmetric positive definite matrix A = L Lᵀ (Cholesky). Undefined where A is not positive
 * definite: a pivot that falls below `least` of the element it came from counts as none.
 */
export function cholesky(a: readonly (readonly number[])[], least = 1e-12): number[][] | undefined {
  const l: number[][] = a.map((row) => row.map(() => 0));
  for (let i = 0; i < a.length; i++) {
    const own = l[i] as number[];
    for (let j = 0; j <= i; j++) {
      const other = l[j] as number[];
      let sum = a[i]?.[j] as number;
      for (let k = 0; k < j; k++) sum -= (own[k] as number) * (other[k] as number);
      if (i !== j) own[j] = sum / (other[j] as number);
      else {
        if (!(sum > least * (a[i]?.[i] as number))) return undefined;
        own[i] = Math.sqrt(sum);
      }
    }
  }
  return l;
}

/** x of A x = b, from the triangle of A. */
export function solved(l: readonly (readonly number[])[], b: readonly number[]): number[] {
  const x = [...b];
  for (let i = 0; i < x.length; i++) {
    for (let k = 0; k < i; k++) {
      x[i] = (x[i] as number) - (l[i]?.[k] as number) * (x[k] as number);
    }
    x[i] = (x[i] as number) / (l[i]?.[i] as number);
  }
  for (let i = x.length - 1; i >= 0; i--) {
    for (let k = i + 1; k < x.length; k++) {
      x[i] = (x[i] as number) - (l[k]?.[i] as number) * (x[k] as number);
    }
    x[i] = (x[i] as number) / (l[i]?.[i] as number);
  }
  return x;
}

/** The inverse of A, from its triangle. */
export function inverse(l: readonly (readonly number[])[]): number[][] {
  return l.map((_, i) =>
    solved(
      l,
      l.map((__, k) => (k === i ? 1 : 0)),
    ),
  );
}
