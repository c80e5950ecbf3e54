import type { JobDocument, WellDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatUncertain } from "#contract/units/format.ts";
import { standingOf } from "#model/well/settle.ts";
import type { Guarded, WellResult } from "#model/well/well.ts";
import { litres, seasonName, spell } from "#words/well.ts";
import { DrawdownPlot } from "../../charts/DrawdownPlot.tsx";
import { AllFound } from "../../findings/Found.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { Usual } from "../../jobFields/Usual.tsx";
import { without } from "../../lib/without.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { OptionalNumber } from "../../ui/OptionalNumber.tsx";
import { Rows } from "../../ui/Rows.tsx";
import { setWell } from "./edits.ts";
import { Figure } from "./Figure.tsx";
import type { ResultProps } from "./props.ts";

/** What a well gives, how far pumping draws it down, and where the pump may hang. */
export function HoleResults({ job, told, typed }: ResultProps & { typed: JobDocument }) {
  const units = useUnits();
  const { seasons, casing, window, guarded } = told;
  const dry = seasons[0];
  const season = dry?.assumed ? "as it stands now, no dry season measured" : "dry season";
  const length = (si: number) => format(si, "length", units);
  return (
    <div className="grid gap-4">
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3" data-testid="well-figures">
        <Figure
          name="Pump may hang"
          value={
            !window.top
              ? "not known"
              : !Number.isFinite(window.to)
                ? `below ${length(window.from)}`
                : window.to < window.from
                  ? "nowhere"
                  : `${length(window.from).replace(/ .*/, "")} to ${length(window.to)}`
          }
          note={`it hangs ${length(told.depth)} down${window.top ? "" : "; type a step of the test"}`}
        />
        {dry?.pumping !== undefined && (
          <Figure
            name="Lowest pumping level"
            value={length(dry.pumping)}
            note={
              dry.doubt === undefined
                ? `${season}, at the cut-in`
                : `${season}, at the cut-in, ± ${length(dry.doubt)} by the test`
            }
            working="pumping"
          />
        )}
        {dry?.gives !== undefined && Number.isFinite(dry.gives) && (
          <Figure
            name="The well gives"
            value={format(dry.gives, "flow", units)}
            note={
              told.fit.kind === "fitted" && dry.gives > told.fit.testedTo
                ? `${season}, 3 ft (0.9 m) over the intake, if the curve goes on past the ${format(told.fit.testedTo, "flow", units)} that were tested`
                : `without end, ${season}, 3 ft (0.9 m) over the intake`
            }
            working="gives"
          />
        )}
        {casing && (
          <>
            <Figure
              name="Out of the casing"
              value={litres(casing.volume, units)}
              note="before the ground gives it all"
              working="casing"
            />
            <Figure
              name="Recovers 90 %"
              value={spell(casing.recovers)}
              note="after the pump stops, by the casing alone"
              working="settles"
            />
          </>
        )}
      </dl>
      <Test {...{ job: typed, told }} />
      <Seasons {...{ seasons, flowWanted: job.wantedFlow }} />
      {guarded && <Guard {...{ guarded, job: typed }} findings={told.findings} />}
      <p className="text-[14px]">
        Drilling, deepening, sealing and disinfecting a well, and connecting it to drinking water,
        belong to licensed people in most places. Keep the casing closed and everything that goes
        down it clean.
      </p>
    </div>
  );
}

