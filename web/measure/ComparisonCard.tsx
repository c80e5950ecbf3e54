import { formatPercent } from "#contract/units/format.ts";
import type { Comparison } from "#core/measurement/acceptance.ts";
import { comparisonWords, INPUT_NAMES } from "#words/comparison.ts";
import { useUnits } from "../app/settings.ts";
import { CircleCheck, CircleQuestionMark, OctagonX } from "../ui/icons.ts";

const ICONS = {
  meets: CircleCheck,
  "falls-short": OctagonX,
  "cannot-tell": CircleQuestionMark,
} as const;

/** Whether the pump does what its curve says, and on what that rests. */
export function ComparisonCard({ comparison }: { comparison: Comparison }) {
  const units = useUnits();
  const words = comparisonWords(comparison, units);
  const Icon = ICONS[comparison.acceptance];
  return (
    <div data-acceptance={comparison.acceptance}>
      <p
        className={`plate flex items-center gap-2 text-3xl leading-tight ${comparison.acceptance === "falls-short" ? "text-signal" : ""}`}
      >
        <Icon size={28} strokeWidth={2.4} aria-hidden />
        {words.title}
      </p>
      <p className="mt-1 font-medium">{words.measured}</p>
      <p className="mt-1 text-[14px]">{words.atHead}</p>
      <p className="text-[14px]">{words.atFlow}</p>
      {words.misplaced && <p className="text-[14px] font-medium">{words.misplaced}</p>}
      <p className="mt-1">{words.mend}</p>
      <details className="mt-1 text-[14px]">
        <summary className="min-h-7 text-soft">Where the doubt in the head comes from</summary>
        <ul>
          {comparison.head.budget.map(({ name, share }) => (
            <li key={name} className="flex justify-between">
              <span>{INPUT_NAMES[name]}</span>
              <span>{formatPercent(share)}</span>
            </li>
          ))}
        </ul>
      </details>
      <p className="mt-1 text-[12px] text-soft">
        ± to about 95 %, first order (GUM, JCGM 100). Tolerance by ISO 9906 grade, from memory.
      </p>
    </div>
  );
}
