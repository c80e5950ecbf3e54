import type { ReactNode } from "react";
import { format, formatNumber, formatPercent } from "#contract/units/format.ts";
import { type Quantity, SHOWN } from "#contract/units/units.ts";
import type { Verdict } from "#core/check/verdict.ts";
import { verdictKey } from "#core/check/verdicts.ts";
import type { Subject } from "#core/formula/working.ts";
import { type Duty, settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { CaseSolution, Solution } from "#core/hydraulics/solveLine.ts";
import { LEVEL_CASES, type LevelCase, type PathItem } from "#core/line/path.ts";
import { type Band, type Doubt, type Spread, USUAL_DRAWS } from "#core/whatif/uncertainty.ts";
import type { JobSolution } from "#model/solveJob.ts";
import { verdictWords } from "#words/checks.ts";
import { findingSentence } from "#words/diagnostics.ts";
import { CASES, itemName } from "#words/items.ts";
import { useUnits } from "../app/settings.ts";
import { StatusMark } from "../ui/StatusMark.tsx";
import { useWorking } from "./Working.tsx";

interface Props {
  solved: JobSolution;
  path: readonly PathItem[];
  band: Band | null | undefined;
  doubt: Doubt;
  onItem: (itemId: string) => void;
}

/** What the pump does on this line, and what to think of it. */
export function DutyPanel({ solved, path, band, doubt, onItem }: Props) {
  if (solved.kind === "refused") return <Findings {...{ solved, path, onItem }} />;
  const { cases, crossChecks } = solved.solution;
  return (
    <div className="flex flex-col">
      <Headline normal={cases.normal} />
      <CaseTable cases={cases} />
      <Likely {...{ band, doubt }} />
      <OtherSchools crossChecks={crossChecks} />
      <VerdictList verdicts={solved.verdicts} path={path} onItem={onItem} />
    </div>
  );
}

function Headline({ normal }: { normal: CaseSolution }) {
  const duty = settledDuty(normal.outcome);
  const { running } = normal;
  if (!duty) {
    return (
      <div className="px-3 pt-2 pb-3" data-testid="duty">
        <p className="plate text-4xl leading-tight text-signal">{NO_DUTY[normal.outcome.kind]}</p>
        <p className="text-soft">at normal water; see the verdict below</p>
      </div>
    );
  }
  return (
    <dl className="grid grid-cols-2 gap-x-3 px-3 pt-2 pb-2" data-testid="duty">
      <Plate name="Flow" si={duty.flow} quantity="flow" subject="flow" large />
      <Plate name="Total head" si={duty.head} quantity="head" subject="head" large />
      {running && running.flows.lost.length > 0 && (
        <>
          <Plate
            name={running.flows.byOutlet.length > 1 ? "At the outlets" : "At the outlet"}
            si={running.flows.delivered}
            quantity="flow"
            subject="delivered"
          />
          <Plate
            name="Lost through holes"
            si={running.duty.flow - running.flows.delivered}
            quantity="flow"
            subject="lost"
          />
        </>
      )}
      {running && running.flows.byOutlet.length > 1 && (
        <EachFlow name="Outlet" flows={running.flows.byOutlet} />
      )}
      {running && running.pumps.length > 1 && (
        <EachFlow name="Pump" flows={running.pumps.map((pump) => pump.duty.flow)} />
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

const NO_DUTY = {
  runs: "",
  "two-crossings": "",
  "cannot-lift": "Moves no water",
  "below-curve": "Off its curve",
  "beyond-curve": "Past its curve",
} as const;

type PlainSubject = Extract<Subject, { levelCase: LevelCase }>["kind"];

/** A number of one level that opens its working. */
function Worked({
  subject,
  levelCase = "normal",
  children,
}: {
  subject: PlainSubject;
  levelCase?: LevelCase;
  children: ReactNode;
}) {
  return <Opens subject={{ kind: subject, levelCase }}>{children}</Opens>;
}

/** Something shown that opens its working. */
function Opens({ subject, children }: { subject: Subject; children: ReactNode }) {
  const show = useWorking();
  return (
    <button
      type="button"
      title="Show the working"
      className="text-inherit underline decoration-rule decoration-1 underline-offset-4 hover:decoration-ink"
      onClick={() => show(subject)}
    >
      {children}
    </button>
  );
}

function Plate(props: {
  name: string;
  si: number;
  quantity: Quantity;
  subject?: PlainSubject;
  large?: boolean;
}) {
  const { name, si, quantity, large, subject } = props;
  const units = useUnits();
  const figure = (
    <>
      {formatNumber(si, quantity, units)}
      <span className="ml-1 text-lg font-medium">{SHOWN[units][quantity]}</span>
    </>
  );
  return (
    <div>
      <dt className="text-[13px] text-soft">{name}</dt>
      <dd className={`plate leading-none ${large ? "pb-1.5 text-[44px]" : "text-2xl"}`}>
        {subject ? <Worked subject={subject}>{figure}</Worked> : figure}
      </dd>
    </div>
  );
}

/** What each of several outlets or pumps passes. */
function EachFlow({ name, flows }: { name: string; flows: readonly number[] }) {
  const units = useUnits();
  return (
    <div className="col-span-2 pb-1">
      <dt className="sr-only">{name}s</dt>
      <dd className="flex flex-wrap gap-x-4 text-[15px]">
        {flows.map((flow, i) => (
          <span key={i}>
            <span className="text-soft">
              {name} {i + 1}
            </span>{" "}
            <span className="font-medium">
              <Worked subject="flow">{format(flow, "flow", units)}</Worked>
            </span>
          </span>
        ))}
      </dd>
    </div>
  );
}

function CaseTable({ cases }: { cases: Record<(typeof LEVEL_CASES)[number], CaseSolution> }) {
  const units = useUnits();
  return (
    <table className="mx-3 mb-1 text-[14px]">
      <thead className="text-left text-[13px] text-soft">
        <tr>
          <th className="font-normal">At</th>
          <th className="text-right font-normal">Static</th>
          <th className="text-right font-normal">Head</th>
          <th className="text-right font-normal">Flow</th>
        </tr>
      </thead>
      <tbody>
        {LEVEL_CASES.map((name) => {
          const { outcome, staticHead } = cases[name];
          const duty = settledDuty(outcome);
          return (
            <tr key={name} className="border-t border-rule">
              <th className="text-left font-normal">{CASES[name]}</th>
              <td className="text-right">
                <Worked subject="static" levelCase={name}>
                  {format(staticHead, "head", units)}
                </Worked>
              </td>
              <td className="text-right">
                {duty ? (
                  <Worked subject="head" levelCase={name}>
                    {format(duty.head, "head", units)}
                  </Worked>
                ) : (
                  "–"
                )}
              </td>
              <td className="text-right font-medium">
                {duty ? (
                  <Worked subject="flow" levelCase={name}>
                    {format(duty.flow, "flow", units)}
                  </Worked>
                ) : (
                  NO_DUTY[outcome.kind]
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
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

function VerdictList({
  verdicts,
  path,
  onItem,
}: {
  verdicts: readonly Verdict[];
  path: readonly PathItem[];
  onItem: (itemId: string) => void;
}) {
  const units = useUnits();
  const show = useWorking();
  return (
    <ul aria-label="Verdicts" className="border-t border-rule">
      {verdicts.map((verdict) => {
        const { title, sentence, mend } = verdictWords(verdict, path, units);
        const { code, level, itemId, source } = verdict;
        return (
          <li
            key={verdictKey(verdict)}
            data-verdict={code}
            className={`border-b border-rule px-3 py-1.5 ${level === "stop" ? "border-l-6 border-l-signal pl-2" : ""}`}
          >
            <details open={level !== "good"}>
              <summary className="flex min-h-7 list-none items-center gap-2">
                <StatusMark level={level} />
                <span className="plate text-[17px] leading-tight">{title}</span>
              </summary>
              <p className="text-[14px]">{sentence}</p>
              {mend && <p className="text-[14px] font-medium">{mend}</p>}
              <p className="text-[12px] text-soft">
                {source}
                <button
                  type="button"
                  className="ml-2 min-h-6 underline"
                  onClick={() => show({ kind: "verdict", verdict })}
                >
                  Working
                </button>
                {itemId && (
                  <button
                    type="button"
                    className="ml-2 min-h-6 underline"
                    onClick={() => onItem(itemId)}
                  >
                    Show the part
                  </button>
                )}
              </p>
            </details>
          </li>
        );
      })}
    </ul>
  );
}

/** The duty as a range: what doubtful inputs and a pump within its tolerance make of it. */
function Likely({ band, doubt }: { band: Band | null | undefined; doubt: Doubt }) {
  const units = useUnits();
  const range = ({ low, high }: Spread, quantity: "flow" | "head") =>
    `${formatNumber(low, quantity, units)} to ${format(high, quantity, units)}`;
  return (
    <details className="min-h-7 px-3 text-[14px]">
      <summary className="min-h-7">
        {band && (
          <>
            <span className="text-soft">Likely</span> {range(band.flow, "flow")}{" "}
            <span className="text-soft">at</span> {range(band.head, "head")}
          </>
        )}
        {band === undefined && <span className="text-soft">Likely range …</span>}
        {band === null && <span className="text-soft">No likely range</span>}
      </summary>
      <p className="pb-1 text-[13px] text-soft">
        {band === null && "The pump does not settle often enough to say. "}
        Nineteen of twenty duties out of {USUAL_DRAWS} draws (Latin hypercube): levels{" "}
        {format(doubt.level, "diameter", units)} up or down, roughness within a factor of{" "}
        {doubt.roughnessFactor}, C ±{formatPercent(doubt.hazenWilliamsC)}, fittings ±
        {formatPercent(doubt.fittings)}, the pump within its tolerance grade. How sure the inputs
        are is typed under Source.
      </p>
    </details>
  );
}

function Findings({ solved, path, onItem }: Omit<Props, "band" | "doubt">) {
  const units = useUnits();
  if (solved.kind !== "refused") return null;
  return (
    <div className="p-3" data-testid="duty">
      <p className="plate text-3xl leading-tight">No duty yet</p>
      <p className="text-soft">The line cannot be solved as it stands:</p>
      <ul aria-label="Findings" className="mt-2 border-t border-rule">
        {solved.findings.map((finding) => (
          <li key={`${finding.code}-${finding.itemId}`} className="border-b border-rule py-2">
            <StatusMark level="stop" />
            {finding.itemId && (
              <button
                type="button"
                className="ml-2 min-h-6 underline"
                onClick={() => onItem(finding.itemId as string)}
              >
                {itemName(path, finding.itemId, units)}
              </button>
            )}
            <p className="text-[14px]">{findingSentence(finding)}</p>
          </li>
        ))}
      </ul>
    </div>
  );
}
