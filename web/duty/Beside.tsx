import { lazy, Suspense } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobFindings } from "#core/finding/registry.ts";
import type { Remedy } from "#model/whatif/remedies.ts";
import type { Result } from "../openJob/useResult.ts";

interface Props {
  job: JobDocument;
  found: Result<JobFindings>;
}

// Its words are fetched once there is something to say.
const load = () => import("./BesideFound.tsx");
const Row = lazy(async () => ({ default: (await load()).BesideRow }));
const List = lazy(async () => ({ default: (await load()).BesideList }));

/** The worst of what was found beside the line, in one row that is there from the start. */
export function BesideRow(props: Props) {
  const { kind, again } = props.found;
  const waiting = (
    <p className="flex min-h-9 items-center gap-2 border-t border-rule px-3 text-[14px] text-soft">
      {kind === "failed" ? (
        <>
          Beside the line: could not be worked out
          <button type="button" className="min-h-6 underline" onClick={again}>
            Try again
          </button>
        </>
      ) : (
        "Beside the line: being looked at"
      )}
    </p>
  );
  return props.found.value ? (
    <Suspense fallback={waiting}>
      <Row {...props} value={props.found.value} />
    </Suspense>
  ) : (
    waiting
  );
}

/** All of it. */
export function BesideList(props: Props & { remedies: readonly Remedy[] | undefined }) {
  return props.found.value ? (
    <Suspense fallback={null}>
      <List {...props} value={props.found.value} />
    </Suspense>
  ) : null;
}
