import type { Acceptance } from "#core/measurement/acceptance.ts";
import type { Kept } from "#core/measurement/prediction.ts";
import { ACCEPTANCE } from "#words/comparison.ts";

/** On a phone the verdict stays in sight while the reading is typed. */
export function VerdictStrip({
  verdict,
  flow,
  sentence,
  lacks,
  onFile,
}: {
  verdict: Acceptance | Kept | undefined;
  flow: string | undefined;
  /** how a flow alone stands against what was promised */
  sentence: string | undefined;
  lacks: string;
  /** files the reading, where there is one to file */
  onFile: (() => void) | undefined;
}) {
  return (
    <div className="no-print sticky bottom-0 z-10 border-t border-rule bg-ink px-3 py-1.5 text-paper lg:hidden">
      <p className="flex items-baseline justify-between gap-3">
        <span className="plate text-2xl">{verdict ? ACCEPTANCE[verdict] : lacks}</span>
        {flow && <span className="plate text-lg">{flow}</span>}
      </p>
      {onFile && (
        <button
          type="button"
          className="target plate mt-1 mb-1 w-full rounded bg-paper text-xl text-ink"
          onClick={onFile}
        >
          File it
        </button>
      )}
      {sentence && <p className="text-[15px]">{sentence}</p>}
    </div>
  );
}
