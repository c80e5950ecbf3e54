import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatSize } from "#contract/units/format.ts";
import { USUAL_MOTOR } from "#core/well/setting.ts";
import type { HangingRun } from "#model/well/dropPipe.ts";
import type { WellPart } from "#model/well/parts.ts";
import { pumpDepth, withPumpDepth } from "#model/well/settle.ts";
import { checkWords, RULES } from "#words/checks.ts";
import { itemName, stockName } from "#words/items.ts";
import { PART_NAMES, PIPE_STATES } from "#words/well.ts";
import { AllFound } from "../../findings/Found.tsx";
import { STOCK_OPTIONS } from "../../jobFields/choices.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { Usual } from "../../jobFields/Usual.tsx";
import { edit, editItem } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { SearchField } from "../../ui/SearchField.tsx";
import { StatusMark } from "../../ui/StatusMark.tsx";
import { setWell } from "./edits.ts";
import { Figure } from "./Figure.tsx";
import { PumpDepth } from "./PumpDepth.tsx";
import type { FieldProps, ResultProps } from "./props.ts";

/** How deep the pump hangs and on what. */
export function PipeFields({ job, told }: FieldProps) {
  const depth = pumpDepth(job);
  const first = told?.dropPipe.runs[0];
  const window = told?.window;
  const middle =
    window && Number.isFinite(window.to) && window.to > window.from
      ? Math.min(window.from + 5, (window.from + window.to) / 2)
      : undefined;
  return (
    <div className="grid gap-4">
      <section aria-label="The pump’s place" className="grid grid-cols-2 items-end gap-2">
        <PumpDepth job={job} label="Intake hangs at" />
        <Usual
          label="Motor below it"
          quantity="length"
          range={RANGES.depthOrNone}
          usual={USUAL_MOTOR}
          value={job.well?.motor}
          onChange={(motor) => setWell({ motor })}
        />
        <JobQuantity
          label={job.well?.sleeve === undefined ? "Sleeve, bore (none)" : "Sleeve, bore"}
          optional
          quantity="diameter"
          range={RANGES.bore}
          value={job.well?.sleeve}
          onChange={(sleeve) => setWell({ sleeve })}
        />
        {middle !== undefined && (depth < (window?.from ?? 0) || depth > (window?.to ?? 0)) && (
          <HangAt depth={middle} />
        )}
      </section>
      {first && (
        <section aria-label="The drop pipe" className="grid gap-2">
          <h2 className="text-xl">Drop pipe</h2>
          <SearchField
            label="Pipe"
            visibleLabel
            shown={stockName(first.stock)}
            value={first.stock}
            options={STOCK_OPTIONS}
            onChange={(stock) => editItem<"pipe">(first.itemId, { stock })}
          />
        </section>
      )}
      <p className="text-[14px]">
        Power off and locked off before anybody is over the well. The pump hangs on its pipe and a
        rope, never on its cable. Start it with the discharge valve one third closed.
      </p>
    </div>
  );
}

function HangAt({ depth }: { depth: number }) {
  const units = useUnits();
  return (
    <Button onClick={() => edit((j) => withPumpDepth(j, Number(depth.toFixed(2))))}>
      Hang it at {format(depth, "length", units)}
    </Button>
  );
}

