import { Link } from "react-router";
import type { FirmDocument, InstrumentKind } from "#contract/documents/firm.ts";
import { LEAST_FILL, type Reach, takesPressure } from "#core/measurement/reach.ts";
import { instrumentLine } from "#words/instruments.ts";
import { useInstruments } from "../../../instruments/useInstruments.ts";
import { without } from "../../../lib/without.ts";
import { useUnits } from "../../../state/settings.ts";
import { SelectField } from "../../../ui/Fields.tsx";
import type { PartProps } from "./part.ts";
import { dischargeBy, electricBy, type ReadingDraft, suctionBy } from "./readingDraft.ts";

const NO_METER = { greatestFlow: undefined };

type Instrument = NonNullable<FirmDocument["instruments"]>[number];
type Place = keyof ReadingDraft["instruments"];

const KINDS: Record<Place, (draft: ReadingDraft) => InstrumentKind[]> = {
  flow: ({ method }) =>
    method === "meter" || method === "counter"
      ? ["flow-meter"]
      : method === "draw-down"
        ? ["tape"]
        : ["bucket"],
  discharge: () => ["gauge"],
  suction: () => ["gauge"],
  electric: () => ["clamp-meter", "power-meter"],
  speed: () => ["tachometer"],
};

/** What an instrument says of a reading that is taken with it. */
function takenWith(
  place: Place,
  { kind, fullScale, volume, greatestFlow, tolerance }: Instrument,
  draft: ReadingDraft,
): Partial<ReadingDraft> {
  switch (place) {
    case "flow": {
      const { bucket, timed, meter, counter } = draft.flows;
      const doubt = tolerance !== undefined;
      return {
        greatestFlow: kind === "flow-meter" ? greatestFlow : undefined,
        flows: {
          ...draft.flows,
          bucket: {
            ...bucket,
            ...without({ volume }),
            ...(doubt && { volumeTolerance: tolerance }),
          },
          timed: { ...timed, ...(doubt && { volumeTolerance: tolerance }) },
          meter: { ...meter, ...without({ tolerance }) },
          counter: { ...counter, ...without({ tolerance }) },
        },
      };
    }
    case "discharge":
      return dischargeBy({
        ...without({ fullScale }),
        ...(tolerance !== undefined && { accuracyClass: tolerance }),
      })(draft);
    case "suction":
      return suctionBy("gauge", {
        ...without({ fullScale }),
        ...(tolerance !== undefined && { accuracyClass: tolerance }),
      })(draft);
    case "speed":
      return tolerance === undefined ? {} : { speedTolerance: tolerance };
    case "electric":
      return electricBy(
        kind === "power-meter" ? { powerTolerance: tolerance } : { currentTolerance: tolerance },
      )(draft);
  }
}

/** Whether what is expected at a place lies within what an instrument is made for. */
function isFit(place: Place, own: Instrument, reach: Reach): boolean {
  if (place === "discharge") return takesPressure(own.fullScale ?? 0, reach);
  if (place !== "flow" || reach.flow === undefined) return true;
  if (own.kind === "bucket" && own.volume !== undefined) {
    return own.volume >= LEAST_FILL * reach.flow;
  }
  return own.greatestFlow === undefined || own.greatestFlow >= reach.flow;
}

/** Picks one of the firm's instruments, with its range, class and last check. */
export function InstrumentPick({
  draft,
  change,
  of,
  reach = {},
}: PartProps & {
  of: Place;
  /** what is asked of it there */
  reach?: Reach;
}) {
  const units = useUnits();
  const all = useInstruments();
  const kinds = KINDS[of](draft);
  const fitting = all.filter(({ kind }) => kinds.includes(kind));
  if (fitting.length === 0) {
    return (
      <p className="text-[13px] text-soft">
        <Link to="/instruments" className="underline">
          Keep your instruments once
        </Link>{" "}
        and pick them here.
      </p>
    );
  }
  return (
    <SelectField
      label="Instrument"
      visibleLabel
      value={draft.instruments[of] ?? ""}
      onChange={(id) => {
        const picked = fitting.find((own) => own.id === id);
        change((before) => {
          const { [of]: _, ...others } = before.instruments;
          return {
            ...(picked ? takenWith(of, picked, before) : of === "flow" && NO_METER),
            instruments: picked ? { ...others, [of]: picked.id } : others,
          };
        });
      }}
    >
      <option value="">another, as typed</option>
      {fitting.map((own) => (
        <option key={own.id} value={own.id} disabled={!isFit(of, own, reach)}>
          {instrumentLine(own, units)}
          {isFit(of, own, reach) ? "" : ": too small here"}
        </option>
      ))}
    </SelectField>
  );
}
