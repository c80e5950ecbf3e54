import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { Solution } from "#core/hydraulics/solveLine.ts";
import type { JobSolution, Solved } from "#model/solveJob.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { useUnits } from "../app/settings.ts";
import { Button } from "../ui/Button.tsx";
import { StatusMark } from "../ui/StatusMark.tsx";
import { CaseTable } from "./CaseTable.tsx";
import { CheckList } from "./CheckList.tsx";
import { Plate } from "./Figures.tsx";
import { choosePump } from "./jobStore.ts";
import { WantedFlow } from "./parts/WantedFlow.tsx";
import { useCandidates } from "./useCandidates.ts";

interface Props {
  job: JobDocument;
  /** asked, or refused for want of a pump alone: then the flow is what is missing */
  solved: Exclude<JobSolution, Solved>;
  onItem: (itemId: string) => void;
}

/** What the line asks of a pump that is still to be chosen, and the pumps that do it. */
export function AskedPanel({ job, solved, onItem }: Props) {
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
          <CaseTable cases={solved.solution.cases} asked />
          <Schools {...solved.solution.crossChecks} />
          <PumpsThatDoIt job={job} itemId={solved.asked.itemId} />
          <CheckList judgements={solved.judgements} path={job.path} onItem={onItem} />
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

/** How many pumps are named beside the line; the others stand under Pump. */
const NAMED = 3;

function PumpsThatDoIt({ job, itemId }: { job: JobDocument; itemId: string }) {
  const units = useUnits();
  const { library, documents, ranked, stale } = useCandidates(job, itemId);
  if (library.isError || documents.length === 0 || !ranked) return null;
  const three = ranked.filter(({ fit }) => fit?.kind === "ranked").slice(0, NAMED);
  return (
    <section
      aria-label="Pumps that do it"
      aria-busy={stale}
      className={`border-t border-rule px-3 py-2 ${stale ? "opacity-60" : ""}`}
    >
      <h2 className="plate text-[19px]">
        {three.length === 0 ? "No pump of the library does it" : "Pumps that do it"}
      </h2>
      {three.length === 0 && (
        <p className="text-[14px] text-soft">
          None delivers the wanted flow on this line without something to stop for. Under Pump each
          says why.
        </p>
      )}
      <ul>
        {three.map(({ pump, flow, worst }) => {
          const document = documents.find(({ id }) => id === pump.id);
          return (
            document && (
              <li key={pump.id} className="flex items-center gap-2 py-1">
                <div className="min-w-0 flex-1">
                  <p className="plate text-[17px] leading-tight">
                    {document.maker} {document.model}
                  </p>
                  <p className="flex flex-wrap items-center gap-x-2 text-[14px]">
                    <StatusMark severity={worst} size={15} />
                    <strong className="font-semibold">{format(flow ?? 0, "flow", units)}</strong>
                    <span className="text-soft">{PUMP_KINDS[document.kind]}</span>
                  </p>
                </div>
                <Button
                  aria-label={`Choose ${document.maker} ${document.model}`}
                  onClick={() => choosePump(itemId, document)}
                >
                  Choose
                </Button>
              </li>
            )
          );
        })}
      </ul>
    </section>
  );
}
