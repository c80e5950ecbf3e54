import type { ReadingDocument } from "#contract/documents/fieldTest.ts";
import { formatPercent } from "#contract/units/format.ts";
import type { Comparison } from "#core/measurement/acceptance.ts";
import type { Reach } from "#core/measurement/reach.ts";
import { comparisonWords } from "#words/comparison.ts";
import { parted, shrinkWords, uncertaintyName } from "#words/fieldTests.ts";
import { useInstruments } from "../../instruments/useInstruments.ts";
import { useUnits } from "../../state/settings.ts";
import { AcceptanceTitle } from "./AcceptanceTitle.tsx";

/** Whether the pump does what its curve says, and on what that rests. */
export function ComparisonCard({
  comparison,
  reading,
  reach,
}: {
  comparison: Comparison;
  reading: ReadingDocument;
  /** what is asked of its instruments */
  reach: Reach;
}) {
  const units = useUnits();
  const instruments = useInstruments();
  const budget = parted(comparison.head.budget, reading.flow);
  const deciding = [comparison.atHead, comparison.atFlow].find(
    (axis) => axis.kind === "compared" && axis.acceptance === "cannot-tell",
  );
  const shrink =
    comparison.acceptance === "cannot-tell" && deciding?.kind === "compared"
      ? shrinkWords(parted(deciding.budget, reading.flow), reading, instruments, reach)
      : undefined;
  const words = comparisonWords(comparison, units);
  return (
    <div data-acceptance={comparison.acceptance}>
      <AcceptanceTitle acceptance={comparison.acceptance} />
      <p className="mt-1 font-medium">{words.measured}</p>
      <p className="mt-1 text-[14px]">{words.atHead}</p>
      <p className="text-[14px]">{words.atFlow}</p>
      {words.misplaced && <p className="text-[14px] font-medium">{words.misplaced}</p>}
      <p className="mt-1">{words.advice}</p>
      {shrink && <p className="text-[14px]">{shrink}</p>}
      <details className="mt-1 text-[14px]">
        <summary className="min-h-7 text-soft">Where the doubt in the head comes from</summary>
        <ul>
          {budget.map(({ of, share }) => (
            <li key={of} className="flex justify-between">
              <span>{uncertaintyName(of)}</span>
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
