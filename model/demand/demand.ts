import type { JobDocument, Need } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { GALLON } from "#core/quantity/constants.ts";

/** What a need comes to, m³/s, and between which flows it lies by the doubt of what it was found from. */
export interface NeededFlow {
  flow: number;
  low: number;
  high: number;
  /** it is water that comes in by itself, rather than water that is wanted */
  comesIn: boolean;
}

type Surface = NonNullable<Extract<Need, { kind: "rain" }>["catches"]>[number]["surface"];

/** The part of the rain that runs off, and how far it may differ. Common practice, no source. */
export const RUNOFF: Record<Surface, { usual: number; low: number; high: number }> = {
  roof: { usual: 0.95, low: 0.9, high: 1 },
  paving: { usual: 0.9, low: 0.8, high: 0.95 },
  lawn: { usual: 0.3, low: 0.2, high: 0.35 },
  other: { usual: 0.5, low: 0.3, high: 0.7 },
};

/** How far a rise test by tape and watch may be out. Common practice, no source. */
const TEST_DOUBT = { area: 0.03, rise: 0.003, time: 1 };
/** A volume reckoned from paced or taped sides. Common practice, no source. */
const VOLUME_DOUBT = 0.1;
/** m³/s that a fixture in use draws: a gallon a minute. Common practice, no source. */
export const PER_FIXTURE = GALLON / 60;
/** m³ that a person uses in a day. Common practice, no source. */
export const PER_HEAD = 0.2;

/** h of the day in which its water is drawn. Common practice, no source. */
export const USUAL_HOURS = 8;

/** The flow of a need; undefined while something it is found from is missing. */
export function flowOfDemand(need: Need | undefined): NeededFlow | undefined {
  switch (need?.kind) {
    case "typed":
    case "guns":
      return need.flow ? exactly(need.flow, false) : undefined;
    case "rise-test": {
      const { area, rise, time, inflowPipe } = need;
      if (!area || !rise || !time) return undefined;
      const inPipe = inflowPipe ? (Math.PI / 4) * inflowPipe.bore ** 2 * inflowPipe.length : 0;
      const flow = (area * rise + inPipe) / time;
      const doubt = Math.hypot(TEST_DOUBT.area, TEST_DOUBT.rise / rise, TEST_DOUBT.time / time);
      return { flow, low: flow * Math.max(1 - doubt, 0), high: flow * (1 + doubt), comesIn: true };
    }
    case "rain": {
      const { catches = [], hardestHour } = need;
      if (!hardestHour || catches.length === 0) return undefined;
      const at = (which: "usual" | "low" | "high") =>
        (runoffArea(catches, which) * hardestHour) / 3600;
      const flow = at("usual");
      return flow > 0 ? { flow, low: at("low"), high: at("high"), comesIn: true } : undefined;
    }
    case "deadline": {
      const { volume, time, inflow = 0 } = need;
      if (!volume || !time) return undefined;
      const of = (part: number) => (volume * part) / time + inflow;
      return { flow: of(1), low: of(1 - VOLUME_DOUBT), high: of(1 + VOLUME_DOUBT), comesIn: false };
    }
    case "household": {
      const { fixtures, heads, perHead = PER_HEAD, hours = USUAL_HOURS } = need;
      const byFixtures = fixtures ? fixtures * PER_FIXTURE : 0;
      const byHeads = heads && hours > 0 ? (heads * perHead) / (hours * 3600) : 0;
      const flow = Math.max(byFixtures, byHeads);
      return flow > 0 ? exactly(flow, false) : undefined;
    }
    default:
      return undefined;
  }
}

const exactly = (flow: number, comesIn: boolean): NeededFlow => ({
  ...{ flow, low: flow, high: flow },
  comesIn,
});

/**
 * m² that all rain on these catches would run off of: Σ C·A. The rational method is Q = C·i·A (E. Kuichling, Trans.
 * ASCE 20 (1889) 1–56); in gpm, in/h and ft² it is C·i·A / 96.25.
 */
export function runoffArea(
  catches: readonly { surface: Surface; area: number; runoff?: number | undefined }[],
  which: "usual" | "low" | "high" = "usual",
): number {
  return catches.reduce((sum, { surface, area, runoff }) => {
    return sum + area * (runoff ?? RUNOFF[surface][which]);
  }, 0);
}

/** Times what comes in that a pump is to move, where nothing else is said. Common practice, no source. */
export const USUAL_IN_HAND = 1.5;

/** The job with another need: the flow it is there for follows what the need comes to. */
export function withDemand(job: JobDocument, need: Need): JobDocument {
  const { flow: _, ...open } = need;
  const found = flowOfDemand(need.kind === "typed" || need.kind === "guns" ? need : (open as Need));
  const { wantedFlow: _was, ...rest } = job;
  const inHand =
    ("inHand" in need ? need.inHand : undefined) ?? (found?.comesIn ? USUAL_IN_HAND : 1);
  // More than a job can have is told where it is typed, and wanted of no pump.
  if (!found || found.flow * inHand > RANGES.flow.max) return { ...rest, need: open as Need };
  return {
    ...rest,
    ...(need.kind === "deadline" && need.volume && { volume: need.volume }),
    need: { ...open, flow: found.flow } as Need,
    wantedFlow: found.flow * inHand,
  };
}
