import type { PredictionComparison } from "#core/measurement/prediction.ts";
import { predictionWords } from "#words/comparison.ts";
import { useUnits } from "../../state/settings.ts";
import { AcceptanceTitle } from "./AcceptanceTitle.tsx";

/** Whether what ran is what the line was promised, and what to do about it. */
export function PredictionCard({ prediction }: { prediction: PredictionComparison }) {
  const { sentence, advice } = predictionWords(prediction, useUnits());
  return (
    <div data-kept={prediction.kept}>
      <AcceptanceTitle acceptance={prediction.kept} />
      <p className="mt-1 font-medium">{sentence}</p>
      <p className="mt-1 text-[14px]">{advice}</p>
    </div>
  );
}
