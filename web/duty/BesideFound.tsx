import clsx from "clsx";
import { Link, useParams } from "react-router";
import type { JobDocument } from "#contract/documents/job.ts";
import { SEVERITY_ORDER } from "#core/check/registry.ts";
import type { Context, Finding, JobFindings } from "#core/finding/registry.ts";
import type { Remedy } from "#model/whatif/remedies.ts";
import { CONTEXT_NAMES, findingWords } from "#words/findings.ts";
import { Mending, remedyOf } from "../findings/Mending.tsx";
import { RemedyButton } from "../findings/Remedy.tsx";
import type { Result } from "../openJob/useResult.ts";
import { useUnits } from "../state/settings.ts";
import { StatusMark } from "../ui/StatusMark.tsx";

/** Where what was found is shown whole, under the job's own address. */
const PLACES: Record<Context, string> = {
  run: "need?view=time",
  "run-trouble": "need?view=time",
  uplift: "need?view=time",
  well: "well?view=hole",
  "drawdown-test": "well?view=hole",
  hanging: "well?view=pipe",
  "cable-size": "well?view=cable",
  cable: "well?view=cable",
  "cable-motor": "well?view=cable",
  tank: "well?view=tank",
  valve: "well?view=tank",
  "well-day": "well?view=day",
  draws: "well?view=day",
  tap: "well?view=day",
  "top-suction": "well?view=other",
  "hand-pump": "well?view=other",
  jet: "well?view=other",
  "air-lift": "well?view=other",
  "pulse-pump": "well?view=other",
  gun: "ground?view=guns",
  runoff: "ground?view=field",
  sets: "ground?view=field",
  "day-plan": "ground?view=day",
  cans: "ground?view=cans",
  drip: "ground?view=drip",
  "worked-back": "ground?view=read",
  speeds: "pump?view=driving",
  motor: "pump?view=driving",
  engine: "pump?view=driving",
  "yard-run": "need",
};

/** What was found beside the line, the worst first; the good is not told here. */
const badOf = ({ beside }: JobFindings): Finding[] =>
  beside
    .filter(({ severity }) => severity !== "good")
    .toSorted((a, b) => SEVERITY_ORDER[b.severity] - SEVERITY_ORDER[a.severity]);

interface Props {
  job: JobDocument;
  found: Result<JobFindings>;
  value: JobFindings;
}

const LIST = "beside-the-line";

/** The worst of what was found beside the line, in one row that is there from the start; a tap brings all of it. */
export function BesideRow({ job, found: { stale }, value }: Props) {
  const told = useTold(job);
  const [worst, ...more] = badOf(value);
  if (!worst) {
    return (
      <p className="flex min-h-9 items-center gap-2 border-t border-rule px-3 text-[14px] text-soft">
        <StatusMark severity="good" /> Nothing to see to beside the line
      </p>
    );
  }
  const said = told(worst);
  return (
    <button
      type="button"
      className={clsx(
        "flex min-h-9 w-full items-center gap-2 border-t border-rule px-3 text-left",
        worst.severity === "stop" && "border-l-6 border-l-signal pl-2",
        stale && "opacity-60",
      )}
      aria-busy={stale}
      onClick={() => document.getElementById(LIST)?.scrollIntoView({ block: "start" })}
    >
      <StatusMark severity={worst.severity} />
      <span className="min-w-0 flex-1 truncate">
        <span className="plate text-[17px]">{said.title}</span>
        {said.isContext && <span className="text-[14px]"> {said.sentence}</span>}
      </span>
      <span className="text-[13px] whitespace-nowrap underline">
        {more.length === 0 ? "show" : `and ${more.length} more`}
      </span>
    </button>
  );
}

/** All of it, each with the way to where it is shown whole. */
export function BesideList({
  job,
  found: { stale },
  value,
  remedies,
}: Props & { remedies: readonly Remedy[] | undefined }) {
  const { id } = useParams();
  const told = useTold(job);
  const bad = badOf(value);
  if (bad.length === 0) return null;
  return (
    <ul
      id={LIST}
      aria-label="Beside the line"
      aria-busy={stale}
      className={clsx("border-t border-rule *:not-first:border-t", stale && "opacity-60")}
    >
      {bad.map((finding, i) => {
        const { severity, code, context, source } = finding;
        const { title, sentence, advice } = told(finding);
        const remedy = remedyOf(remedies, code);
        return (
          <li
            key={i}
            data-finding={code}
            className={clsx(
              "border-rule px-3 py-1.5",
              severity === "stop" && "border-l-6 border-l-signal pl-2",
            )}
          >
            <p className="flex min-h-7 items-center gap-2">
              <StatusMark severity={severity} />
              <span className="plate text-[17px] leading-tight">{title}</span>
            </p>
            <p className="text-[14px]">{sentence}</p>
            {advice && <Mending words={advice} remedy={remedy} />}
            <p className="text-[12px] text-soft">
              {source}
              <Link
                to={`/jobs/${id}/${PLACES[context]}`}
                className="ml-2 inline-block min-h-6 underline"
              >
                Show it
              </Link>
              {remedy && !advice && <RemedyButton remedy={remedy} />}
            </p>
          </li>
        );
      })}
    </ul>
  );
}

/** A finding in words, under the name of its context where it has no title of its own. */
function useTold({ bodies }: JobDocument) {
  const system = useUnits();
  const body = (index: number) => bodies?.[index]?.name || `Water ${index + 1}`;
  return (finding: Finding) => {
    const { title, ...said } = findingWords(finding, { system, body });
    return {
      ...said,
      title: title ?? CONTEXT_NAMES[finding.context],
      isContext: title === undefined,
    };
  };
}
