import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import type { Reach } from "#core/measurement/reach.ts";
import { pitOf } from "#model/demand/pit.ts";
import { pumpSets } from "#model/job/pumpSets.ts";
import { pumpsName } from "#words/items.ts";
import { outletItems, pumpItems } from "../../../openJob/jobStore.ts";
import { useUnits } from "../../../state/settings.ts";
import { Button } from "../../../ui/Button.tsx";
import { PercentField, SelectField } from "../../../ui/Fields.tsx";
import { QuantityField } from "../../../ui/QuantityField.tsx";
import { InstrumentPick } from "./InstrumentPick.tsx";
import { legend, type PartProps } from "./part.ts";
import type { ReadingDraft } from "./readingDraft.ts";
import { Stopwatch } from "./Stopwatch.tsx";

const BETWEEN_MARKS = {
  start: "Start at the first mark",
  stop: "Second mark: stop",
  again: "Start again",
};
const BETWEEN_DIALS = {
  start: "Start as you read the dial",
  stop: "Read again: stop",
  again: "Start again",
};
const NO_FILLS: readonly number[] = [];

const METHODS: Record<ReadingDraft["method"], string> = {
  bucket: "Bucket and watch",
  timed: "A set time, measured after",
  meter: "Meter that shows the flow",
  counter: "Meter that counts",
  "draw-down": "Fall of the water",
};

/** How each way is done well; `open` is what is done with the valve first. */
const HOW: Partial<Record<ReadingDraft["method"], (open: string) => string>> = {
  bucket: (open) => `Wet the bucket, ${open}time three fills.`,
  timed: (open) =>
    `Wet the buckets, ${open}let it run into them for the time, then add up what is in them: “3 gal 2 qt 1 cup” or “13.5 L”.`,
  counter: () => "Read the dial, let a minute or more go by, read it again.",
  "draw-down": () =>
    "Find the inflow first: with the pump off, the area times the rise over the time. Then mark the level, run, and mark it again.",
};

