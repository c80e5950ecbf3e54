import { flowFor, quickDuty, type SystemCurve } from "../hydraulics/systemCurve.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { speedFor } from "../pump/arrangement.ts";
import { pumpCurve, shaftPower } from "../pump/curve.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { sweptPower } from "./motor.ts";
import { fitSweep, type SweepFit } from "./sweepFit.ts";

/** A pump at one speed on a line. */
export interface AtSpeed {
  /** over the rated speed */
  ratio: number;
  /** m³/s at the outlets, m at the pump; absent where it lifts nothing, or its curve ends before */
  flow?: number;
  head?: number;
  /** W, and J for a m³ */
  power?: number;
  perVolume?: number;
}

export interface SpeedSheet {
  rows: AtSpeed[];
  /** the slowest that delivers what is wanted, and of all that do, or of all while nothing is, what takes least for a m³ */
  slowest?: AtSpeed;
  cheapest?: AtSpeed;
  /** m of lift, and J for a m³ that no pump takes less than on this line */
  lift: number;
  floor: number;
  /** at some speeds the power told is less than the water alone takes there: what was published or read is wrong */
  tooLittle: boolean;
  /** what was fitted to a sweep of the drive */
  fit?: SweepFit;
}

/** Speeds a sheet has. */
const SPEEDS = 29;

/** Speeds, over the rated one, that a drive allows; the range affinity is taken in where nothing is said. */
export function speedRange({ speeds, ratedSpeedRpm, drive }: Pump): {
  least: number;
  most: number;
} {
  if (speeds) return { least: speeds.least / ratedSpeedRpm, most: speeds.most / ratedSpeedRpm };
  // An engine is throttled down to half; a motor runs at one speed.
  return drive === "engine" ? { least: 0.5, most: 1 } : { least: 1, most: 1 };
}

/**
 * A pump over the speeds of its drive on one line. Flow and head by affinity, each duty found on the line, since the
 * lift keeps flow from going with speed. Power is what the curve says at the flow scaled back, times n³; where a sweep
 * told what the drive takes idling, that part stays: P = P₀ + (P(Q/n) − P₀) n^m. Where no power is published, what the
 * sweep read is taken as it is. A power less than what the water is given is no power, and not told.
 * @param lift m the line lifts at this water, by its levels alone
 * @param density kg/m³, and times the published power
 */
export function speedSheet(
  pump: Pump,
  system: SystemCurve,
  wanted: number | undefined,
  lift: number,
  { density, specificGravity }: { density: number; specificGravity: number },
): SpeedSheet {
  const range = speedRange(pump);
  const rated = pumpCurve(pump);
  const fit = fitOf(pump);
  const [idle, exponent] = fit ? [fit.idle, fit.exponent] : [0, 3];
  let tooLittle = false;
  const atSpeed = (ratio: number): AtSpeed => {
    const curve = pumpCurve(pump, ratio);
    const duty = quickDuty(system, curve);
    if (duty.kind !== "runs") return { ratio };
    const row: AtSpeed = { ratio, flow: duty.delivered, head: duty.head };
    const published = shaftPower(rated, duty.flow / ratio);
    const full = published === undefined ? fit && idle + fit.scale : published * specificGravity;
    if (full === undefined) return row;
    const power = idle + Math.max(full - idle, 0) * ratio ** exponent;
    if (power < density * GRAVITY * duty.flow * Math.max(duty.head, lift)) {
      tooLittle = true;
      return row;
    }
    return { ...row, power, perVolume: power / duty.delivered };
  };
  const rows = Array.from({ length: SPEEDS }, (_, i) =>
    atSpeed(range.least + ((range.most - range.least) * i) / (SPEEDS - 1)),
  );
  const asked = wanted === undefined ? undefined : flowFor(system, wanted);
  const exact =
    asked === undefined
      ? undefined
      : speedFor(pump, { flow: asked, head: evaluate(system.head, asked) }, range);
  const slowest = exact === undefined ? undefined : atSpeed(exact);
  const enough = [
    ...(slowest?.flow === undefined ? [] : [slowest]),
    ...rows.filter(
      ({ ratio, flow = 0 }) =>
        flow > 0 && (wanted === undefined || (exact !== undefined && ratio > exact)),
    ),
  ];
  const cheapest = enough
    .filter(({ perVolume }) => perVolume !== undefined)
    .toSorted((a, b) => (a.perVolume as number) - (b.perVolume as number))[0];
  return {
    ...{ rows, lift, tooLittle },
    floor: Math.max(lift, 0) * density * GRAVITY,
    ...(slowest && { slowest }),
    ...(cheapest && { cheapest }),
    ...(fit && { fit }),
  };
}

/** What a sweep of its speeds says of a pump's drive, where one was read that tells. */
export function fitOf({ speeds, ratedSpeedRpm, electric }: Pump): SweepFit | undefined {
  const rows = (speeds?.sweep ?? []).flatMap((row) => {
    const power = sweptPower(row, electric);
    return power === undefined ? [] : [{ speed: row.speed / ratedSpeedRpm, power }];
  });
  const found = fitSweep(rows);
  return found.kind === "fitted" ? found.fit : undefined;
}
