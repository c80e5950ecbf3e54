import clsx from "clsx";
import { Link, useParams } from "react-router";
import type { JobDocument } from "#contract/documents/job.ts";
import type { Decision, DecisionId } from "#model/kinds/decision.ts";
import { DECISION_NAMES, DECISION_STATES, decisionWords } from "#words/decisions.ts";
import { useUnits } from "../state/settings.ts";

/** Where a decision is taken, under the job's own address. */
const PLACES: Record<DecisionId, string> = {
  pump: "pump",
  suction: "line?part=suction",
  discharge: "line?part=discharge",
  floats: "need?view=time",
  "stays-dry": "need?view=time",
  "power-cut": "need?view=time",
  backup: "need?view=time",
  drains: "need",
  "dry-after": "need?view=time",
  "full-after": "need?view=time",
  hang: "well?view=hole",
  "drop-pipe": "well?view=pipe",
  cable: "well?view=cable",
  "pre-charge": "well?view=tank",
  tank: "well?view=tank",
  gun: "ground?view=guns",
  sets: "ground?view=field",
  fuel: "ground?view=day",
};

export default function DecisionTiles({
  job,
  decisions,
}: {
  job: JobDocument;
  decisions: readonly Decision[];
}) {
  return decisions.map((decision) => <Tile key={decision.id} {...{ decision, job }} />);
}

function Tile({ decision, job }: { decision: Decision; job: JobDocument }) {
  const { id: jobId } = useParams();
  const system = useUnits();
  const { id, state } = decision;
  const { value, why } = decisionWords(decision, job, system);
  return (
    <Link
      to={`/jobs/${jobId}/${PLACES[id]}`}
      data-decision={id}
      className={clsx(
        "flex min-w-fit flex-1 flex-col justify-center border-l border-rule px-3 first:border-l-0 hover:bg-press",
        state === "stopped" && "border-l-6 border-l-signal first:border-l-6",
      )}
    >
      <span className="flex items-baseline gap-1.5 whitespace-nowrap">
        <span className="text-[13px] text-soft">{DECISION_NAMES[id]}</span>
        <span className="plate text-[18px] leading-tight">{value}</span>
        {state !== "chosen" && (
          <span
            className={clsx(
              "text-[13px]",
              state === "stopped" ? "font-medium text-signal" : "text-soft",
            )}
          >
            {DECISION_STATES[state]}
          </span>
        )}
      </span>
      <span className="max-w-64 truncate text-[13px] text-soft">{why}</span>
    </Link>
  );
}
