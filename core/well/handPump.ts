import { FOOT, GRAVITY } from "../quantity/constants.ts";

/** A piston pump worked by hand: m across and m of stroke, strokes a minute, and how many times its handle is longer. */
export interface HandPump {
  bore: number;
  stroke: number;
  strokesPerMinute: number;
  leverage: number;
  /** part of what it sweeps that comes: what slips past leathers and valves is lost */
  volumetric?: number | undefined;
}

/** Of good leathers. Common practice, no source. */
export const USUAL_VOLUMETRIC = 0.85;
/** Part of its force a handle loses to rods and leathers. Common practice, no source. */
export const HANDLE_LOSS = 0.2;
/** N a person can keep pulling with for minutes: 50 lbf at the most. Common practice, no source. */
export const MOST_PULL = 222;
/** m of one stick of drop pipe: 10 ft. Common practice, no source. */
export const STICK = 10 * FOOT;

/**
 * m² of its cylinder.
 * @example cylinderArea(0.065) // 0.00332
 */
export const cylinderArea = (bore: number): number => (Math.PI / 4) * bore ** 2;

/** m³/s of swept volume by strokes, less what slips. */
export function handFlow({
  bore,
  stroke,
  strokesPerMinute,
  volumetric = USUAL_VOLUMETRIC,
}: HandPump): number {
  return (volumetric * cylinderArea(bore) * stroke * strokesPerMinute) / 60;
}

/** N at the handle: ρ g H A over the leverage, and what rods and leathers take. */
export function handleForce(
  density: number,
  lift: number,
  area: number,
  leverage: number,
  loss = HANDLE_LOSS,
): number {
  return (density * GRAVITY * lift * area * (1 + loss)) / leverage;
}
