import type { PredictionComparison } from "#core/measurement/prediction.ts";
import { predictionWords } from "#words/comparison.ts";
import { useUnits } from "../../state/settings.ts";
import { AcceptanceTitle } from "./AcceptanceTitle.tsx";

/** Whether what ran is what the line was promised, and what to do about it. */
export function PredictionCard({ promise }: { promise: PredictionComparison }) {
  const { sentence, mend } = predictionWords(promise, useUnits());
  return (
    <div data-kept={promise.kept}>
      <AcceptanceTitle acceptance={promise.kept} />
      <p className="mt-1 font-medium">{sentence}</p>
      <p className="mt-1 text-[14px]">{mend}</p>
    </div>
  );
}
