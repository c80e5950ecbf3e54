import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { GALLON, ZERO_CELSIUS } from "../quantity/constants.ts";

/**
 * Part of its rated power that an engine without a blower still gives: 3.5 % less for each 300 m of altitude, 1 % less
 * for each 5.5 °C over 25 °C. m and K; never under none. Common practice, no source.
 * @example derating(1500, 303.15) // 0.816
 */
export function derating(altitude: number, airTemperature: number): number {
  const thin = (0.035 * Math.max(altitude, 0)) / 300;
  const warm = (0.01 * Math.max(airTemperature - ZERO_CELSIUS - 25, 0)) / 5.5;
  return Math.max(1 - thin - warm, 0);
}

/** m³ of fuel for a J at the shaft: a tenth of a US gallon an hour for each hp. Common practice for small petrol engines, no source. */
export const FUEL_PER_JOULE = (0.1 * GALLON) / (3600 * 745.7);

export interface EngineAtWork {
  /** W that it gives there, and W the shaft asks for */
  available: number;
  shaft: number;
  /** over the job's speed: less than 1 where the shaft asks for more than there is */
  sag: number;
  /** m³/s of fuel, and s a tank lasts */
  fuel: number;
  tankLasts?: number;
}

/**
 * An engine at a duty: it holds its speed until the shaft asks for more than it can give, which goes with speed.
 * @param rated W of its plate
 * @param shaft W at a speed as a part of the governed one, on this line
 * @param tank m³
 */
export function engineAtWork(
  rated: number,
  part: number,
  shaft: (speed: number) => number,
  tank?: number,
): EngineAtWork {
  const available = rated * part;
  const over = (speed: number) => available * speed - shaft(speed);
  const [low, full] = [over(SLOWEST), over(1)];
  const sag = full >= 0 ? 1 : low <= 0 ? SLOWEST : bracketedRoot(over, SLOWEST, 1, low, full, 1e-6);
  const taken = shaft(sag);
  const fuel = FUEL_PER_JOULE * taken;
  return {
    ...{ available, shaft: taken, sag, fuel },
    ...(tank !== undefined && fuel > 0 && { tankLasts: tank / fuel }),
  };
}

/** Under this part of its speed an engine stalls rather than sags. Common practice, no source. */
const SLOWEST = 0.5;
