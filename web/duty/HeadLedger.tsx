import { memo, useRef } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { LedgerEntry } from "#core/hydraulics/headLedger.ts";
import type { SizeUp } from "#core/whatif/sizeUp.ts";
import { type JobSolution, normalLedger } from "#model/job/solveJob.ts";
import { ledgerName } from "#words/ledger.ts";
import { useDerivation } from "../derivation/DerivationLink.tsx";
import { editItem, pumpItems } from "../openJob/jobStore.ts";
import { useUnits } from "../state/settings.ts";
import { useLongList } from "../ui/useLongList.ts";

/** The bill of head: every item of the line, what it takes, and what one size larger gives back. */
export const HeadLedger = memo(function HeadLedger({
  solved,
  sizeUps,
  job,
  onItem,
}: {
  solved: JobSolution;
  sizeUps: readonly SizeUp[];
  job: JobDocument;
  onItem: (itemId: string) => void;
}) {
  const units = useUnits();
  const show = useDerivation();
  const body = useRef<HTMLTableSectionElement>(null);
  const entries = solved.kind === "refused" ? [] : normalLedger(solved.solution);
  const { indexes, before, after, measure } = useLongList(body, entries.length, 46);
  if (solved.kind === "refused") {
    return (
      <p className="p-4 text-soft">
        The ledger appears once a flow is wanted or a pump chosen, and the line can be solved.
      </p>
    );
  }
  if (entries.length === 0) {
    return <p className="p-4 text-soft">No water moves, so nothing takes head. See the checks.</p>;
  }
  const running = solved.solution.cases.normal.running;
  // Where the line parts no one column of heads adds up: the pumps' own head closes the bill.
  const parts = entries.filter(({ kind }) => kind === "lift").length > 1 || forked(job);
  const total = parts
    ? (running?.duty.head ?? 0)
    : entries.reduce((sum, entry) => sum + entry.head, 0);
  return (
    <table className="w-full text-[14px]" aria-label="Head ledger">
      {parts && (
        <caption className="caption-bottom px-3 py-2 text-left text-[13px] text-soft">
          Each item takes its head at its own flow; the share counts both. The total is what the
          pumps make together.
        </caption>
      )}
      <thead className="sticky top-0 bg-paper text-left text-[13px] text-soft">
        <tr>
          <th className="py-1 pl-3 font-normal">Item</th>
          <th className="text-right font-normal">Takes</th>
          <th className="w-[22%] pl-3 font-normal">Share</th>
          <th className="pr-3 pl-2 text-right font-normal">One size larger</th>
        </tr>
      </thead>
      <tbody ref={body}>
        <Gap height={before} />
        {indexes.map((index) => {
          const entry = entries[index] as LedgerEntry;
          const name = ledgerName(entry, job, units);
          const gain =
            entry.kind === "pipe" ? sizeUps.find((s) => s.itemId === entry.itemId) : undefined;
          return (
            // The order of the path is the identity of a row: an item can own two of them.
            <tr key={index} ref={measure} data-index={index} className="border-t border-rule">
              <td className="py-0.5 pl-3">
                {entry.itemId ? (
                  <button
                    type="button"
                    className="min-h-7 text-left hover:underline"
                    onClick={() => onItem(entry.itemId as string)}
                  >
                    {name}
                  </button>
                ) : (
                  <span className="inline-flex min-h-7 items-center">{name}</span>
                )}
              </td>
              <td className="text-right font-medium whitespace-nowrap">
                {entry.kind === "hole" ? (
                  "–"
                ) : (
                  <button
                    type="button"
                    title="Show the working"
                    className="min-h-7 underline decoration-rule underline-offset-4 hover:decoration-ink"
                    onClick={() => show({ kind: "ledger", index })}
                  >
                    {format(entry.head, "head", units)}
                  </button>
                )}
                {parts && entry.kind === "pipe" && (
                  <span className="block text-[12px] leading-tight font-normal text-soft">
                    at {format(entry.flow, "flow", units)}
                  </span>
                )}
              </td>
              <td className="pl-3">
                <span className="flex items-center gap-1.5">
                  <span className="relative h-2.5 flex-1 bg-press" aria-hidden>
                    <span
                      className={`absolute inset-y-0 left-0 ${entry.kind === "lift" || entry.kind === "outlet-pressure" ? "bg-soft" : "bg-water"}`}
                      style={{ width: `${entry.share * 100}%` }}
                    />
                  </span>
                  <span className="w-9 text-right text-[13px]">{formatPercent(entry.share)}</span>
                </span>
              </td>
              <td className="pr-3 pl-2 text-right whitespace-nowrap">
                {entry.lost !== undefined && (
                  <button
                    type="button"
                    title="Show the working"
                    className="min-h-7 underline decoration-rule underline-offset-4 hover:decoration-ink"
                    onClick={() => show({ kind: "ledger", index })}
                  >
                    loses {format(entry.lost, "flow", units)}
                  </button>
                )}
                {gain && (
                  <button
                    type="button"
                    className="min-h-7 underline decoration-dotted hover:decoration-solid"
                    title={`Lay this run in ${gain.larger.nominal}`}
                    onClick={() => editItem<"pipe">(gain.itemId, { stock: gain.larger.id })}
                  >
                    {gain.larger.nominal}:{" "}
                    {solved.kind === "asked" ? (
                      `−${format(gain.headGain, "head", units)}`
                    ) : (
                      <>
                        +{format(gain.flowGain, "flow", units)}
                        <span className="block text-[12px] leading-tight text-soft">
                          gives back {format(gain.headGain, "head", units)}
                        </span>
                      </>
                    )}
                  </button>
                )}
              </td>
            </tr>
          );
        })}
        <Gap height={after} />
      </tbody>
      <tfoot>
        <tr className="border-t-2 border-ink font-medium">
          <td className="py-1 pl-3">
            {running?.basis === "end-of-curve"
              ? "Total at the end of the curve"
              : "Total dynamic head"}
          </td>
          <td className="plate text-right text-[17px] whitespace-nowrap">
            {format(total, "head", units)}
          </td>
          <td colSpan={2} className="pr-3 pl-3 text-right text-[13px] font-normal text-soft">
            at {running ? format(running.duty.flow, "flow", units) : ""}, normal water
          </td>
        </tr>
      </tfoot>
    </table>
  );
});

/** Where rows stand that are not in sight. */
function Gap({ height }: { height: number }) {
  return height > 0 ? (
    <tr aria-hidden>
      <td colSpan={4} style={{ height }} />
    </tr>
  ) : null;
}

function forked(job: JobDocument): boolean {
  return job.path.some(({ kind }) => kind === "split") || pumpItems(job.path).length > 1;
}
