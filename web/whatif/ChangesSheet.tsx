import { useId, useMemo, useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { Tried } from "#core/whatif/changes.ts";
import { checkClaim } from "#core/whatif/claim.ts";
import type { JobSolution, Solved } from "#model/job/solveJob.ts";
import { readClaim } from "#model/selection/readClaim.ts";
import { changeWords, claimWords } from "#words/changes.ts";
import { edit, useJobStore } from "../openJob/jobStore.ts";
import { useLibraryPumps } from "../openJob/useLibraryPumps.ts";
import { useResult } from "../openJob/useResult.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Loading } from "../ui/Notices.tsx";
import { Problem } from "../ui/Problem.tsx";

/** What a seller says held against the line, and every single change that brings more, the most for its price first. */
export default function ChangesSheet({ job, solved }: { job: JobDocument; solved: JobSolution }) {
  if (solved.kind !== "solved" || !solved.solution.cases.normal.running) {
    return (
      <p className="p-4 text-soft">
        What a change brings can be told once a pump is chosen and the line can be solved.
      </p>
    );
  }
  return <Sheet {...{ job, solved }} />;
}

/** How many changes are listed. */
const LISTED = 12;

function Sheet({ job, solved }: { job: JobDocument; solved: Solved }) {
  const units = useUnits();
  const documents = useLibraryPumps(job.pumps);
  const { path } = job;
  const { value: changes, stale } = useResult("changes", { job, documents });
  const pumpName = (id: string) => {
    const pump = documents.find((each) => each.id === id);
    return pump ? `${pump.maker} ${pump.model}` : "Another pump";
  };
  const nameOf = ({ change }: Tried) => changeWords(change, job, units, pumpName);

  function make({ change, path: changed }: Tried): void {
    const added =
      change.kind === "pump" ? documents.find(({ id }) => id === change.pump.id) : undefined;
    edit((now) => {
      // Worked out for the job as it was: what was typed since is not written over.
      if (now.path !== path) return now;
      const kept = change.kind === "pump" ? [] : now.pumps;
      return {
        ...now,
        path: changed as JobDocument["path"],
        pumps: added ? [...kept, added] : now.pumps,
      };
    });
  }

  return (
    <div className="grid gap-3 p-3">
      <ClaimCheck
        {...{ job, solved, nameOf }}
        changes={changes ?? NONE}
        ready={!stale && changes !== undefined}
      />
      <section
        aria-label="Cheapest next change"
        aria-busy={stale}
        className={stale ? "opacity-60" : ""}
      >
        <h2 className="plate text-[19px]">Cheapest next change</h2>
        {changes === undefined ? (
          <Loading what="the changes" />
        ) : changes.length === 0 ? (
          <p className="text-soft">No single change brings more.</p>
        ) : (
          <ul>
            {changes.slice(0, LISTED).map((tried) => (
              <li key={keyOf(tried)} className="flex items-center gap-2 border-t border-rule py-1">
                <span className="min-w-0 flex-1">
                  {nameOf(tried)}
                  <span className="block text-[13px] text-soft">
                    {tried.price === undefined
                      ? "price not told"
                      : tried.price === 0
                        ? "costs nothing"
                        : `price ${tried.price.toFixed(0)}`}
                  </span>
                </span>
                <strong className="font-semibold whitespace-nowrap">
                  +{format(tried.gain, "flow", units)}
                </strong>
                <Button
                  disabled={stale}
                  aria-label={`Do it: ${nameOf(tried)}`}
                  onClick={() => make(tried)}
                >
                  Do it
                </Button>
              </li>
            ))}
          </ul>
        )}
        <p className="pt-1 text-[13px] text-soft">
          Each alone, solved anew at normal water; the most flow for its price first. Prices of pipe
          are invented. Look at the checks after each.
        </p>
      </section>
    </div>
  );
}

const NONE: readonly Tried[] = [];

function keyOf({ change }: Tried): string {
  switch (change.kind) {
    case "size":
      return `${change.itemIds.join(" ")} ${change.to.id}`;
    case "bend":
      return `bend ${change.itemId}`;
    default:
      return `${change.kind} ${change.pump.id}`;
  }
}

function ClaimCheck({
  job,
  solved,
  changes,
  ready,
  nameOf,
}: {
  job: JobDocument;
  solved: Solved;
  changes: readonly Tried[];
  /** every change was tried on the job as it stands */
  ready: boolean;
  nameOf: (tried: Tried) => string;
}) {
  const units = useUnits();
  const id = useId();
  const [text, setText] = useState("");
  const live = useJobStore((s) => s.job);
  const claim = useMemo(
    () => (text.trim() === "" ? undefined : readClaim(text, units)),
    [text, units],
  );
  const checked = useMemo(
    () =>
      claim?.ok && ready && live === job
        ? checkClaim(
            claim.claim,
            { line: job, pumps: job.pumps, solution: solved.solution },
            changes,
          )
        : undefined,
    [claim, ready, live, job, solved, changes],
  );
  const words = checked && claimWords(checked, units, nameOf);
  return (
    <section aria-label="Claim check">
      <label htmlFor={id} className="block text-[13px] text-soft">
        What the box or the seller says
      </label>
      <div className="relative">
        <input
          id={id}
          className="entry target plate text-[17px]"
          value={text}
          placeholder="90 gpm"
          autoComplete="off"
          aria-invalid={claim?.ok === false}
          aria-describedby={claim?.ok === false ? `${id}-problem` : undefined}
          onChange={(event) => setText(event.target.value)}
        />
        <Problem id={`${id}-problem`}>{claim?.ok === false ? claim.message : undefined}</Problem>
      </div>
      <div role="status" className="min-h-6 pt-1">
        {claim?.ok && !words && <span className="text-soft">Trying …</span>}
        {words && (
          <>
            <p className="plate text-2xl leading-tight">{words.title}</p>
            <p>{words.sentence}</p>
            {words.advice && <p className="font-medium">{words.advice}</p>}
          </>
        )}
      </div>
    </section>
  );
}
