import { format, formatPercent } from "#contract/units/format.ts";
import { radiusOf } from "#model/irrigation/fieldPlan.ts";
import { duration } from "#words/duration.ts";
import { depthOf, evennessWords, groundOf } from "#words/irrigation.ts";
import { amountOf } from "#words/simulation.ts";
import { FieldDrawing } from "../../drawings/FieldDrawing.tsx";
import { AllFound, Found } from "../../findings/Found.tsx";
import { useUnits } from "../../state/settings.ts";
import { Figure } from "./Figure.tsx";
import { keepOffName } from "./keptOff.ts";
import type { ResultProps } from "./resultProps.ts";

/** The field with its sets, how long each runs, and whether the ground takes it. */
export function FieldResults({ job, told }: ResultProps) {
  const units = useUnits();
  const { ground, sets, timing, guns, between } = told;
  const field = job.field ?? {};
  if (!ground) {
    return <p className="text-soft">Say how large the ground is: its two sides are enough.</p>;
  }
  if (ground.kind === "refused") {
    return (
      <div role="alert">
        <AllFound of="ground-refused" among={told.findings} />
      </div>
    );
  }
  const keepOff = field.keepOff ?? [];
  const bad = guns.find(({ thrown }) => thrown.kind !== "throws");
  return (
    <div className="grid gap-3">
      <FieldDrawing
        outline={ground.outline}
        keepOff={told.keepOff}
        names={keepOff.map(keepOffName)}
        from={field.from ?? 0}
        plan={sets?.kind === "planned" ? sets : undefined}
        radius={radiusOf(guns)}
        guns={guns.length}
      />
      {guns.length === 0 && (
        <p className="text-soft">
          {groundOf(ground.area, units)}. The sets come with a gun that runs: see what stops the
          line beside, or give it a gun under Guns.
        </p>
      )}
      {bad && (
        <div role="alert">
          <Found finding={bad.finding} />
          <p>No set is planned on a gun that does not throw.</p>
        </div>
      )}
      {sets?.kind === "refused" && (
        <div role="alert">
          <AllFound of="sets-refused" among={told.findings} />
        </div>
      )}
      {sets?.kind === "planned" && timing && (
        <>
          <dl
            className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3"
            data-testid="field-figures"
          >
            <Figure
              name={guns.length > 1 ? `Sets, ${guns.length} guns at a time` : "Sets"}
              value={sets.sets}
              note={
                between?.low !== undefined &&
                between.high !== undefined &&
                between.low < between.high
                  ? `${between.low} to ${between.high} by the doubt of the throw`
                  : undefined
              }
            />
            <Figure
              name="A set"
              value={duration(timing.perSet)}
              note={`${depthOf(timing.depth, units)} over the ground${runsVary(timing.runs)}`}
              working="per-set"
            />
            <Figure
              name="Once round"
              value={duration(timing.whole)}
              note={`${duration(timing.running)} of it running${
                timing.fuel === undefined ? "" : `, ${format(timing.fuel, "volume", units)} of fuel`
              }${timing.energy === undefined ? "" : `, ${format(timing.energy, "energy", units)}`}`}
            />
            <Figure
              name="Water in all"
              value={amountOf(timing.volume, units)}
              note={`${depthOf(timing.depth, units)} on ${groundOf(sets.area, units)}`}
              working="laid"
            />
            <Figure
              name="Falls outside"
              value={formatPercent(sets.outside)}
              note={`${depthOf(timing.inside / sets.area, units)} reach the ground`}
            />
            <Figure
              name="Between stands"
              value={`${format(sets.spacing.along, "length", units)} by ${format(sets.spacing.across, "length", units)}`}
              note={`Evenness to expect ${formatPercent(sets.evenness.christiansen)}: ${evennessWords(sets.evenness.christiansen)}`}
            />
          </dl>
          <AllFound of="runoff" among={told.findings} />
          <AllFound
            of="set-note"
            among={told.findings}
            keepOff={(k) => (keepOff[k] ? keepOffName(keepOff[k]) : "An edge")}
          />
          <AllFound of="ground-dry" among={told.findings} />
          <p className="text-[13px] text-soft">
            The pressure is that at the place the line is drawn to; a farther stand with the same
            hose has it too, one that lies higher has less. How the water falls off from the gun is{" "}
            {told.cans?.test.kind === "tested" && told.cans.test.profile
              ? "as the catch cans caught it."
              : "taken as a cone (common practice, no source) until catch cans say."}{" "}
            Spacing by wind is from memory.
          </p>
        </>
      )}
      {ground.walk && (
        <p className="text-[14px] text-soft">
          {ground.walk.lastSideOpen
            ? `The walk ends ${format(ground.walk.gap, "length", units)} from its start: that is taken as the last side.`
            : `The walk misses its start by ${format(ground.walk.gap, "length", units)} of ${format(ground.walk.length, "length", units)}; that is spread over its sides.`}
        </p>
      )}
    </div>
  );
}

/** "; 18 to 26 min by its arc" where sets differ. */
function runsVary(runs: readonly number[]): string {
  const [least, most] = [Math.min(...runs), Math.max(...runs)];
  return duration(least) === duration(most)
    ? ""
    : `; from ${duration(least)} to ${duration(most)} by its arc`;
}
