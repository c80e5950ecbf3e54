import type { PromiseComparison } from "#core/measurement/promise.ts";
import { promiseWords } from "#words/comparison.ts";
import { useUnits } from "../../state/settings.ts";
import { AcceptanceTitle } from "./AcceptanceTitle.tsx";

/** Whether what ran is what the line was promised, and what to do about it. */
export function PromiseCard({ promise }: { promise: PromiseComparison }) {
  const { sentence, mend } = promiseWords(promise, useUnits());
  return (
    <div data-kept={promise.kept}>
      <AcceptanceTitle acceptance={promise.kept} />
      <p className="mt-1 font-medium">{sentence}</p>
      <p className="mt-1 text-[14px]">{mend}</p>
    </div>
  );
}