/** The flow: by bucket and watch, by what ran in a set time, or by a meter. */
export function FlowPart({
  draft,
  change,
  addFill,
  job,
  setups,
  reach,
}: PartProps & {
  reach: Reach;
  addFill: (seconds: number) => void;
  job: JobDocument;
  /** what the visit holds side by side */
  setups: readonly { id: string; name: string }[];
}) {
  const outlets = outletItems(job.path);
  const { method } = draft;
  const pit = pitOf(job);
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Flow</legend>
      <div className="grid grid-cols-2 gap-2">
        <SelectField
          label="Measured by"
          visibleLabel
          value={method}
          onChange={(next) => change({ method: next as ReadingDraft["method"] })}
        >
          {Object.entries(METHODS).map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </SelectField>
        {method === "bucket" && (
          <QuantityField
            label="Bucket holds"
            quantity="volume"
            range={RANGES.volume}
            value={draft.volume}
            onChange={(volume) => change({ volume })}
          />
        )}
        {method === "timed" && (
          <QuantityField
            label="For"
            quantity="time"
            range={RANGES.longTime}
            value={draft.setTime}
            onChange={(setTime) => change({ setTime })}
          />
        )}
        {method === "meter" && (
          <QuantityField
            label="Meter reads"
            optional
            quantity="flow"
            range={RANGES.flowOrNone}
            value={draft.meterFlow}
            onChange={(meterFlow) => change({ meterFlow })}
          />
        )}
        {method === "timed" && (
          <QuantityField
            label="Ran in that time"
            optional
            quantity="volume"
            range={RANGES.volumeOrNone}
            value={draft.collected}
            onChange={(collected) => change({ collected })}
          />
        )}
        {method === "counter" && (
          <>
            <QuantityField
              label="For"
              optional
              quantity="time"
              range={RANGES.longTime}
              value={draft.watchedFor}
              onChange={(watchedFor) => change({ watchedFor })}
            />
            <QuantityField
              label="At the start"
              optional
              quantity="volume"
              range={RANGES.counted}
              value={draft.counterStart}
              onChange={(counterStart) => change({ counterStart })}
            />
            <QuantityField
              label="At the end"
              optional
              quantity="volume"
              range={RANGES.counted}
              value={draft.counterEnd}
              onChange={(counterEnd) => change({ counterEnd })}
            />
          </>
        )}
        {method === "draw-down" && (
          <>
            <QuantityField
              label="Area of the water"
              optional
              quantity="area"
              range={RANGES.area}
              value={draft.area ?? pit.area}
              onChange={(area) => change({ area })}
            />
            <QuantityField
              label="It fell by (− where it rose)"
              optional
              quantity="length"
              range={RANGES.fall}
              value={draft.fall}
              onChange={(fall) => change({ fall })}
            />
            <QuantityField
              label="In"
              optional
              quantity="time"
              range={RANGES.longTime}
              value={draft.watchedFor}
              onChange={(watchedFor) => change({ watchedFor })}
            />
            <QuantityField
              label="Inflow, pump off"
              quantity="flow"
              range={RANGES.flowOrNone}
              optional
              value={draft.inflow ?? pit.inflow}
              onChange={(inflow) => change({ inflow })}
            />
          </>
        )}
        {outlets.length > 1 && (
          <SelectField
            label="Taken at"
            visibleLabel
            value={draft.outletId}
            onChange={(outletId) => change({ outletId })}
          >
            {outlets.map(({ id }, i) => (
              <option key={id} value={id}>
                Outlet {i + 1}
              </option>
            ))}
          </SelectField>
        )}
        <WhichRan {...{ draft, change, job }} />
        {setups.length > 0 && (
          <SelectField
            label="Which set-up"
            visibleLabel
            value={setups.some(({ id }) => id === draft.setup) ? draft.setup : ""}
            onChange={(setup) => change({ setup })}
          >
            <option value="">none of them</option>
            {setups.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </SelectField>
        )}
        {setups.length > 0 && (
          <QuantityField
            label="Throw"
            optional
            quantity="length"
            range={RANGES.length}
            value={draft.throwDistance}
            onChange={(throwDistance) => change({ throwDistance })}
          />
        )}
      </div>
      {method === "bucket" && (
        <>
          <Stopwatch times={draft.times} onFill={addFill} onChange={(times) => change({ times })} />
          {draft.times.length === 0 && (
            <Button
              look="quiet"
              className="justify-self-start"
              onClick={() => change({ method: "timed", collected: 0 })}
            >
              Nothing ran
            </Button>
          )}
        </>
      )}
      {(method === "draw-down" || method === "counter") && (
        <Stopwatch
          times={NO_FILLS}
          said={method === "counter" ? BETWEEN_DIALS : BETWEEN_MARKS}
          last={draft.watchedFor}
          onFill={(watchedFor) => change({ watchedFor })}
          onChange={() => undefined}
        />
      )}
      {method === "draw-down" && pit.area !== undefined && draft.area === undefined && (
        <p className="text-[13px] text-soft">
          Area{pit.inflow === undefined ? "" : " and inflow"} as the job has it; typed here, it
          counts for this reading.
        </p>
      )}
      {HOW[method] && (
        <p className="text-[13px] text-soft">
          {HOW[method](draft.valve === "open" ? "open the discharge fully, " : "")} Keep hands and
          cords clear of the outlet: a hose under pressure whips.
        </p>
      )}
      <InstrumentPick {...{ draft, change, reach }} of="flow" />
      <details className="text-[14px]">
        <summary className="min-h-7 text-soft">How good that is</summary>
        <div className="grid grid-cols-2 gap-2 pt-1">
          {(method === "meter" || method === "counter") && (
            <PercentField
              label="Meter ±"
              max={50}
              value={draft.meterTolerance}
              onChange={(fraction) => change({ meterTolerance: fraction })}
            />
          )}
          {(method === "bucket" || method === "timed") && (
            <PercentField
              label="Volume ±"
              max={50}
              value={draft.volumeTolerance}
              onChange={(fraction) => change({ volumeTolerance: fraction })}
            />
          )}
          {method === "draw-down" && (
            <>
              <PercentField
                label="Area ±"
                max={50}
                value={draft.areaTolerance}
                onChange={(fraction) => change({ areaTolerance: fraction })}
              />
              <QuantityField
                label="Fall ±"
                quantity="length"
                range={{ ...RANGES.tolerance, what: "The tolerance" }}
                value={draft.fallTolerance}
                onChange={(fallTolerance) => change({ fallTolerance })}
              />
              <PercentField
                label="Inflow ±"
                max={50}
                value={draft.inflowTolerance}
                onChange={(fraction) => change({ inflowTolerance: fraction })}
              />
            </>
          )}
          {method !== "meter" && (
            <QuantityField
              label="Start and stop ±"
              quantity="time"
              range={{ ...RANGES.tolerance, what: "The timing tolerance" }}
              value={draft.timingTolerance}
              onChange={(timingTolerance) => change({ timingTolerance })}
            />
          )}
        </div>
      </details>
    </fieldset>
  );
}

/** Which of several pumps ran, the others standing: one alone can be held against its own curve. */
function WhichRan({ draft, change, job }: PartProps & { job: JobDocument }) {
  const units = useUnits();
  const pumps = pumpItems(job.path).map(({ id }) => id);
  if (pumps.length < 2) return null;
  const sets = pumpSets(pumps).filter(({ length }) => length < pumps.length);
  return (
    <SelectField
      label="Which pumps ran"
      visibleLabel
      value={draft.running.join(" ")}
      onChange={(value) => {
        const running = value === "" ? [] : value.split(" ");
        // A gauge at a pump's port goes to the one that ran.
        const [first] = running;
        const port = first !== undefined && pumps.includes(draft.afterItemId);
        change({ running, ...(port && { afterItemId: first, elevation: undefined }) });
      }}
    >
      <option value="">All of them</option>
      {sets.map((ids) => (
        <option key={ids.join(" ")} value={ids.join(" ")}>
          {pumpsName(job.path, ids, units)}
          {ids.length === 1 ? " alone" : ""}
        </option>
      ))}
    </SelectField>
  );
}
