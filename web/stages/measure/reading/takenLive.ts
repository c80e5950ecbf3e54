import type { ChannelNow } from "../../../streams/LivePanel.tsx";
import { dischargeBy, electricBy, flowBy, type ReadingDraft, suctionBy } from "./readingDraft.ts";

/** A reading of instruments that stream, as it goes into the draft: what each channel showed while it stood still. */
export function takenLive(
  now: readonly ChannelNow[],
  before: ReadingDraft,
  ratedSpeed: number | undefined,
  /** Pa: the dial taken for a channel that does not say its own */
  scale: number,
): Partial<ReadingDraft> {
  let by: Partial<ReadingDraft> = {};
  for (const one of now) by = { ...by, ...ofChannel(one, { ...before, ...by }, ratedSpeed, scale) };
  return by;
}

/** What one channel changes of a draft. */
function ofChannel(
  { channel, steady, value }: ChannelNow,
  draft: ReadingDraft,
  ratedSpeed: number | undefined,
  scale: number,
): Partial<ReadingDraft> {
  const mean = steady.kind === "steady" ? steady.mean : { value, standardUncertainty: 0 };
  const { tolerance = USUAL_CHANNEL, fullScale, elevation, afterItemId } = channel;
  const size = Math.abs(mean.value);
  // The instrument's own half-width, and what the mean still trembles, as one of a size.
  const half = Math.hypot(tolerance * (fullScale ?? size), Math.sqrt(3) * mean.standardUncertainty);
  const part = (of: number) => Math.min(half / of, 0.5);
  switch (channel.reads) {
    case "flow":
      if (draft.valve === "shut" || mean.value <= 0) return {};
      return {
        method: "meter",
        ...flowBy("meter", { flow: mean.value, tolerance: part(size) })(draft),
      };
    case "discharge": {
      const dial = fullScale ?? Math.max(size, scale);
      return dischargeBy({
        ...{ pressure: mean.value, fullScale: dial, accuracyClass: part(dial) },
        ...(afterItemId !== undefined && { afterItemId }),
        ...(elevation !== undefined && { elevation }),
      })(draft);
    }
    case "suction": {
      const dial = fullScale ?? Math.max(size, LEAST_SCALE);
      return {
        suctionKind: "gauge",
        ...suctionBy("gauge", {
          ...{ pressure: mean.value, fullScale: dial, accuracyClass: part(dial) },
          ...(elevation !== undefined && { elevation }),
        })(draft),
      };
    }
    case "level":
      return {
        suctionKind: "water-level",
        ...suctionBy("water-level", { level: mean.value, tolerance: Math.max(half, 0.001) })(draft),
      };
    case "current":
      return electricBy({
        currents: [mean.value],
        ...(size > 0 && { currentTolerance: part(size) }),
      })(draft);
    case "power":
      return mean.value > 0
        ? electricBy({ power: mean.value, powerTolerance: part(size) })(draft)
        : {};
    case "speed":
      return ratedSpeed && mean.value > 0.1 * ratedSpeed
        ? { speedRatio: mean.value / ratedSpeed, speedTolerance: part(size) }
        : {};
    default:
      return {};
  }
}

/** Half-width of a channel that says nothing of itself, as a part. Common practice, no source. */
const USUAL_CHANNEL = 0.02;
/** Pa */
const LEAST_SCALE = 1e4;