/** The pumping test, step by step, and the curve through it. */
function Test({ job, told }: { job: JobDocument; told: WellResult }) {
  const steps = job.well?.steps ?? [];
  return (
    <section aria-label="Pumping test" className="grid gap-2">
      <h2 className="text-xl">Pumping test</h2>
      <div className="grid gap-2 sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <div className="grid content-start gap-2">
          <Usual
            label="Water before the test"
            quantity="length"
            range={RANGES.depth}
            usual={standingOf(job)}
            value={job.well?.standing}
            onChange={(standing) => setWell({ standing })}
          />
          <Rows
            rows={steps}
            onChange={(next) => setWell({ steps: next })}
            columns="grid-cols-[1fr_1fr_0.8fr_auto] gap-1.5"
            called={(_, i) => `step ${i + 1}`}
            add={{
              name: "A step",
              disabled: steps.length >= 100,
              row: (): (typeof steps)[number] => nextStep(job),
            }}
          >
            {(step, set, i) => (
              <>
                <JobQuantity
                  label={`Step ${i + 1}, flow`}
                  quantity="flow"
                  range={RANGES.flow}
                  value={step.flow}
                  onChange={(flow) => set({ flow })}
                />
                <JobQuantity
                  label="level"
                  quantity="length"
                  range={RANGES.depth}
                  value={step.level}
                  onChange={(level) => set({ level })}
                />
                <OptionalNumber
                  label="min"
                  whole={false}
                  most={100_000}
                  value={step.minutes}
                  onChange={(minutes) => set({ minutes })}
                />
              </>
            )}
          </Rows>
        </div>
        {told.fit.kind === "fitted" && <DrawdownPlot {...{ job, told }} />}
      </div>
      <AllFound of="drawdown-test" among={told.findings} />
      {told.differs && (
        <div className="grid justify-items-start gap-1">
          <AllFound of="drawdown-differs" among={told.findings} />
          <Button onClick={() => setWell({})}>Take the test’s</Button>
        </div>
      )}
      <AllFound of="step-too-short" among={told.findings} />
    </section>
  );
}

/** A further step, a little more than the last. */
function nextStep(job: JobDocument) {
  const last = job.well?.steps?.at(-1);
  const standing = standingOf(job);
  const flow = last ? 1.5 * last.flow : (job.wantedFlow ?? 5e-4);
  return { flow, level: last ? last.level + 0.6 * (last.level - standing) : standing + 3 };
}

function Seasons({
  seasons,
  flowWanted,
}: {
  seasons: WellResult["seasons"];
  flowWanted: number | undefined;
}) {
  const units = useUnits();
  const length = (si: number | undefined) => (si === undefined ? "–" : format(si, "length", units));
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left text-[15px]" data-testid="seasons">
        <caption className="sr-only">The well through the year</caption>
        <thead>
          <tr className="text-[13px] text-soft">
            <td />
            {["Standing", "Pumped to", "Drawn down", "At cut-in", "It gives"].map((name) => (
              <th key={name} scope="col" className="px-1.5 pb-1 font-normal">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {seasons.map(({ at, assumed, standing, pumping, drawdown, doubt, flow, gives }) => (
            <tr key={at} className="border-t border-rule">
              <th scope="row" className="px-1.5 py-1 font-normal">
                {seasonName({ at, assumed })}
              </th>
              <td className="px-1.5">{length(standing)}</td>
              <td className="plate px-1.5">{length(pumping)}</td>
              <td className="px-1.5">
                {drawdown === undefined
                  ? "–"
                  : doubt === undefined
                    ? length(drawdown)
                    : formatUncertain(drawdown, doubt, "length", units)}
              </td>
              <td className="px-1.5">{flow === undefined ? "–" : format(flow, "flow", units)}</td>
              <td className="px-1.5">
                {gives === undefined || !Number.isFinite(gives)
                  ? "–"
                  : format(gives, "flow", units)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {seasons.every(({ flow }) => flow === undefined) && (
        <p className="pt-1 text-[14px] text-soft">
          {flowWanted === undefined
            ? "Say what flow is wanted under Need, and what a test drew it down to: then the pumping levels stand here."
            : "The pumping levels stand here once a test says how far pumping draws it down."}
        </p>
      )}
    </div>
  );
}

/** A well weaker than its pump: what its guard makes of a day. */
function Guard({
  guarded,
  findings,
  job,
}: {
  guarded: Guarded;
  findings: WellResult["findings"];
  job: JobDocument;
}) {
  const { dryRun } = job.well ?? {};
  return (
    <section aria-label="Weaker than its pump" className="grid gap-2">
      <h2 className="text-xl">Weaker than its pump</h2>
      <AllFound of="well-weaker-than-pump" among={findings} />
      <div className="grid grid-cols-2 gap-2 sm:max-w-80">
        <Usual
          label="Guard stops it at"
          quantity="length"
          range={RANGES.depth}
          usual={guarded.stop}
          value={dryRun?.stop}
          onChange={(stop) =>
            setWell({ dryRun: without({ ...dryRun, stop }) as WellDocument["dryRun"] })
          }
        />
        <Usual
          label="and again from"
          quantity="length"
          range={RANGES.depth}
          usual={guarded.restart}
          value={dryRun?.restart}
          onChange={(restart) =>
            setWell({ dryRun: without({ ...dryRun, restart }) as WellDocument["dryRun"] })
          }
        />
      </div>
    </section>
  );
}
