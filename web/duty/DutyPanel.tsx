import type { JobDocument } from "#contract/documents/job.ts";
import { format, formatNumber, formatPercent } from "#contract/units/format.ts";
import {
  type BandResult,
  type Spread,
  type Uncertainty,
  type Unsettled,
  USUAL_DRAWS,
} from "#core/condition/uncertainty.ts";
import { type Duty, settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { Solution, SolvedCase } from "#core/hydraulics/solveLine.ts";
import type { PathItem } from "#core/line/path.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { diagnosticSentence } from "#words/diagnostics.ts";
import { itemName } from "#words/items.ts";
import { onPage } from "../openJob/results.ts";
import { type Result, useResult } from "../openJob/useResult.ts";
import { useUnits } from "../state/settings.ts";
import { StatusMark } from "../ui/StatusMark.tsx";
import { AskedPanel } from "./AskedPanel.tsx";
import { BesideList, BesideRow } from "./Beside.tsx";
import { CaseTable, NO_DUTY } from "./CaseTable.tsx";
import { CheckList } from "./CheckList.tsx";
import { Opens, Plate, Worked } from "./Figures.tsx";

interface Props {
  solved: JobSolution;
  job: JobDocument;
  band: Result<BandResult>;
  onItem: (itemId: string) => void;
}

/** What the pump does on this line, and what to think of it. */
export function DutyPanel({ solved, job, band, onItem }: Props) {
  const { path } = job;
  const doubt = onPage.look({ job })("uncertainty");
  const found = useResult("findings", { job });
  const tried = useResult("remedies", { job });
  // A remedy is offered for the job it was tried on.
  const remedies = tried.stale || tried.kind !== "done" ? undefined : tried.value;
  const pumpMissing =
    solved.kind === "asked" ||
    (solved.kind === "refused" &&
      solved.diagnostics.length === 1 &&
      solved.diagnostics[0]?.code === "pump-not-chosen");
  if (pumpMissing) return <AskedPanel {...{ job, solved, found, remedies, onItem }} />;
  if (solved.kind === "refused") {
    return (
      <>
        <Diagnostics {...{ solved, path, onItem }} />
        <BesideList {...{ job, found, remedies }} />
      </>
    );
  }
  const { cases, crossChecks } = solved.solution;
  return (
    <div className="flex flex-col">
      <Headline
        normal={cases.normal}
        outlets={solved.solution.line.outlets.map(({ item }) => item.id)}
      />
      <CaseTable cases={cases} source={job.source} />
      <Likely {...{ band, doubt }} />
      <OtherSchools crossChecks={crossChecks} />
      <BesideRow {...{ job, found }} />
      <CheckList judgements={solved.judgements} {...{ job, onItem, remedies }} />
      <BesideList {...{ job, found, remedies }} />
    </div>
  );
}

function Headline({ normal, outlets }: { normal: SolvedCase; outlets: readonly string[] }) {
  const duty = settledDuty(normal.outcome);
  const { running } = normal;
  if (!duty) {
    return (
      <div className="px-3 pt-2 pb-3" data-testid="duty">
        <p className="plate text-4xl leading-tight text-signal">{NO_DUTY[normal.outcome.kind]}</p>
        <p className="text-soft">at normal water; see the checks below</p>
      </div>
    );
  }
  const several = (running?.state.byOutlet.length ?? 1) > 1;
  const outletName = several ? "At the outlets" : "At the outlet";
  return (
    <dl className="grid grid-cols-2 gap-x-3 px-3 pt-2 pb-2" data-testid="duty">
      <Plate
        name={outletName}
        si={running?.state.delivered ?? duty.flow}
        quantity="flow"
        subject="delivered"
        large
      />
      <Plate name="Total head" si={duty.head} quantity="head" subject="head" large />
      {running && running.state.lost.length > 0 && (
        <>
          <Plate name="Through the pump" si={running.duty.flow} quantity="flow" subject="flow" />
          <Plate
            name="Lost through holes"
            si={running.duty.flow - running.state.delivered}
            quantity="flow"
            subject="lost"
          />
        </>
      )}
      {running && running.state.byOutlet.length > 1 && (
        <EachFlow
          name="Outlet"
          subject="outlet"
          flows={outlets.map((itemId, i) => ({
            itemId,
            flow: running.state.byOutlet[i] as number,
          }))}
        />
      )}
      {running && running.pumps.length > 1 && (
        <EachFlow
          name="Pump"
          subject="flow"
          flows={running.pumps.map(({ itemId, duty: own }) => ({ itemId, flow: own.flow }))}
        />
      )}
      {running?.power !== undefined && (
        <Plate name="Power taken" si={running.power} quantity="power" subject="power" />
      )}
      {running?.efficiency !== undefined && (
        <div>
          <dt className="text-[13px] text-soft">Efficiency</dt>
          <dd className="plate text-2xl leading-none">
            <Worked subject="efficiency">{formatPercent(running.efficiency)}</Worked>
          </dd>
        </div>
      )}
    </dl>
  );
}

/** What each of several outlets or pumps passes. */
function EachFlow({
  name,
  subject,
  flows,
}: {
  name: string;
  subject: "flow" | "outlet";
  flows: readonly { itemId: string; flow: number }[];
}) {
  const units = useUnits();
  return (
    <div className="col-span-2 pb-1">
      <dt className="sr-only">{name}s</dt>
      <dd className="flex flex-wrap gap-x-4 text-[15px]">
        {flows.map(({ itemId, flow }, i) => (
          <span key={itemId}>
            <span className="text-soft">
              {name} {i + 1}
            </span>{" "}
            <span className="font-medium">
              <Worked {...{ subject, itemId }}>{format(flow, "flow", units)}</Worked>
            </span>
          </span>
        ))}
      </dd>
    </div>
  );
}

/** The same line by the other school of friction, and by the other of fittings. */
function OtherSchools({ crossChecks }: Pick<Solution, "crossChecks">) {
  const units = useUnits();
  const said = ({ duty }: { duty?: Duty }) =>
    duty
      ? `${format(duty.flow, "flow", units)} at ${format(duty.head, "head", units)}`
      : "does not settle";
  const { friction, fittings } = crossChecks;
  return (
    <p className="px-3 pb-2 text-[13px] text-soft">
      Cross-check by {friction.by === "hazen-williams" ? "Hazen–Williams" : "Darcy–Weisbach"}:{" "}
      <Opens subject={{ kind: "other-friction" }}>{said(friction)}</Opens>; with{" "}
      {fittings.by === "coefficient" ? "K" : "equivalent lengths"}:{" "}
      <Opens subject={{ kind: "other-fittings" }}>{said(fittings)}</Opens>.
    </p>
  );
}

/** The duty as a range: what doubtful inputs and a pump within its tolerance make of it. */
function Likely({ band, doubt }: { band: Result<BandResult>; doubt: Uncertainty }) {
  const units = useUnits();
  const range = ({ low, high }: Spread, quantity: "flow" | "head") =>
    `${formatNumber(low, quantity, units)} to ${format(high, quantity, units)}`;
  const { kind, value, stale, progress, error } = band;
  const settled = value?.kind === "band" ? value : undefined;
  return (
    <details className="min-h-7 px-3 text-[14px]">
      <summary className="min-h-7">
        {settled ? (
          <span className={stale ? "text-soft" : undefined}>
            <span className="text-soft">Likely</span> {range(settled.flow, "flow")}{" "}
            <span className="text-soft">at</span> {range(settled.head, "head")}
            {stale && kind === "working" && " …"}
          </span>
        ) : (
          <span className="text-soft">
            {kind === "working"
              ? `Likely range … ${formatPercent(progress)}`
              : kind === "cancelled"
                ? "Likely range stopped"
                : "No likely range"}
          </span>
        )}
      </summary>
      <p className="pb-1 text-[13px] text-soft">
        {kind === "failed" && `It could not be worked out: ${error} `}
        {value?.kind === "unsettled" && !stale && `${whyUnsettled(value)} `}
        {value?.kind === "refused" && "The line cannot be solved as it stands. "}
        Nineteen of twenty duties out of {USUAL_DRAWS} draws (Latin hypercube): every level{" "}
        {format(doubt.level, "diameter", units)} up or down, roughness within a factor of{" "}
        {doubt.roughnessFactor}, C ±{formatPercent(doubt.hazenWilliamsC)}, fittings ±
        {formatPercent(doubt.fittings)}, the pump within its tolerance grade. How sure the inputs
        are is typed under Need.
        {kind === "working" ? (
          <button type="button" className="ml-2 min-h-6 underline" onClick={band.cancel}>
            Stop
          </button>
        ) : (
          kind !== "done" && (
            <button type="button" className="ml-2 min-h-6 underline" onClick={band.again}>
              Try again
            </button>
          )
        )}
      </p>
    </details>
  );
}

function whyUnsettled({ settled, tried, mostly }: Extract<BandResult, { kind: "unsettled" }>) {
  if (settled === 0) {
    return `In none of ${tried} draws does the line come to a duty: in most of them ${UNSETTLED_DRAWS[mostly]}.`;
  }
  return `Only ${settled} of ${tried} draws come to a duty; in most of the others ${UNSETTLED_DRAWS[mostly]}.`;
}

const UNSETTLED_DRAWS: Record<Unsettled, string> = {
  "cannot-lift": "the pump cannot lift the water",
  "below-curve": "the pump runs before the start of its published curve",
  "beyond-curve": "the pump runs past the end of its published curve",
  stopped: "the pump is off",
  "not-balanced": "the flows could not be balanced",
};

function Diagnostics({
  solved,
  path,
  onItem,
}: Pick<Props, "solved" | "onItem"> & { path: readonly PathItem[] }) {
  const units = useUnits();
  if (solved.kind !== "refused") return null;
  const [first] = solved.diagnostics;
  // That nobody has drawn the line yet is no fault of it.
  if (first?.code === "line-unknown") {
    return (
      <div className="p-3" data-testid="duty">
        <p className="plate text-3xl leading-tight">No line is known</p>
        <p className="text-soft">{diagnosticSentence(first)}</p>
      </div>
    );
  }
  return (
    <div className="p-3" data-testid="duty">
      <p className="plate text-3xl leading-tight">No duty yet</p>
      <p className="text-soft">The line cannot be solved as it stands:</p>
      <ul aria-label="What is wrong" className="mt-2 border-t border-rule">
        {solved.diagnostics.map((diagnostic) => (
          <li key={`${diagnostic.code}-${diagnostic.itemId}`} className="border-b border-rule py-2">
            <StatusMark severity="stop" />
            {diagnostic.itemId && (
              <button
                type="button"
                className="ml-2 min-h-6 underline"
                onClick={() => onItem(diagnostic.itemId as string)}
              >
                {itemName(path, diagnostic.itemId, units)}
              </button>
            )}
            <p className="text-[14px]">{diagnosticSentence(diagnostic)}</p>
          </li>
        ))}
      </ul>
    </div>
  );
}
