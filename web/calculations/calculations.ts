import type { Line } from "#core/line/path.ts";
import type { Pump } from "#core/pump/pump.ts";
import { type BandResult, type Doubt, dutyBand, USUAL_DRAWS } from "#core/whatif/uncertainty.ts";

/** Called now and then with how much of a computation is done, 0 to 1. */
export type Progress = (done: number) => void;

/**
 * The long computations, worked out beside the page. Each is a plain function that runs in Node.js just as well;
 * its last argument hears how far it has got.
 */
export const CALCULATIONS = {
  band: (line: Line, pumps: Pump[], doubt: Doubt, progress: Progress): BandResult =>
    dutyBand(line, pumps, doubt, USUAL_DRAWS, (draws) => progress(draws / USUAL_DRAWS)),
};

export type Calculations = typeof CALCULATIONS;
export type CalculationName = keyof Calculations;
/** What one is asked with, its progress left out. */
export type ArgumentsOf<N extends CalculationName> =
  Parameters<Calculations[N]> extends [...infer Rest, Progress] ? Rest : never;
export type ResultOf<N extends CalculationName> = ReturnType<Calculations[N]>;
