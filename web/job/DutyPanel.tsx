import type { ReactNode } from "react";
import { format, formatNumber, formatPercent } from "#contract/units/format.ts";
import { type Quantity, SHOWN } from "#contract/units/units.ts";
import { type Judgement, judgementKey } from "#core/check/registry.ts";
import { type Duty, settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { Solution, SolvedCase } from "#core/hydraulics/solveLine.ts";
import { type PathItem, WATER_LEVELS, type WaterLevel } from "#core/line/path.ts";
import {
  type BandResult,
  type Doubt,
  type Spread,
  type Unsettled,
  USUAL_DRAWS,
} from "#core/whatif/uncertainty.ts";
import type { JobSolution, Subject } from "#model/solveJob.ts";
import { checkWords } from "#words/checks.ts";
import { diagnosticSentence } from "#words/diagnostics.ts";
import { itemName, WATER } from "#words/items.ts";
import { useUnits } from "../app/settings.ts";
import type { Calculation } from "../calculations/useCalculation.ts";
import { StatusMark } from "../ui/StatusMark.tsx";
import { useWorking } from "./Working.tsx";

interface Props {
  solved: JobSolution;
  path: readonly PathItem[];
  band: Calculation<BandResult>;
  doubt: Doubt;
  onItem: (itemId: string) => void;
}

/** What the pump does on this line, and what to think of it. */
export function DutyPanel({ solved, path, band, doubt, onItem }: Props) {
  if (solved.kind === "refused") return <Diagnostics {...{ solved, path, onItem }} />;
  const { cases, crossChecks } = solved.solution;
  return (
    <div className="flex flex-col">
      <Headline
        normal={cases.normal}
        outlets={solved.solution.line.outlets.map(({ item }) => item.id)}
      />
      <CaseTable cases={cases} />
      <Likely {...{ band, doubt }} />
      <OtherSchools crossChecks={crossChecks} />
      <CheckList judgements={solved.judgements} path={path} onItem={onItem} />
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
  return (
    <dl className="grid grid-cols-2 gap-x-3 px-3 pt-2 pb-2" data-testid="duty">
      <Plate name="Flow" si={duty.flow} quantity="flow" subject="flow" large />
      <Plate name="Total head" si={duty.head} quantity="head" subject="head" large />
      {running && running.state.lost.length > 0 && (
        <>
          <Plate
            name={running.state.byOutlet.length > 1 ? "At the outlets" : "At the outlet"}
            si={running.state.delivered}
            quantity="flow"
            subject="delivered"
          />
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

const NO_DUTY = {
  runs: "",
  "two-crossings": "",
  "cannot-lift": "Moves no water",
  "below-curve": "Off its curve",
  "beyond-curve": "Past its curve",
  stopped: "Off",
} as const;

type PlainSubject = Extract<Subject, { at: WaterLevel }>["kind"];

/** A number of one level that opens its working. */
function Worked({
  subject,
  at = "normal",
  itemId,
  children,
}: {
  subject: PlainSubject;
  at?: WaterLevel;
  itemId?: string;
  children: ReactNode;
}) {
  const one = itemId === undefined ? {} : { itemId };
  return <Opens subject={{ kind: subject, at, ...one }}>{children}</Opens>;
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

function CaseTable({ cases }: { cases: Record<WaterLevel, SolvedCase> }) {
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
        {WATER_LEVELS.map((name) => {
          const { outcome, staticHead } = cases[name];
          const duty = settledDuty(outcome);
          return (
            <tr key={name} className="border-t border-rule">
              <th className="text-left font-normal">{WATER[name]}</th>
              <td className="text-right">
                <Worked subject="static" at={name}>
                  {format(staticHead, "head", units)}
                </Worked>
              </td>
              <td className="text-right">
                {duty ? (
                  <Worked subject="head" at={name}>
                    {format(duty.head, "head", units)}
                  </Worked>
                ) : (
                  "–"
                )}
              </td>
              <td className="text-right font-medium">
                {duty ? (
                  <Worked subject="flow" at={name}>
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

interface ListProps {
  judgements: readonly Judgement[];
  path: readonly PathItem[];
  onItem: (itemId: string) => void;
}

/** What stops, what to watch and what cannot be judged, each open; the good ones fold into one line. */
function CheckList({ judgements, path, onItem }: ListProps) {
  const bad = judgements.filter(({ severity }) => severity !== "good");
  const good = judgements.filter(({ severity }) => severity === "good");
  return (
    <>
      <Checks name="Checks" judgements={bad} {...{ path, onItem }} />
      {good.length > 0 && (
        <details className="group border-t border-rule">
          <summary className="flex min-h-7 list-none items-center gap-2 px-3 py-1.5">
            <StatusMark severity="good" />
            <span className="plate text-[17px] leading-tight">
              {good.length === 1 ? "1 check" : `${good.length} checks`}
            </span>
            <span className="ml-auto text-[13px] underline">
              <span className="group-open:hidden">show</span>
              <span className="not-group-open:hidden">fold</span>
            </span>
          </summary>
          <Checks name="Good checks" judgements={good} {...{ path, onItem }} />
        </details>
      )}
    </>
  );
}

function Checks({ name, judgements, path, onItem }: ListProps & { name: string }) {
  const units = useUnits();
  const show = useWorking();
  if (judgements.length === 0) return null;
  return (
    <ul aria-label={name} className="border-t border-rule *:not-first:border-t">
      {judgements.map((judgement) => {
        const { title, sentence, mend } = checkWords(judgement, path, units);
        const { code, severity, itemId, source } = judgement;
        return (
          <li
            key={judgementKey(judgement)}
            data-check={code}
            className={`border-rule px-3 py-1.5 ${severity === "stop" ? "border-l-6 border-l-signal pl-2" : ""}`}
          >
            <p className="flex min-h-7 items-center gap-2">
              <StatusMark severity={severity} />
              <span className="plate text-[17px] leading-tight">{title}</span>
            </p>
            <p className="text-[14px]">{sentence}</p>
            {mend && <p className="text-[14px] font-medium">{mend}</p>}
            <p className="text-[12px] text-soft">
              {source}
              <button
                type="button"
                className="ml-2 min-h-6 underline"
                onClick={() => show({ kind: "check", judgement })}
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
          </li>
        );
      })}
    </ul>
  );
}

/** The duty as a range: what doubtful inputs and a pump within its tolerance make of it. */
function Likely({ band, doubt }: { band: Calculation<BandResult>; doubt: Doubt }) {
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
        {value?.kind === "unsettled" && `${whyUnsettled(value)} `}
        {value?.kind === "refused" && "The line cannot be solved as it stands. "}
        Nineteen of twenty duties out of {USUAL_DRAWS} draws (Latin hypercube): every level{" "}
        {format(doubt.level, "diameter", units)} up or down, roughness within a factor of{" "}
        {doubt.roughnessFactor}, C ±{formatPercent(doubt.hazenWilliamsC)}, fittings ±
        {formatPercent(doubt.fittings)}, the pump within its tolerance grade. How sure the inputs
        are is typed under Source.
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
  return `Only ${settled} of ${tried} draws come to a duty; in most of the others ${UNSETTLED_DRAWS[mostly]}.`;
}

const UNSETTLED_DRAWS: Record<Unsettled, string> = {
  "cannot-lift": "the pump cannot lift the water",
  "below-curve": "the pump runs before the start of its published curve",
  "beyond-curve": "the pump runs past the end of its published curve",
  stopped: "the pump is off",
  "not-balanced": "the flows could not be balanced",
};

function Diagnostics({ solved, path, onItem }: Omit<Props, "band" | "doubt">) {
  const units = useUnits();
  if (solved.kind !== "refused") return null;
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
