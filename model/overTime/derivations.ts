import { type Derivation, derive } from "#core/formula/formula.ts";
import { FILLING, PUMPING, STARTS } from "#core/formula/overTime.ts";
import type { Answers } from "#core/simulation/answers.ts";
import type { AnswerLine } from "#words/overTime.ts";

/** Figures of a run that show how they come about. */
export type WorkedFigure = NonNullable<AnswerLine["worked"]>;
export const WORKED: readonly WorkedFigure[] = ["starts", "unpumped", "dry"];

/** How a figure comes about; the last step ends with it. Undefined where the run has none. */
export function runDerivation(which: WorkedFigure, answers: Answers): Derivation | undefined {
  switch (which) {
    case "starts": {
      const { switching } = answers;
      if (!switching) return undefined;
      const { worst, volume, fallsBack, turns } = switching;
      const { inflow, pumping } = worst;
      return [
        derive(FILLING, [volume, fallsBack, inflow]),
        derive(PUMPING, [volume, volume / pumping + inflow, inflow]),
        derive(STARTS, [worst.filling, pumping, turns]),
      ];
    }
    case "unpumped": {
      const { unpumped } = answers;
      return unpumped && [derive(FILLING, [unpumped.room, 0, unpumped.inflow])];
    }
    case "dry": {
      const { dry, moved, cameIn } = answers;
      if (!dry || !(moved > cameIn)) return undefined;
      const [inflow, flow] = [cameIn / dry.at, moved / dry.at];
      return [derive(PUMPING, [moved - cameIn, flow, inflow])];
    }
  }
}
