import { Link } from "react-router";
import { JOB_KINDS, type JobKindId } from "#contract/documents/job.ts";
import { JOB_KIND_NAMES } from "#words/kinds.ts";
import { DRAWINGS, DRAWN } from "./drawings.tsx";

/** What the customer says, as tiles: each opens the sketch that asks what has to be measured for it. */
export default function NewPage() {
  return (
    <div className="relative mx-auto h-full max-w-5xl overflow-y-auto p-4 max-sm:p-2">
      <h1 className="pb-3 text-3xl">What is the water to do?</h1>
      <ul aria-label="Kinds of job" className="grid grid-cols-2 gap-3 max-sm:gap-2 sm:grid-cols-4">
        {JOB_KINDS.map((kind) => (
          <li key={kind}>
            <Link
              to={`/new/${kind}`}
              className="group block h-full rounded border border-rule bg-sheet hover:border-water hover:bg-press"
            >
              <Drawing kind={kind} className="h-60 w-full max-sm:h-32 [&_.dimension]:hidden" />
              <span className="plate block border-t border-rule px-3 py-2 text-[21px] leading-tight max-sm:text-[18px]">
                {JOB_KIND_NAMES[kind].says}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}

export function Drawing({ kind, className }: { kind: JobKindId; className: string }) {
  const Draw = DRAWINGS[kind];
  return (
    <svg
      viewBox={`0 0 ${DRAWN.width} ${DRAWN.height}`}
      preserveAspectRatio="xMidYMid slice"
      className={className}
      aria-hidden
    >
      <Draw />
    </svg>
  );
}
