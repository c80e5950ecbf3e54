import type { FieldDocument, JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import { GALLON } from "#core/quantity/constants.ts";
import { WEEKLY } from "#model/irrigation/usual.ts";
import { duration } from "#words/duration.ts";
import { broughtWords, grainOf, groundOf, rateOf } from "#words/irrigation.ts";
import { AllFound } from "../../findings/Found.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { NumberField } from "../../ui/Fields.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";
import { Figure } from "./Figure.tsx";
import { setField } from "./field.ts";
import type { ResultProps } from "./resultProps.ts";

type Drip = NonNullable<FieldDocument["drip"]>;

const FIRST: Drip = {
  ...{ laterals: 10, apart: 1, emitters: 100, spacing: 0.3 },
  emitter: { flow: 2 / 3.6e6, pressure: 100_000, exponent: 0.5 },
  ...{ lateral: 0.0138, submain: 0.028, pressure: 120_000 },
};

/** What a drip zone takes, how even it is, and what it must be fed through. */
export function DripResults({ job, told }: ResultProps) {
  const units = useUnits();
  const { drip } = told;
  if (!drip) {
    return (
      <p className="text-soft">
        Drip beside the guns: lines with emitters, what they take and how even they are. It loses
        less on the way and wets only where it lies.
      </p>
    );
  }
  const { result, area, rate, filter, brought } = drip;
  if (result.kind === "refused") {
    return (
      <div role="alert">
        <AllFound of="drip-refused" among={told.findings} />
      </div>
    );
  }
  const { flow, uniformity, variation, least, most, pressures } = result;
  const weekly = job.field?.season?.weekly ?? WEEKLY;
  const perHour = (si: number) => format(si, "flow", units);
  const drips = (si: number) =>
    units === "us" ? `${((si / GALLON) * 3600).toFixed(2)} gph` : `${(si * 3.6e6).toFixed(2)} L/h`;
  return (
    <div className="grid gap-3">
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3" data-testid="drip-figures">
        <Figure
          name="The zone takes"
          value={perHour(flow)}
          note={`${result.flows.length} emitters`}
        />
        <Figure
          name="Evenness"
          value={formatPercent(uniformity)}
          note="low quarter over the mean"
        />
        <Figure
          name="From most to least"
          value={formatPercent(variation)}
          note={`${drips(most)} to ${drips(least)}`}
        />
        <Figure
          name="Least pressure"
          value={format(Math.min(...pressures), "pressure", units)}
          note={`most ${format(Math.max(...pressures), "pressure", units)}`}
        />
        <Figure name="Waters" value={groundOf(area, units)} />
        {rate !== undefined && (
          <Figure
            name="It lays"
            value={rateOf(rate, units)}
            note={`${duration(weekly / rate)} a week for what is wanted, losses aside`}
          />
        )}
      </dl>
      <AllFound of="drip-evenness" among={told.findings} />
      <p>
        {filter === undefined
          ? "Filter: type the emitter’s narrowest way; the filter must hold back a tenth of it (common practice, no source)."
          : `Filter: hold back what is larger than ${grainOf(filter, units)}, a tenth of the emitter’s way (common practice, no source). Canal and pond water wants sand or disc before the screen, and a flush end on each lateral.`}
      </p>
      {brought !== undefined && (
        <p>
          {broughtWords(flow, brought, job.field?.drip?.pressure ?? 0, units)} A pressure regulator
          holds it there.
        </p>
      )}
      <p className="text-[13px] text-soft">
        Solved emitter by emitter with the same network solver as the line; walls as new smooth
        polyethylene (from memory), no loss for barbs.
      </p>
    </div>
  );
}

export function DripFields({ field }: { job: JobDocument; field: FieldDocument }) {
  const units = useUnits();
  const { drip } = field;
  if (!drip) {
    return (
      <Button onClick={() => setField({ drip: FIRST })}>
        <Plus size={16} aria-hidden /> A drip zone
      </Button>
    );
  }
  const set = (patch: Partial<Drip>) => setField({ drip: { ...drip, ...patch } });
  const emitter = (patch: Partial<Drip["emitter"]>) =>
    set({ emitter: { ...drip.emitter, ...patch } });
  const count = (key: "laterals" | "emitters", label: string, max: number) => (
    <NumberField
      label={label}
      visibleLabel
      whole
      min={1}
      max={max}
      value={drip[key]}
      onVisit={visit}
      onChange={(value) => set({ [key]: value })}
    />
  );
  const slope = (key: "slope" | "submainSlope", label: string) => (
    <NumberField
      label={drip[key] === undefined ? `${label} (level)` : label}
      visibleLabel
      suffix="%"
      min={-100}
      max={100}
      value={100 * (drip[key] ?? 0)}
      onVisit={visit}
      onChange={(value) => set({ [key]: value / 100 })}
    />
  );
  return (
    <div className="grid gap-4">
      <section aria-label="The zone" className="grid grid-cols-2 items-end gap-2">
        {count("laterals", "Laterals", 1000)}
        <JobQuantity
          label="Apart"
          quantity="length"
          range={RANGES.throw}
          value={drip.apart}
          onChange={(apart) => set({ apart })}
        />
        {count("emitters", "Emitters on each", 2000)}
        <JobQuantity
          label="Emitter to emitter"
          quantity="length"
          range={RANGES.throw}
          value={drip.spacing}
          onChange={(spacing) => set({ spacing })}
        />
        <JobQuantity
          label="Lateral, inside"
          quantity="diameter"
          range={RANGES.bore}
          value={drip.lateral}
          onChange={(lateral) => set({ lateral })}
        />
        <JobQuantity
          label="Submain, inside"
          quantity="diameter"
          range={RANGES.bore}
          value={drip.submain}
          onChange={(submain) => set({ submain })}
        />
        {slope("slope", "Laterals climb")}
        {slope("submainSlope", "Submain climbs")}
        <JobQuantity
          label="Pressure where it begins"
          quantity="pressure"
          range={RANGES.emitterPressure}
          value={drip.pressure}
          onChange={(pressure) => set({ pressure })}
        />
      </section>
      <section aria-label="The emitter" className="grid gap-2">
        <h2 className="text-xl">The emitter</h2>
        <div className="grid grid-cols-2 items-end gap-2">
          <JobQuantity
            label="Drips"
            quantity="flow"
            unit={units === "us" ? "gph" : "L/h"}
            range={RANGES.emitterFlow}
            value={drip.emitter.flow}
            onChange={(flow) => emitter({ flow })}
          />
          <JobQuantity
            label="At"
            quantity="pressure"
            range={RANGES.emitterPressure}
            value={drip.emitter.pressure}
            onChange={(pressure) => emitter({ pressure })}
          />
          <NumberField
            label="Exponent"
            visibleLabel
            min={0.05}
            max={1}
            value={drip.emitter.exponent}
            onVisit={visit}
            onChange={(exponent) => emitter({ exponent })}
          />
          <JobQuantity
            label="Narrowest way"
            optional
            quantity="diameter"
            range={RANGES.bore}
            value={drip.emitter.passage}
            onChange={(passage) => emitter({ passage })}
          />
        </div>
        <p className="text-[13px] text-soft">
          q goes with the pressure to the exponent: 0.5 for a plain labyrinth, near 0.05 for one
          that holds its flow.
        </p>
      </section>
      <Button
        look="quiet"
        className="justify-self-start"
        onClick={() => setField({ drip: undefined })}
      >
        <Trash2 size={16} aria-hidden /> Take the zone out
      </Button>
    </div>
  );
}
