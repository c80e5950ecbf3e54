declare module "fmin/src/bisect.js" {
  export function bisect(
    f: (x: number) => number,
    a: number,
    b: number,
    parameters?: { tolerance?: number; maxIterations?: number },
  ): number;
}

declare module "newton-raphson-method" {
  export default function newtonRaphson(
    f: (x: number) => number,
    guess: number,
    options?: { tolerance?: number; maxIterations?: number; h?: number },
  ): number | false;
}
