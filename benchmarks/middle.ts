const TIMES = 9;

/** ms after which the engine's compiler has done its work */
const WARM = 500;

/** ms of the middle one of several, warmed up. */
export function middle(work: () => unknown): number {
  for (const end = performance.now() + WARM; performance.now() < end; ) work();
  const all = Array.from({ length: TIMES }, () => {
    const begins = performance.now();
    work();
    return performance.now() - begins;
  });
  return all.toSorted((a, b) => a - b)[TIMES >> 1] as number;
}
