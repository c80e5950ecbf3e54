import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { JobFindings } from "#core/finding/registry.ts";
import type { Solution } from "#core/hydraulics/solveLine.ts";
import type { JobSolution, Solved } from "#model/job/solveJob.ts";
import { withArrangement } from "#model/selection/arrangement.ts";
import type { Remedy } from "#model/whatif/remedies.ts";
import { WantedFlow } from "../jobFields/WantedFlow.tsx";
import { edit } from "../openJob/jobStore.ts";
import type { Result } from "../openJob/useResult.ts";
import { useUnits } from "../state/settings.ts";
import { BesideList } from "./Beside.tsx";
import { CaseTable } from "./CaseTable.tsx";
import { CheckList } from "./CheckList.tsx";
import { Plate } from "./Figures.tsx";
import { PumpsThatDoIt } from "./PumpsThatDoIt.tsx";

interface Props {
  job: JobDocument;
  /** asked, or refused for want of a pump alone: then the flow is what is missing */
  solved: Exclude<JobSolution, Solved>;
  found: Result<JobFindings>;
  remedies: readonly Remedy[] | undefined;
  onItem: (itemId: string) => void;
}

/** What the line asks of a pump that is still to be chosen, and the pumps that do it. */
export function AskedPanel({ job, solved, found, remedies, onItem }: Props) {
  const running = solved.kind === "asked" ? solved.solution.cases.normal.running : undefined;
  const lost = running ? running.duty.flow - running.state.delivered : 0;
  return (
    <div className="flex flex-col">
      <div className="grid grid-cols-2 items-start gap-x-3 px-3 pt-2 pb-2" data-testid="duty">
        {/* The entry stays where it is from the first key on. */}
        <WantedFlow label="How much water is wanted" wantedFlow={job.wantedFlow} />
        {running ? (
          <dl className="contents">
            <Plate
              name="Head it takes"
              si={running.duty.head}
              quantity="head"
              subject="head"
              large
            />
            {lost > 0 && (
              <>
                <Plate name="Through the pump" si={running.duty.flow} quantity="flow" />
                <Plate name="Lost through holes" si={lost} quantity="flow" subject="lost" />
              </>
            )}
            <Plate name="Given to the water" si={running.hydraulicPower} quantity="power" />
          </dl>
        ) : (
          <p className="pt-4 text-[14px] text-soft">No duty yet</p>
        )}
      </div>
      {solved.kind === "asked" ? (
        <>
          <CaseTable cases={solved.solution.cases} source={job.source} asked />
          <Schools {...solved.solution.crossChecks} />
          <PumpsThatDoIt
            job={job}
            itemId={solved.asked.itemId}
            onChoose={(arrangement) =>
              edit((j) => withArrangement(j, solved.asked.itemId, arrangement) ?? j)
            }
          />
          <CheckList judgements={solved.judgements} {...{ job, onItem, remedies }} />
          <BesideList {...{ job, found, remedies }} />
        </>
      ) : (
        <p className="px-3 text-soft">
          Say how much water is wanted: then the line shows the head that takes, and the pumps that
          make it. Or choose a pump under Pump, and see what it moves.
        </p>
      )}
    </div>
  );
}

/** The same flow by the other school of friction, and by the other of fittings. */
function Schools({ friction, fittings }: Solution["crossChecks"]) {
  const units = useUnits();
  const head = ({ duty }: typeof friction | typeof fittings) =>
    duty ? format(duty.head, "head", units) : "does not settle";
  return (
    <p className="px-3 pb-2 text-[13px] text-soft">
      Cross-check by {friction.by === "hazen-williams" ? "Hazen–Williams" : "Darcy–Weisbach"}:{" "}
      {head(friction)}; with {fittings.by === "coefficient" ? "K" : "equivalent lengths"}:{" "}
      {head(fittings)}.
    </p>
  );
}
