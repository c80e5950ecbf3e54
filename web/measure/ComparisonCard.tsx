import { formatPercent } from "#contract/units/format.ts";
import type { Comparison } from "#core/measurement/acceptance.ts";
import { comparisonWords, INPUT_NAMES } from "#words/comparison.ts";
import { useUnits } from "../app/settings.ts";
import { AcceptanceTitle } from "./AcceptanceTitle.tsx";

/** Whether the pump does what its curve says, and on what that rests. */
export function ComparisonCard({ comparison }: { comparison: Comparison }) {
  const units = useUnits();
  const words = comparisonWords(comparison, units);
  return (
    <div data-acceptance={comparison.acceptance}>
      <AcceptanceTitle acceptance={comparison.acceptance} />
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
