import type { ReactNode } from "react";
import { RANGES } from "#contract/documents/ranges.ts";
import type { pitOf } from "#model/demand/pit.ts";
import { Button } from "../../../ui/Button.tsx";
import { PercentField } from "../../../ui/Fields.tsx";
import { QuantityField } from "../../../ui/QuantityField.tsx";
import type { PartProps } from "./part.ts";
import { type Flows, flowBy, type Method } from "./readingDraft.ts";
import { Stopwatch } from "./Stopwatch.tsx";

interface Way<M extends Method> {
  name: string;
  /** how it is done well; `open` is what is done with the valve first */
  how?: (open: string) => string;
  Fields: (props: WayProps<M>) => ReactNode;
  /** what is timed with the thumb */
  Watch?: (props: WayProps<M>) => ReactNode;
  /** how good it is */
  Doubts: (props: WayProps<M>) => ReactNode;
}

export interface WayProps<M extends Method> {
  flow: Flows[M];
  set: (by: Partial<Flows[M]>) => void;
  change: PartProps["change"];
  /** what the job knows of the water that falls */
  pit: ReturnType<typeof pitOf>;
}

const NO_FILLS: readonly number[] = [];

/** The ways to measure a flow, each with what it takes. */
const WAYS: { [M in Method]: Way<M> } = {
  bucket: {
    name: "Bucket and watch",
    how: (open) => `Wet the bucket, ${open}time three fills.`,
    Fields: ({ flow, set }) => (
      <QuantityField
        label="Bucket holds"
        quantity="volume"
        range={RANGES.volume}
        value={flow.volume}
        onChange={(volume) => set({ volume })}
      />
    ),
    Watch: ({ flow: { times }, set, change }) => (
      <>
        <Stopwatch
          times={times}
          onFill={(seconds) =>
            change((before) =>
              flowBy("bucket", { times: [...before.flows.bucket.times, seconds] })(before),
            )
          }
          onChange={(next) => set({ times: next })}
        />
        {times.length === 0 && (
          <Button
            look="quiet"
            className="justify-self-start"
            onClick={() =>
              change((before) => ({ method: "timed", ...flowBy("timed", { volume: 0 })(before) }))
            }
          >
            Nothing ran
          </Button>
        )}
      </>
    ),
    Doubts: (props) => <FillDoubts {...props} />,
  },
  timed: {
    name: "A set time, measured after",
    how: (open) =>
      `Wet the buckets, ${open}let it run into them for the time, then add up what is in them: “3 gal 2 qt 1 cup” or “13.5 L”.`,
    Fields: ({ flow, set }) => (
      <>
        <QuantityField
          label="For"
          quantity="time"
          range={RANGES.longTime}
          value={flow.time}
          onChange={(time) => set({ time })}
        />
        <QuantityField
          label="Ran in that time"
          optional
          quantity="volume"
          range={RANGES.volumeOrNone}
          value={flow.volume}
          onChange={(volume) => set({ volume })}
        />
      </>
    ),
    Doubts: (props) => <FillDoubts {...props} />,
  },
  meter: {
    name: "Meter that shows the flow",
    Fields: ({ flow, set }) => (
      <QuantityField
        label="Meter reads"
        optional
        quantity="flow"
        range={RANGES.flowOrNone}
        value={flow.flow}
        onChange={(next) => set({ flow: next })}
      />
    ),
    Doubts: (props) => <MeterDoubt {...props} />,
  },
  counter: {
    name: "Meter that counts",
    how: () => "Read the dial, let a minute or more go by, read it again.",
    Fields: ({ flow, set }) => (
      <>
        <QuantityField
          label="For"
          optional
          quantity="time"
          range={RANGES.longTime}
          value={flow.time}
          onChange={(time) => set({ time })}
        />
        <QuantityField
          label="At the start"
          optional
          quantity="volume"
          range={RANGES.counted}
          value={flow.start}
          onChange={(start) => set({ start })}
        />
        <QuantityField
          label="At the end"
          optional
          quantity="volume"
          range={RANGES.counted}
          value={flow.end}
          onChange={(end) => set({ end })}
        />
      </>
    ),
    Watch: ({ flow: { time }, set }) => (
      <Stopwatch
        times={NO_FILLS}
        said={{
          ...{ start: "Start as you read the dial", stop: "Read again: stop" },
          again: "Start again",
        }}
        last={time}
        onFill={(seconds) => set({ time: seconds })}
        onChange={() => undefined}
      />
    ),
    Doubts: (props) => (
      <>
        <MeterDoubt {...props} />
        <TimingDoubt {...props} />
      </>
    ),
  },
  "draw-down": {
    name: "Fall of the water",
    how: () =>
      "Find the inflow first: with the pump off, the area times the rise over the time. Then mark the level, run, and mark it again.",
    Fields: ({ flow, set, pit }) => (
      <>
        <QuantityField
          label="Area of the water"
          optional
          quantity="area"
          range={RANGES.area}
          value={flow.area ?? pit.area}
          onChange={(area) => set({ area })}
        />
        <QuantityField
          label="It fell by (− where it rose)"
          optional
          quantity="length"
          range={RANGES.fall}
          value={flow.fall}
          onChange={(fall) => set({ fall })}
        />
        <QuantityField
          label="In"
          optional
          quantity="time"
          range={RANGES.longTime}
          value={flow.time}
          onChange={(time) => set({ time })}
        />
        <QuantityField
          label="Inflow, pump off"
          quantity="flow"
          range={RANGES.flowOrNone}
          optional
          value={flow.inflow ?? pit.inflow}
          onChange={(inflow) => set({ inflow })}
        />
      </>
    ),
    Watch: ({ flow: { time, area }, set, pit }) => (
      <>
        <Stopwatch
          times={NO_FILLS}
          said={{
            ...{ start: "Start at the first mark", stop: "Second mark: stop" },
            again: "Start again",
          }}
          last={time}
          onFill={(seconds) => set({ time: seconds })}
          onChange={() => undefined}
        />
        {pit.area !== undefined && area === undefined && (
          <p className="text-[13px] text-soft">
            Area{pit.inflow === undefined ? "" : " and inflow"} as the job has it; typed here, it
            counts for this reading.
          </p>
        )}
      </>
    ),
    Doubts: ({ flow, set, ...rest }) => (
      <>
        <PercentField
          label="Area ±"
          max={50}
          value={flow.areaTolerance}
          onChange={(areaTolerance) => set({ areaTolerance })}
        />
        <QuantityField
          label="Fall ±"
          quantity="length"
          range={{ ...RANGES.tolerance, what: "The tolerance" }}
          value={flow.fallTolerance}
          onChange={(fallTolerance) => set({ fallTolerance })}
        />
        <PercentField
          label="Inflow ±"
          max={50}
          value={flow.inflowTolerance}
          onChange={(inflowTolerance) => set({ inflowTolerance })}
        />
        <TimingDoubt {...{ flow, set, ...rest }} />
      </>
    ),
  },
};

