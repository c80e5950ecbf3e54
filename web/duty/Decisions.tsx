import clsx from "clsx";
import { lazy, Suspense } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { useResult } from "../openJob/useResult.ts";

// Their words are fetched once there is something to say.
const DecisionTiles = lazy(() => import("./DecisionTiles.tsx"));

/** What has to be decided on this job, in the order it is: each with what it is, why, and how it stands. */
export function Decisions({ job }: { job: JobDocument }) {
  const { value, stale } = useResult("decisions", { job });
  return (
    // Its room is there before its words are.
    <nav
      aria-label="Decisions"
      aria-busy={stale}
      className={clsx(
        "no-print flex h-13 shrink-0 overflow-x-auto border-b border-rule bg-sheet",
        stale && "opacity-60",
      )}
    >
      {value && (
        <Suspense fallback={null}>
          <DecisionTiles {...{ job }} decisions={value} />
        </Suspense>
      )}
    </nav>
  );
}
