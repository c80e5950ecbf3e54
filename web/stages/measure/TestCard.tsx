import type { JobDocument } from "#contract/documents/job.ts";
import { formatPercent } from "#contract/units/format.ts";
import type { Solution } from "#core/hydraulics/solveLine.ts";
import { reachOf } from "#core/measurement/reach.ts";
import type { Judged, KeptReading } from "#model/measurement/fieldTests.ts";
import {
  levelWords,
  partingWords,
  shrinkWords,
  uncertaintyName,
  wholeWords,
} from "#words/fieldTests.ts";
import { itemName } from "#words/items.ts";
import { useInstruments } from "../../instruments/useInstruments.ts";
import { useUnits } from "../../state/settings.ts";
import { AcceptanceTitle } from "./AcceptanceTitle.tsx";

/** What a visit's readings say together of one pump and its line. */
export function TestCard({
  judged,
  readings,
  solution,
  job,
}: {
  judged: Judged;
  readings: readonly KeptReading[];
  solution: Solution;
  job: JobDocument;
}) {
  const units = useUnits();
  const instruments = useInstruments();
  const { whole, parting, level, at, ids, points, limits, mayShut } = judged;
  const on = solution.pumps[at];
  if (!on) return null;
  const pump = limits ? { ...on.pump, limits } : on.pump;
  const line = partingWords(parting, job.path, mayShut, units);
  const said = whole && wholeWords(whole, points.length, pump, units);
  const first = readings.find(({ id }) => id === ids[0])?.document;
  const reach = first && reachOf(solution, at, first.discharge?.elevation ?? 0);
  const shrink = whole && first && shrinkWords(whole.budget, first, instruments, reach);
  if (!said && !line && !level) return null;
  return (
    <article
      aria-label={`What the readings say${solution.pumps.length > 1 ? ` of ${itemName(job.path, on.itemId, units)}` : ""}`}
      className="grid gap-2"
      data-whole={whole?.acceptance}
      data-parting={parting.kind}
    >
      {solution.pumps.length > 1 && (
        <p className="text-[14px] text-soft">{itemName(job.path, on.itemId, units)}</p>
      )}
      {said && whole && (
        <div>
          <AcceptanceTitle acceptance={whole.acceptance} />
          {said.sentences.map((sentence, i) => (
            <p key={sentence} className={i === 0 ? "mt-1 font-medium" : "text-[14px]"}>
              {sentence}
            </p>
          ))}
          {shrink && <p className="text-[14px]">{shrink}</p>}
          <details className="text-[14px]">
            <summary className="min-h-7 text-soft">Where the doubt comes from</summary>
            <ul>
              {whole.budget.map(({ of, share }) => (
                <li key={of} className="flex justify-between">
                  <span>{uncertaintyName(of)}</span>
                  <span>{formatPercent(share)}</span>
                </li>
              ))}
            </ul>
          </details>
        </div>
      )}
      {line && (
        <div>
          <p className="plate text-2xl leading-tight">{line.title}</p>
          {line.pump && !said && <p className="text-[14px]">{line.pump}</p>}
          {line.sentences.map((sentence) => (
            <p key={sentence} className="text-[14px]">
              {sentence}
            </p>
          ))}
          {line.next && <p className="mt-1 font-medium">{line.next}</p>}
        </div>
      )}
      {level && <p className="font-medium">{levelWords(level, units)}</p>}
    </article>
  );
}