export const METHODS = Object.entries(WAYS).map(([method, { name }]) => ({
  method: method as Method,
  name,
}));

export const wayOf = <M extends Method>(method: M): Way<M> => WAYS[method];

/** Of what is caught in a vessel. */
function FillDoubts(props: WayProps<"bucket"> | WayProps<"timed">) {
  const { flow, set } = props;
  return (
    <>
      <PercentField
        label="Volume ±"
        max={50}
        value={flow.volumeTolerance}
        onChange={(volumeTolerance) => set({ volumeTolerance })}
      />
      <TimingDoubt {...props} />
    </>
  );
}

function MeterDoubt({ flow, set }: WayProps<"meter"> | WayProps<"counter">) {
  return (
    <PercentField
      label="Meter ±"
      max={50}
      value={flow.tolerance}
      onChange={(tolerance) => set({ tolerance })}
    />
  );
}

function TimingDoubt({
  flow,
  set,
}: { [M in Exclude<Method, "meter">]: WayProps<M> }[Exclude<Method, "meter">]) {
  return (
    <QuantityField
      label="Start and stop ±"
      quantity="time"
      range={{ ...RANGES.tolerance, what: "The timing tolerance" }}
      value={flow.timingTolerance}
      onChange={(timingTolerance) => set({ timingTolerance })}
    />
  );
}
