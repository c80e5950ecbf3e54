import { inputPower, USUAL_POWER_FACTOR } from "../driving/motor.ts";
import type { Plate } from "../pump/pump.ts";
import { type Estimate, rectangular } from "./instruments.ts";
import type { ElectricMeasurement } from "./reading.ts";

/** What was read at the supply, worked out. */
export interface MeasuredInput {
  /** W taken from the supply, and how it was come by */
  power?: Estimate & { from: "meter" | "power-factor" | "usual-power-factor" };
  /** A, the mean of the conductors */
  current?: Estimate;
  /** the mean over the plate's running current */
  ofPlate?: number;
  /** greatest deviation of one conductor from the mean, as a fraction of it; of three phases only */
  unbalance?: number;
  /** V over the plate's, as a fraction more or less */
  voltsOff?: number;
}

/** Half-widths where an instrument says nothing of itself, and of a power factor nobody measured. Common practice, no source. */
const USUAL = { volts: 0.015, current: 0.02, power: 0.03, powerFactor: 0.12 };

/**
 * The power a pump set takes: off a power meter, or from volts and amps with the power factor read or the plate's; with
 * neither a usual one is taken, in wide doubt. Uncertainty to first order (GUM 5.1.6, a product).
 */
export function measuredInput(measured: ElectricMeasurement, plate: Plate = {}): MeasuredInput {
  const { volts, currents = [], power, powerFactor } = measured;
  const { voltsTolerance = USUAL.volts, currentTolerance = USUAL.current } = measured;
  const { powerTolerance = USUAL.power } = measured;
  const found: MeasuredInput = {};
  const mean = currents.reduce((sum, own) => sum + own, 0) / currents.length;
  const three = plate.phase === 3 || currents.length > 1;
  if (currents.length > 0) {
    found.current = { value: mean, standardUncertainty: mean * rectangular(currentTolerance) };
    if (plate.runningCurrent) found.ofPlate = mean / plate.runningCurrent;
    if (currents.length > 2 && mean > 0) {
      found.unbalance = Math.max(...currents.map((own) => Math.abs(own - mean))) / mean;
    }
  }
  if (volts !== undefined && plate.volts) found.voltsOff = volts / plate.volts - 1;
  if (power !== undefined) {
    const standardUncertainty = power * rectangular(powerTolerance);
    found.power = { value: power, standardUncertainty, from: "meter" };
  } else if (volts !== undefined && currents.length > 0) {
    const direct = plate.direct ?? false;
    const known = direct ? 1 : (powerFactor ?? plate.powerFactor);
    const factor = known ?? USUAL_POWER_FACTOR;
    const value = inputPower(volts, mean, factor, three && !direct ? 3 : 1);
    const factorDoubt =
      direct || powerFactor !== undefined ? 0.02 : known ? 0.06 : USUAL.powerFactor;
    const relative = Math.hypot(
      rectangular(voltsTolerance),
      rectangular(currentTolerance),
      rectangular(factorDoubt),
    );
    found.power = {
      value,
      standardUncertainty: value * relative,
      from: known === undefined ? "usual-power-factor" : "power-factor",
    };
  }
  return found;
}

/** Power given to the water over power taken from the supply, both in W, in doubt by both. */
export function wireToWater(water: Estimate, supply: Estimate): Estimate {
  const value = water.value / supply.value;
  const relative = Math.hypot(
    water.standardUncertainty / water.value,
    supply.standardUncertainty / supply.value,
  );
  return { value, standardUncertainty: value * relative };
}