/** The window and its reasons, what cools the motor, what the pipe holds and what hangs on it. */
export function PipeResults({ job, told }: ResultProps) {
  const units = useUnits();
  const { window, dropPipe, parts } = told;
  // What the hanging pipe holds is told run by run in its table, with what to hang it on instead.
  const listed = told.judgements.filter(
    ({ code, itemId }) =>
      !(code.startsWith("pressure-rating") && dropPipe.runs.some((run) => run.itemId === itemId)),
  );
  const judgements = listed.filter(({ severity }) => severity !== "good");
  const good = listed.length - judgements.length;
  const empty = window.to < window.from;
  const length = (si: number) => format(si, "length", units);
  return (
    <div className="grid gap-4">
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3" data-testid="pipe-figures">
        <Figure
          name="Not above"
          value={window.top ? length(window.from) : "not known"}
          note={window.top ? RULES[window.top] : "type a step of the test"}
          working={window.top === "under-water" ? "highest" : undefined}
        />
        <Figure
          name="Not below"
          value={Number.isFinite(window.to) ? length(window.to) : "not known"}
          note={empty ? "nothing is left between the two" : window.foot && RULES[window.foot]}
          working={Number.isFinite(window.to) ? "lowest" : undefined}
        />
        <Figure name="It hangs at" value={length(told.depth)} note="of the intake" />
      </dl>
      <ul aria-label="What is said of it" className="grid gap-2">
        {judgements.map((judgement) => {
          const { title, sentence, advice } = checkWords(judgement, job, units);
          const sleeve =
            judgement.code === "motor-cooling" && judgement.facts.within === "casing"
              ? judgement.facts.sleeve
              : null;
          return (
            <li key={`${judgement.code} ${judgement.itemId ?? ""}`} className="text-[15px]">
              <span className="flex items-center gap-2">
                <StatusMark severity={judgement.severity} />
                <span className="plate text-[18px]">{title}</span>
              </span>
              <p>
                {sentence} {advice && <span className="font-medium">{advice}</span>}
              </p>
              {sleeve !== null && (
                <Button className="mt-1" onClick={() => setWell({ sleeve })}>
                  Fit a sleeve of {formatSize(sleeve, units, "nearest")}
                </Button>
              )}
            </li>
          );
        })}
        {good > 0 && (
          <li className="flex items-center gap-2 text-[15px]">
            <StatusMark severity="good" />
            <span>
              {good} {good === 1 ? "check" : "checks"} of pump and pipe
            </span>
          </li>
        )}
      </ul>
      <section aria-label="Where it may hang" className="grid gap-1">
        <h2 className="text-xl">Where it may hang</h2>
        <table className="w-full border-collapse text-left text-[15px]" data-testid="window">
          <caption className="sr-only">Every rule for the depth of the pump</caption>
          <tbody>
            {window.bounds.map(({ rule, side, depth }) => (
              <tr key={rule} className="border-t border-rule">
                <td className="py-1 pr-2 whitespace-nowrap text-soft">
                  {side === "not-above" ? "at or below" : "at or above"}
                </td>
                <td className="plate pr-3 text-[18px] whitespace-nowrap">{length(depth)}</td>
                <td className={rule === window.top || rule === window.foot ? "font-medium" : ""}>
                  {RULES[rule]}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {window.missing.length > 0 && (
          <p className="text-[14px] text-soft">
            Not judged for want of: {window.missing.map((own) => MISSING[own]).join(", ")}.
          </p>
        )}
      </section>
      {dropPipe.runs.map((run) => (
        <Holds key={run.itemId} {...{ run, job }} />
      ))}
      {dropPipe.lift !== undefined && dropPipe.cutOut !== undefined && (
        <dl>
          <Figure
            name="At cut-out, at the lowest water outside"
            value={format(
              dropPipe.runs[0]?.holds.find(({ state }) => state === "cut-out")?.pressure ?? 0,
              "pressure",
              units,
            )}
            note={`${length(dropPipe.lift)} up to the tank, and ${format(dropPipe.cutOut, "pressure", units)}`}
            working="cut-out"
          />
        </dl>
      )}
      {dropPipe.hangs ? (
        <section aria-label="What hangs on it" className="grid gap-1.5">
          <h2 className="text-xl">What hangs on it</h2>
          <AllFound of="hanging" among={told.findings} />
        </section>
      ) : (
        <AllFound of="pump-weight-unknown" among={told.findings} />
      )}
      <Parts parts={parts} />
    </div>
  );
}

const MISSING = {
  "pumping-level": "the pumping level (a step of a test)",
  bottom: "the well’s bottom",
  casing: "the casing’s bore",
  width: "how wide the pump is",
  immersion: "how much water the pump bears over it",
} as const;

function Holds({ run, job }: { run: HangingRun; job: JobDocument }) {
  const units = useUnits();
  const pressure = (si: number | undefined) =>
    si === undefined ? "not known" : format(si, "pressure", units);
  const passing = run.instead.filter(({ passes }) => passes);
  const bad = run.holds.some(({ severity }) => severity === "stop");
  return (
    <section aria-label="What the pipe holds" className="grid gap-1">
      <h2 className="text-xl">{itemName(job.path, run.itemId, units)}</h2>
      <table className="w-full border-collapse text-left text-[15px]" data-testid="drop-pipe">
        <caption className="pb-1 text-left text-[14px] text-soft">
          Across its wall at the pump, the water outside taken off
          {run.rating === undefined
            ? "; no rating is stocked for it at this water temperature"
            : `; rated ${format(run.rating, "pressure", units)} at this water temperature`}
        </caption>
        <tbody>
          {run.holds.map(({ state, pressure: own, severity }) => (
            <tr key={state} className="border-t border-rule">
              <th scope="row" className="py-1 pr-2 font-normal">
                {PIPE_STATES[state]}
              </th>
              <td className="plate pr-3 text-[18px]">{pressure(own)}</td>
              <td>
                <StatusMark severity={severity} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {bad && (
        <p className="text-[15px] font-medium">
          {passing.length === 0
            ? "No pipe of this bore in stock holds all of it: a lower cut-out, a pump with less head, or a relief valve a licensed person sets."
            : "Pipe that holds all of it:"}
        </p>
      )}
      {(bad ? passing : []).map(({ stock, rating, price }) => (
        <p key={stock} className="flex flex-wrap items-center gap-2 text-[15px]">
          <span className="min-w-0 flex-1">
            {stockName(stock)}, {format(rating, "pressure", units)}; {price.toFixed(0)} in all
            (invented)
          </span>
          <Button onClick={() => editItem<"pipe">(run.itemId, { stock })}>Hang it on this</Button>
        </p>
      ))}
    </section>
  );
}

function Parts({ parts }: { parts: readonly WellPart[] }) {
  const units = useUnits();
  return (
    <section aria-label="Parts down the well" className="grid gap-1">
      <h2 className="text-xl">Beside pump and pipe</h2>
      <table className="w-full border-collapse text-left text-[15px]">
        <tbody>
          {parts.map((part) => (
            <tr key={part.what} className="border-t border-rule">
              <th scope="row" className="py-1 pr-2 font-normal">
                {PART_NAMES[part.what]}
              </th>
              <td className="plate text-right text-[17px]">
                {"count" in part ? part.count : format(part.length, "length", units)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-[13px] text-soft">
        Counts are common practice, no source. Steel and copper need no torque arrestor: they do not
        twist.
      </p>
    </section>
  );
}
