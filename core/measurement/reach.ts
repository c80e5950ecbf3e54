import { WATER_LEVELS } from "../fluid/levels.ts";
import type { PumpState } from "../hydraulics/boundary.ts";
import { type ShutHead, shutHeads } from "../hydraulics/shutHeads.ts";
import type { LineModel, Solution } from "../hydraulics/solveLine.ts";
import { pumpCurve } from "../pump/curve.ts";
import { headFactorUncertainty, type Pump } from "../pump/pump.ts";
import { BAR, GRAVITY, PSI } from "../quantity/constants.ts";
import { measuredFlow } from "./instruments.ts";
import type { FlowMeasurement } from "./reading.ts";

/** What an instrument must be able to take before it is fitted, and what it can still tell. */

/** The head a line can come to with nothing running out, and whether the shut-off heads it is made of are published. */
export interface MostHead {
  /** m above datum, at the highest place of the pressure: past every pump on the way */
  head: number;
  /** m that sound pumps may make over it, by their tolerance */
  above: number;
  published: boolean;
}

/**
 * The most that can stand on the discharge side of a pump with the line shut, all pumps running and the water at its
 * highest. m above datum; a gauge at a height of z m feels ρg (head − z).
 *
 * @example a pump of 20 m at shut-off, its water at 1 m: head 21
 */
export function mostHead(on: LineModel, at: number): MostHead | undefined {
  const { line, boundaries, pumps, asked } = on;
  const placed = line.pumps[at];
  if (!placed || asked) return undefined;
  const past = downstreamOf(on, placed.outlet);
  const most = (stronger: boolean): ShutHead => {
    const states = pumps.map(({ pump }, i): PumpState => {
      const headFactor = stronger ? 1 + headFactorUncertainty(pump).head : 1;
      const speed = line.pumps[i]?.item.speedRatio ?? 1;
      return { kind: "running", curve: pumpCurve(pump, speed, { headFactor }) };
    });
    return WATER_LEVELS.flatMap((level) => {
      const heads = shutHeads(line, boundaries[level], states);
      return past.map((node) => heads[node] as ShutHead);
    }).reduce((highest, own) => (own.head > highest.head ? own : highest));
  };
  const { head, published } = most(false);
  return { head, above: most(true).head - head, published };
}

/** Nodes the water of a pump goes on to, that of its outlet first. */
function downstreamOf({ line }: LineModel, start: number): number[] {
  const seen = new Set([start]);
  for (const node of seen) {
    for (const { from, to } of line.stretches) if (from === node) seen.add(to);
    for (const { inlet, outlet } of line.pumps) if (inlet === node) seen.add(outlet);
  }
  return [...seen];
}

/** Pa a gauge may come to feel at a height in m above datum. */
export function mostAtGauge(most: MostHead, elevation: number, density: number): number {
  return Math.max((most.head - elevation) * density * GRAVITY, 0);
}

/** s: a bucket that fills sooner is not timed but guessed, and one that is picked for a flow should take longer. Common practice, no source. */
export const LEAST_FILL = 2;
export const GOOD_FILL = 10;

/** Last marks gauges come with, in Pa: of the EN 837-1 ranges in bar, and of dials in psi. From memory. */
const BAR_SCALES = [1, 1.6, 2.5, 4, 6, 10, 16, 25, 40, 60, 100].map((bar) => bar * BAR);
const PSI_SCALES = [15, 30, 60, 100, 160, 200, 300, 400, 600, 1000, 1500].map((psi) => psi * PSI);

/** The smallest usual dial whose last mark lies over a pressure in Pa; the largest there is when none does. */
export function usualScale(pressure: number, dials: "bar" | "psi"): number {
  const scales = dials === "bar" ? BAR_SCALES : PSI_SCALES;
  return scales.find((scale) => scale >= pressure) ?? (scales.at(-1) as number);
}

/** What the instruments of a reading have to take, as far as the job tells. */
export interface Reach {
  /** Pa a discharge gauge feels with the line shut: by the published curve, and by the strongest sound pump */
  gauge?: { most: number; strongest: number; published: boolean };
  /** m³/s that are expected to run */
  flow?: number;
}

/**
 * What a gauge at a pump's port has to take where nobody knows the line: what the pump makes alone, shut off. Water
 * that stands over it, a main before it or a pump in series adds to that, so it is the least and never the most.
 * `speedRatio` of the rated speed; kg/m³.
 *
 * @example a pump of 20 m shut off in water of 1000 kg/m³: 196 kPa
 */
export function reachOfPump(pump: Pump, speedRatio: number, density: number): Reach {
  const pressure = (headFactor: number) =>
    pumpCurve(pump, speedRatio, { headFactor }).peak.head * density * GRAVITY;
  const strongest = pressure(1 + headFactorUncertainty(pump).head);
  return { gauge: { most: pressure(1), strongest, published: false } };
}

/** What is asked of the instruments of a reading of one pump of the line, its gauge at a height in m above datum. */
export function reachOf(solution: Solution, place: number, elevation: number): Reach {
  const head: MostHead | undefined = mostHead(solution, place);
  const flow = solution.cases.normal.running?.state.delivered;
  const at = (own: MostHead) => mostAtGauge(own, elevation, solution.water.density);
  return {
    ...(head && {
      gauge: {
        most: at(head),
        strongest: at({ ...head, head: head.head + head.above }),
        published: head.published,
      },
    }),
    ...(flow !== undefined && flow > 0 && { flow }),
  };
}

/** Why an instrument is not fit for where it is used. */
export type Unfit =
  /** its last mark lies under what the pump makes there; `most`: Pa */
  | { of: "gauge"; fullScale: number; most: number }
  /** it reads past its last mark */
  | { of: "off-the-dial"; fullScale: number }
  /** s: it fills too fast for a hand */
  | { of: "bucket"; seconds: number }
  /** m³/s it is made for */
  | { of: "meter"; greatestFlow: number };

/** The first instrument of a reading that is not fit for it. */
export function unfitOf(
  reading: {
    flow: FlowMeasurement;
    discharge?: { fullScale: number; pressure: number } | undefined;
  },
  reach: Reach,
  greatestFlow?: number,
): Unfit | undefined {
  const { flow, discharge } = reading;
  if (discharge && !takesPressure(discharge.fullScale, reach)) {
    const { fullScale } = discharge;
    return { of: "gauge", fullScale, most: reach.gauge?.most ?? 0 };
  }
  if (discharge && discharge.pressure > discharge.fullScale) {
    return { of: "off-the-dial", fullScale: discharge.fullScale };
  }
  if (flow.method === "bucket") {
    const seconds = flow.times.reduce((sum, time) => sum + time, 0) / flow.times.length;
    if (seconds < LEAST_FILL) return { of: "bucket", seconds };
  }
  if (flow.method === "meter" || flow.method === "counter") {
    if (greatestFlow !== undefined && measuredFlow(flow).value > greatestFlow) {
      return { of: "meter", greatestFlow };
    }
  }
  return undefined;
}

/** Whether a gauge outlasts the line being shut where it stands; it does where nobody knows what that makes. */
export function takesPressure(fullScale: number, { gauge }: Reach): boolean {
  return gauge === undefined || fullScale >= gauge.most * (1 - 1e-9);
}

/** Pa: the dial taken until one is picked, as large as the place asks for and no smaller than the usual one. */
export function scaleFor({ gauge }: Reach, dials: "bar" | "psi", usual: number): number {
  return Math.max(usual, usualScale(gauge?.strongest ?? 0, dials));
}
