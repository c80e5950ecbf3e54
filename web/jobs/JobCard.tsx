import { memo } from "react";
import { Link } from "react-router";
import type { JobSummary, SmallSection } from "#contract/api/api.ts";
import { format } from "#contract/units/format.ts";
import { ACCEPTANCE } from "#words/comparison.ts";
import { useUnits } from "../state/settings.ts";
import { IconButton } from "../ui/Button.tsx";
import { Trash2 } from "../ui/icons.ts";
import { StatusMark } from "../ui/StatusMark.tsx";

/** A job as a card of the board: its line, its number or what is missing, and whose it is. */
export const JobCard = memo(function JobCard({
  job,
  onRemove,
}: {
  job: JobSummary;
  onRemove: (job: JobSummary) => void;
}) {
  const units = useUnits();
  const { duty, measured, stops, pending } = job;
  return (
    <article className="relative h-47 overflow-hidden rounded border border-rule bg-sheet">
      <Link to={`/jobs/${job.id}`} className="block h-full rounded p-2 hover:bg-press">
        <SmallDrawing section={job.section} />
        <span className="plate mt-1 block truncate text-[19px] leading-tight">{job.name}</span>
        <span className="plate block text-[22px] leading-tight">
          {pending ? (
            <span className="text-[17px] text-soft">Being worked out</span>
          ) : duty ? (
            <>
              {format(duty.flow, "flow", units)}
              <span className="text-[17px] text-soft">
                {" "}
                {job.pumps.length > 0 ? "at" : "asked, at"} {format(duty.head, "head", units)}
              </span>
            </>
          ) : (
            <span className="text-[17px] text-soft">{MISSING[job.missing ?? "line"]}</span>
          )}
        </span>
        {stops > 0 && !pending && (
          <span className="flex items-center gap-1 text-[14px]">
            <StatusMark severity="stop" size={15} />
            {stops > 1 && `${stops} times`}
          </span>
        )}
        {measured && (
          <span className="block truncate text-[14px]">
            Measured {format(measured.flow, "flow", units)}
            {measured.acceptance in ACCEPTANCE &&
              `: ${ACCEPTANCE[measured.acceptance as keyof typeof ACCEPTANCE].toLowerCase()}`}
          </span>
        )}
        <span className="block truncate pr-9 text-[14px] text-soft">
          {[job.place, job.customer, job.pumps.join(", ")].filter(Boolean).join(" · ")}
        </span>
      </Link>
      <IconButton
        label={`Delete ${job.name}`}
        className="absolute! right-1 bottom-1"
        onClick={() => onRemove(job)}
      >
        <Trash2 size={16} aria-hidden />
      </IconButton>
    </article>
  );
});

const MISSING: Record<NonNullable<JobSummary["missing"]>, string> = {
  flow: "How much water is still to say",
  line: "The line is still to mend",
  duty: "The pump finds no duty",
  "too-much": "Open it: too much to work out for a list",
};

function SmallDrawing({ section }: { section: SmallSection | undefined }) {
  return (
    <svg viewBox="0 0 100 44" className="h-14 w-full" preserveAspectRatio="none" aria-hidden>
      {section && (
        <>
          <rect
            x={0}
            y={section.water}
            width={16}
            height={Math.max(44 - section.water, 2)}
            fill="var(--water)"
            opacity={0.3}
          />
          <polyline
            points={section.line.join(" ")}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={3}
            strokeLinejoin="round"
            vectorEffect="non-scaling-stroke"
          />
          {section.pump && (
            <path
              d={`M${section.pump[0]} ${section.pump[1]}h0.01`}
              stroke="var(--pump)"
              strokeWidth={13}
              strokeLinecap="round"
              vectorEffect="non-scaling-stroke"
            />
          )}
        </>
      )}
    </svg>
  );
}
