/** As much as the outside checks ask of it; the package itself is TypeScript of another strictness. */
export class Solver {
  constructor(equations: number);
  absoluteTolerance: number;
  relativeTolerance: number;
  solve(
    derivative: (t: number, y: number[]) => number[],
    from: number,
    start: number[],
    to: number,
  ): { y: number[] };
}
