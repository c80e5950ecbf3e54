import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import { everyItem } from "#core/line/path.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import type { ArrangementOfDocuments } from "#model/selection/arrangement.ts";
import { diagnosticSentence } from "#words/diagnostics.ts";
import { itemName } from "#words/items.ts";
import { DerivationLink } from "../derivation/DerivationLink.tsx";
import { CheckList } from "../duty/CheckList.tsx";
import { Plate } from "../duty/Figures.tsx";
import { PumpsThatDoIt } from "../duty/PumpsThatDoIt.tsx";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";

/** What the sketch comes to: what is still to measure, or the flow, the head it takes and three pumps. */
export function SketchVerdict({
  job,
  solved,
  missing,
  behind,
  isWrong,
  starting,
  problem,
  onChoose,
}: {
  job: JobDocument;
  solved: JobSolution;
  missing: readonly string[];
  /** worked out for what was typed a moment ago */
  behind: boolean;
  /** something typed cannot be read, or cannot be so */
  isWrong: boolean;
  starting: boolean;
  problem: string | undefined;
  /** begins the job with a pump */
  onChoose: (arrangement: ArrangementOfDocuments) => void;
}) {
  const units = useUnits();
  const pump = useMemo(() => everyItem(job.path).find(({ kind }) => kind === "pump"), [job.path]);
  const running = solved.kind === "asked" ? solved.solution.cases.normal.running : undefined;
  const complete = missing.length === 0 && running !== undefined && !isWrong;
  return (
    <aside
      id={VERDICT}
      aria-label="What it comes to"
      aria-busy={behind}
      className="relative border-rule max-lg:order-2 max-lg:border-y lg:overflow-y-auto lg:border-l"
    >
      <div className="grid gap-2 p-3" data-testid="sketch-verdict">
        {complete && running ? (
          <dl className="grid grid-cols-2 gap-x-3">
            <Plate
              name="Flow wanted"
              si={running.state.delivered}
              quantity="flow"
              subject="delivered"
              large
            />
            <Plate
              name="Head it takes"
              si={running.duty.head}
              quantity="head"
              subject="head"
              large
            />
            {job.need?.kind === "rise-test" && job.need.flow !== undefined && (
              <Plate name="Runs in" si={job.need.flow} quantity="flow" />
            )}
            {job.volume !== undefined && (
              <Plate name="Water to move" si={job.volume} quantity="volume" />
            )}
          </dl>
        ) : (
          <>
            <h2 className="plate text-2xl">
              {isWrong
                ? "To be put right"
                : missing.length > 0
                  ? "Still to measure"
                  : "No head to work out"}
            </h2>
            <ul aria-label="Still to measure" className="grid gap-0.5">
              {missing.map((what) => (
                <li key={what} className="border-l-4 border-rule pl-2">
                  {what}
                </li>
              ))}
            </ul>
            {missing.length === 0 && !isWrong && solved.kind === "refused" && (
              <p>{solved.diagnostics.map(diagnosticSentence).join(" ")}</p>
            )}
          </>
        )}
        <Button
          look={complete ? "plain" : "strong"}
          type="submit"
          className="min-h-11"
          disabled={starting || isWrong}
        >
          {missing.length > 0 ? "Start with what is there" : "Start the job"}
        </Button>
        <p role="alert" className="text-[14px] text-signal empty:hidden">
          {isWrong ? "Put right what is marked first: nothing typed is lost." : problem}
        </p>
      </div>
      {complete && pump && (
        <>
          <PumpsThatDoIt job={job} itemId={pump.id} onChoose={onChoose} />
          {solved.kind === "asked" && (
            <CheckList judgements={solved.judgements} job={job} onItem={undefined} />
          )}
        </>
      )}
      <details className="border-t border-rule px-3 py-1">
        <summary className="min-h-9 content-center text-soft">The line it begins with</summary>
        <ol className="list-decimal pb-2 pl-5 text-[14px]">
          {job.path.map(({ id }) => (
            <li key={id}>{itemName(job.path, id, units)}</li>
          ))}
        </ol>
      </details>
      <DerivationLink {...{ job, solved }} />
    </aside>
  );
}

const VERDICT = "sketch-verdict";

/** On a phone what it comes to stays in sight while the dimensions are typed; a tap brings it up whole. */
export function VerdictStrip({
  solved,
  missing,
  isWrong,
}: {
  solved: JobSolution;
  missing: number;
  isWrong: boolean;
}) {
  const units = useUnits();
  const running = solved.kind === "asked" ? solved.solution.cases.normal.running : undefined;
  return (
    <button
      type="button"
      onClick={() => document.getElementById(VERDICT)?.scrollIntoView({ block: "start" })}
      className="plate sticky bottom-0 z-10 order-4 min-h-11 bg-ink px-3 text-left text-[21px] text-paper lg:hidden"
    >
      {isWrong
        ? "To be put right"
        : missing > 0
          ? `${missing} still to measure`
          : !running
            ? "No head to work out"
            : `${format(running.state.delivered, "flow", units)} at ${format(running.duty.head, "head", units)} asked`}
    </button>
  );
}
