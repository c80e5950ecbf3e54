import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { JobKindId } from "#contract/documents/jobKinds.ts";
import { JOB_KIND_NAMES, nameFor } from "#words/kinds.ts";
import { DRAWINGS, DRAWN } from "../drawings/drawings.tsx";
import { useUnits } from "../state/settings.ts";
import { toast } from "../ui/toast.ts";
import { startJob } from "./startJob.ts";

/** What the customer says, as tiles: each opens the sketch that asks what has to be measured for it. */
export default function NewPage() {
  const units = useUnits();
  const navigate = useNavigate();
  const [starting, setStarting] = useState(false);

  // There is nothing to sketch: the watch is what is wanted.
  async function measure(): Promise<void> {
    setStarting(true);
    try {
      const name = nameFor("measuring", undefined, new Date());
      const { newJob } = await import("#model/kinds/kinds.ts");
      const id = await startJob(newJob(name, "measuring", units));
      await navigate(`/jobs/${id}/measure`);
    } catch (error) {
      setStarting(false);
      toast.error((error as Error).message);
    }
  }

  return (
    <div className="relative mx-auto h-full max-w-5xl overflow-y-auto p-4 max-sm:p-2">
      <h1 className="pb-3 text-3xl">What is the water to do?</h1>
      <ul aria-label="Kinds of job" className="grid grid-cols-2 gap-3 max-sm:gap-2 sm:grid-cols-4">
        {(Object.keys(JOB_KIND_NAMES) as JobKindId[]).map((kind) => (
          <li key={kind}>
            {kind === "measuring" ? (
              <button
                type="button"
                className={TILE}
                disabled={starting}
                onClick={() => void measure()}
              >
                <Face kind={kind} />
              </button>
            ) : (
              <Link to={`/new/${kind}`} className={TILE}>
                <Face kind={kind} />
              </Link>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}

const TILE =
  "block h-full w-full rounded border border-rule bg-sheet text-left hover:border-water hover:bg-press";

function Face({ kind }: { kind: JobKindId }) {
  return (
    <>
      <Drawing kind={kind} className="h-60 w-full max-sm:h-32 [&_.dimension]:hidden" />
      <span className="plate block border-t border-rule px-3 py-2 text-[21px] leading-tight max-sm:text-[18px]">
        {JOB_KIND_NAMES[kind].says}
      </span>
    </>
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
