import clsx from "clsx";
import type { ReactNode } from "react";
import type { WellDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import { INCH, PSI } from "#core/quantity/constants.ts";
import { pumpDepth } from "#model/well/settle.ts";
import { forceOf, litres, workOf } from "#words/well.ts";
import { AllFound } from "../../findings/Found.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { without } from "../../lib/without.ts";
import { visit } from "../../openJob/jobStore.ts";
import { useOtherPumps } from "../../openJob/useOtherPumps.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { NumberField } from "../../ui/Fields.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";
import { Loading } from "../../ui/Notices.tsx";
import { setWell } from "./edits.ts";
import { Figure } from "./Figure.tsx";
import type { FieldProps, ResultProps } from "./props.ts";
import { WellDerivation } from "./WellDerivation.tsx";

type Hand = NonNullable<WellDocument["hand"]>;
type Air = NonNullable<WellDocument["air"]>;
type Pulse = NonNullable<WellDocument["pulse"]>;

const HAND: Hand = { bore: 2.5 * INCH, stroke: 6 * INCH, strokes: 40, leverage: 6 };
const firstAir = (depth: number): Air => ({ foot: depth, flow: 1e-3, pressure: 60 * PSI });
const firstPulse = (depth: number): Pulse => ({
  ...{ foot: depth, pressure: 5 * PSI, power: 5 },
});

/** Pumps without a motor in the well: worked by hand, at the top, or by air. */
export function OtherFields({ job }: FieldProps) {
  const units = useUnits();
  const { hand, air, pulse } = job.well ?? {};
  const depth = pumpDepth(job);
  const small = units === "us" ? "in" : "mm";
  return (
    <div className="grid gap-5">
      <Group
        name="Hand pump"
        there={hand !== undefined}
        onAdd={() => setWell({ hand: HAND })}
        onTakeOut={() => setWell({ hand: undefined })}
      >
        {hand && (
          <>
            <JobQuantity
              label="Cylinder, bore"
              quantity="diameter"
              range={RANGES.bore}
              value={hand.bore}
              onChange={(bore) => setWell({ hand: { ...hand, bore } })}
            />
            <JobQuantity
              label="Stroke"
              quantity="length"
              unit={small}
              range={{ ...RANGES.depth, max: 3, what: "The stroke" }}
              value={hand.stroke}
              onChange={(stroke) => setWell({ hand: { ...hand, stroke } })}
            />
            <NumberField
              label="Strokes a minute"
              visibleLabel
              min={1}
              max={200}
              value={hand.strokes}
              onVisit={visit}
              onChange={(strokes) => setWell({ hand: { ...hand, strokes } })}
            />
            <NumberField
              label="Handle, times longer"
              visibleLabel
              min={1}
              max={50}
              value={hand.leverage}
              onVisit={visit}
              onChange={(leverage) => setWell({ hand: { ...hand, leverage } })}
            />
            <JobQuantity
              label={hand.cylinder === undefined ? "Cylinder down at (top)" : "Cylinder down at"}
              optional
              quantity="length"
              range={RANGES.depth}
              value={hand.cylinder}
              onChange={(cylinder) => {
                const { cylinder: _, ...rest } = hand;
                setWell({ hand: cylinder === undefined ? rest : { ...rest, cylinder } });
              }}
            />
          </>
        )}
      </Group>
      <Group
        name="Air lift"
        there={air !== undefined}
        onAdd={() => setWell({ air: firstAir(depth) })}
        onTakeOut={() => setWell({ air: undefined })}
      >
        {air && (
          <>
            <JobQuantity
              label="Foot down at"
              quantity="length"
              range={RANGES.depth}
              value={air.foot}
              onChange={(foot) => setWell({ air: { ...air, foot } })}
            />
            <JobQuantity
              label="Air, as outside"
              quantity="flow"
              unit={units === "us" ? "gpm" : "L/min"}
              range={RANGES.flow}
              value={air.flow}
              onChange={(flow) => setWell({ air: { ...air, flow } })}
            />
            <JobQuantity
              label="Compressor gives"
              quantity="pressure"
              range={RANGES.outletPressure}
              value={air.pressure}
              onChange={(pressure) => setWell({ air: { ...air, pressure } })}
            />
          </>
        )}
      </Group>
      <Group
        name="Pulse pump"
        there={pulse !== undefined}
        onAdd={() => setWell({ pulse: firstPulse(depth) })}
        onTakeOut={() => setWell({ pulse: undefined })}
      >
        {pulse && (
          <>
            <JobQuantity
              label="Foot down at"
              quantity="length"
              range={RANGES.depth}
              value={pulse.foot}
              onChange={(foot) => setWell({ pulse: { ...pulse, foot } })}
            />
            <JobQuantity
              label="One slug, measured"
              optional
              quantity="volume"
              range={RANGES.volume}
              value={pulse.slug}
              onChange={(slug) => setWell({ pulse: without({ ...pulse, slug }) as Pulse })}
            />
            <JobQuantity
              label="Slug to slug, measured"
              optional
              quantity="time"
              range={RANGES.time}
              value={pulse.period}
              onChange={(period) => setWell({ pulse: without({ ...pulse, period }) as Pulse })}
            />
            <JobQuantity
              label="Air pump gives"
              quantity="pressure"
              range={RANGES.outletPressure}
              value={pulse.pressure}
              onChange={(pressure) => setWell({ pulse: { ...pulse, pressure } })}
            />
            <NumberField
              label="Air pump takes, W"
              visibleLabel
              min={0.1}
              max={100_000}
              value={pulse.power}
              onVisit={visit}
              onChange={(power) => setWell({ pulse: { ...pulse, power } })}
            />
          </>
        )}
      </Group>
    </div>
  );
}

function Group({
  name,
  there,
  onAdd,
  onTakeOut,
  children,
}: {
  name: string;
  there: boolean;
  onAdd: () => void;
  onTakeOut: () => void;
  children: ReactNode;
}) {
  return (
    <section aria-label={name} className="grid gap-2">
      <h2 className="text-xl">{name}</h2>
      {there ? (
        <>
          <div className="grid grid-cols-2 items-end gap-2">{children}</div>
          <Button look="quiet" className="justify-self-start" onClick={onTakeOut}>
            <Trash2 size={16} aria-hidden /> Take it out
          </Button>
        </>
      ) : (
        <Button className="justify-self-start" onClick={onAdd}>
          <Plus size={16} aria-hidden /> {`A ${name.toLowerCase()}`.replace("A air", "An air")}
        </Button>
      )}
    </section>
  );
}

/** What each of them gives, and what it costs against the pump the job has. */
export function OtherResults({ job, told }: ResultProps) {
  const units = useUnits();
  const { value: others, stale } = useOtherPumps(job);
  const head = (si: number) => format(si, "head", units);
  const flow = (si: number) => format(si, "flow", units);
  const pressure = (si: number) => format(si, "pressure", units);
  if (!others) return <Loading what="what else lifts it" />;
  const { suction, hand, jets, air, pulse, own, findings } = others;
  return (
    <div
      className={clsx("grid gap-5", stale && "opacity-60")}
      aria-busy={stale}
      data-testid="others"
    >
      <WellDerivation {...{ job, told, others }} />
      <AllFound of="top-suction" among={findings} />
      {hand && (
        <section aria-label="What it gives by hand" className="grid gap-2">
          <h2 className="text-xl">By hand</h2>
          <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
            <Figure name="Gives" value={flow(hand.flow)} note="85 % of what it sweeps (assumed)" />
            <Figure
              name="Pull at the handle"
              value={forceOf(hand.force, units)}
              note={`${head(hand.lift)} of lift`}
              working="handle"
            />
            <Figure
              name="To prime"
              value={hand.priming > 0 ? litres(hand.priming, units) : "nothing"}
              note={
                hand.priming > 0
                  ? "1-1/4 in pipe full from the water up"
                  : "its cylinder stands in the water"
              }
            />
            <Figure
              name="10 ft sticks"
              value={hand.sticks}
              note="of drop pipe; two spare leathers"
            />
          </dl>
          <AllFound of="hand-pump" among={findings} />
        </section>
      )}
      {(jets.length > 0 || suction.lift <= suction.limit) && (
        <section aria-label="Jet pump at the top" className="grid gap-1.5">
          <h2 className="text-xl">Jet pump at the top</h2>
          {jets.length === 0 ? (
            <p className="text-soft">
              {job.path.some(({ kind }) => kind === "outlet")
                ? "There is no jet pump in the library that runs on this line."
                : "The line has no outlet yet."}
            </p>
          ) : (
            <AllFound of="jet" among={findings} />
          )}
          <p className="text-[13px] text-soft">
            Each tried on this line in the dry season, on a 1-1/4 in suction with a foot valve. Fill
            pipe and pump before its first start.
          </p>
        </section>
      )}
      {air && (
        <section aria-label="What the air lift gives" className="grid gap-2">
          <h2 className="text-xl">Air lift</h2>
          <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
            <Figure
              name="Starts at"
              value={pressure(air.start)}
              note="of air, in the wet season"
              working="air-start"
            />
            {air.result.kind === "lifts" && (
              <>
                <Figure name="Gives" value={flow(air.result.flow)} working="air-flow" />
                <Figure
                  name="Submerged"
                  value={`${(100 * air.result.submergence).toFixed(0)} %`}
                  note={`${(100 * air.result.efficiency).toFixed(0)} % of the air’s work lifts`}
                />
                <Figure
                  name="Energy"
                  value={workOf(air.result.perVolume, units)}
                  note={against(own, air.result.perVolume, units)}
                />
              </>
            )}
          </dl>
          <AllFound of="air-lift" among={findings} />
        </section>
      )}
      {pulse && (
        <section aria-label="What the pulse pump gives" className="grid gap-2">
          <h2 className="text-xl">Pulse pump</h2>
          <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-4">
            <Figure
              name="Gives"
              value={pulse.flow === undefined ? "not measured" : flow(pulse.flow)}
              note={
                pulse.flow === undefined
                  ? "catch one slug, and time slug to slug"
                  : "as it was measured"
              }
            />
            <Figure
              name="Starts at"
              value={pressure(pulse.start)}
              note="of air, in the wet season"
            />
            {pulse.perVolume !== undefined && (
              <Figure
                name="Energy"
                value={workOf(pulse.perVolume, units)}
                note={against(own, pulse.perVolume, units)}
              />
            )}
          </dl>
          <AllFound of="pulse-pump" among={findings} />
        </section>
      )}
    </div>
  );
}

function against(own: number | undefined, other: number, units: "us" | "metric") {
  return own
    ? `the pump in the well ${workOf(own, units)}, ${(other / own).toPrecision(2)} times`
    : undefined;
}
