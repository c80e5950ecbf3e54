import type { JobDocument, Need } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import {
  flowOfDemand,
  PER_HEAD,
  USUAL_HOURS,
  USUAL_IN_HAND,
  withDemand,
} from "#model/demand/demand.ts";
import { inBuckets } from "#words/simulation.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { WantedFlow } from "../../jobFields/WantedFlow.tsx";
import { edit, visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { NumberField, SelectField } from "../../ui/Fields.tsx";
import { CatchRows } from "./CatchRows.tsx";
import { useRainUnit } from "./useRainUnit.ts";

/** How the flow a job is there for is known, in the words of whoever has to say it. */
const WAYS = {
  typed: "I know the flow",
  "rise-test": "By how fast it rose",
  rain: "By the rain on roofs and yards",
  deadline: "So much water, in so long",
  household: "Taps, people or stock",
} as const;
type Way = keyof typeof WAYS;

/** How much water, and why: the flow wanted follows what is said here. */
export function NeedPart({ job }: { job: JobDocument }) {
  const units = useUnits();
  const { need, wantedFlow } = job;
  const way: Way = need && need.kind in WAYS ? (need.kind as Way) : "typed";
  const set = (next: Need) => edit((j) => withDemand(j, next));
  const found = flowOfDemand(need);
  const flow = (si: number) => format(si, "flow", units);
  return (
    <section aria-label="How much water" className="grid gap-2 rounded border border-rule p-2">
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-[1.6fr_1fr_1fr]">
        <SelectField
          label="How much water"
          visibleLabel
          className="max-sm:col-span-2"
          value={way}
          onChange={(value) => set(startOf(value as Way, job))}
        >
          {Object.entries(WAYS).map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </SelectField>
        {way === "typed" ? (
          <WantedFlow label="Flow wanted" wantedFlow={wantedFlow} />
        ) : (
          <div>
            <p className="text-[13px] text-soft">Flow wanted</p>
            <p className="plate text-[26px] leading-tight" data-testid="wanted">
              {wantedFlow === undefined ? "still to say" : flow(wantedFlow)}
            </p>
          </div>
        )}
        {way !== "deadline" && (
          <JobQuantity
            label="Water to move"
            optional
            quantity="volume"
            range={RANGES.jobVolume}
            value={job.volume}
            onChange={(volume) =>
              edit(({ volume: _, ...j }) => (volume === undefined ? j : { ...j, volume }))
            }
          />
        )}
      </div>
      {need && way !== "typed" && <Inputs need={need} set={set} />}
      {found && (
        <p className="text-[14px] text-soft">
          {found.comesIn ? "Comes in: " : "Needed: "}
          <span className="text-ink">{flow(found.flow)}</span>
          {found.high > found.low && ` (${flow(found.low)} to ${flow(found.high)})`},{" "}
          {inBuckets(found.flow, units)}.
        </p>
      )}
      {found && wantedFlow === undefined && (
        <p role="alert" className="text-[14px] text-signal">
          That makes more water than any job can have: look at the units.
        </p>
      )}
      {!found && wantedFlow !== undefined && (
        <p className="text-[14px] text-soft">{inBuckets(wantedFlow, units)}.</p>
      )}
    </section>
  );
}

/** A need of another kind, with what is known of it already. */
function startOf(way: Way, { wantedFlow, volume, need }: JobDocument): Need {
  switch (way) {
    case "typed":
      return { kind: "typed", ...(wantedFlow !== undefined && { flow: wantedFlow }) };
    case "rise-test":
      return { kind: "rise-test" };
    case "rain":
      return { kind: "rain", catches: [{ surface: "roof", area: 0 }] };
    case "deadline":
      return { kind: "deadline", ...(volume !== undefined && { volume }) };
    case "household":
      return need?.kind === "household" ? need : { kind: "household" };
  }
}

function Inputs({ need, set }: { need: Need; set: (next: Need) => void }) {
  const rain = useRainUnit();
  const inHand = (own: { inHand?: number | undefined }) => (
    <NumberField
      label="Times it, in hand"
      visibleLabel
      value={own.inHand ?? USUAL_IN_HAND}
      min={1}
      max={10}
      onVisit={visit}
      onChange={(value) => set({ ...need, inHand: value } as Need)}
    />
  );
  const put = (patch: object) => set({ ...need, ...patch } as Need);
  switch (need.kind) {
    case "rise-test":
      return (
        <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
          <JobQuantity
            label="Area of the pit"
            optional
            quantity="area"
            range={RANGES.area}
            value={need.area}
            onChange={(area) => put({ area })}
          />
          <JobQuantity
            label="It rose, pump off"
            optional
            quantity="length"
            range={RANGES.depth}
            value={need.rise}
            onChange={(rise) => put({ rise })}
          />
          <JobQuantity
            label="In"
            optional
            quantity="time"
            range={RANGES.time}
            value={need.time}
            onChange={(time) => put({ time })}
          />
          {inHand(need)}
        </div>
      );
    case "rain":
      return (
        <>
          <CatchRows catches={need.catches ?? []} onChange={(catches) => put({ catches })} />
          <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
            <JobQuantity
              label="Rain in your hardest hour"
              optional
              quantity="length"
              unit={rain}
              range={RANGES.rain}
              value={need.hardestHour}
              onChange={(hardestHour) => put({ hardestHour })}
            />
            {inHand(need)}
          </div>
        </>
      );
    case "deadline":
      return (
        <div className="grid grid-cols-3 gap-2">
          <JobQuantity
            label="Water to move"
            optional
            quantity="volume"
            range={RANGES.jobVolume}
            value={need.volume}
            onChange={(volume) => put({ volume })}
          />
          <JobQuantity
            label="Within"
            optional
            quantity="time"
            unit="h"
            range={RANGES.longTime}
            value={need.time}
            onChange={(time) => put({ time })}
          />
          <JobQuantity
            label="Still coming in"
            optional
            quantity="flow"
            range={RANGES.flowOrNone}
            value={need.inflow}
            onChange={(inflow) => put({ inflow })}
          />
        </div>
      );
    case "household":
      return (
        <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
          <NumberField
            label="Taps open at once"
            visibleLabel
            whole
            value={need.fixtures ?? 0}
            min={0}
            max={1000}
            onVisit={visit}
            onChange={(fixtures) => put({ fixtures })}
          />
          <NumberField
            label="People, or head of stock"
            visibleLabel
            whole
            value={need.heads ?? 0}
            min={0}
            max={100_000}
            onVisit={visit}
            onChange={(heads) => put({ heads })}
          />
          <JobQuantity
            label="Each a day"
            quantity="volume"
            range={RANGES.volume}
            value={need.perHead ?? PER_HEAD}
            onChange={(perHead) => put({ perHead })}
          />
          <NumberField
            label="Drawn within, h"
            visibleLabel
            value={need.hours ?? USUAL_HOURS}
            min={0.1}
            max={24}
            onVisit={visit}
            onChange={(hours) => put({ hours })}
          />
        </div>
      );
    default:
      return null;
  }
}
