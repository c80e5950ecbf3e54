import { expose } from "comlink";
import { CALCULATIONS, type CalculationName, type Progress } from "./calculations.ts";

/** One computation by its name; an error in it comes home to the page as that error. */
export function calculate(
  name: CalculationName,
  args: readonly unknown[],
  progress: Progress<unknown>,
) {
  const run = CALCULATIONS[name] as (...args: unknown[]) => unknown;
  return run(...args, progress);
}

export type CalculationsWorker = { calculate: typeof calculate };

expose({ calculate } satisfies CalculationsWorker);
