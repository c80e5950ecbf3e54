import { INCH } from "../quantity/constants.ts";

/** m/s past a motor that cools it, and the width in m from which it is a six-inch one. Common practice, no source. */
const COOLING = { slim: 0.08, wide: 0.15, widerThan: 0.125 };

/** m/s that cools a motor so many m across; as a slim one where its width is not known. */
export const coolingVelocity = (diameter: number | undefined): number =>
  diameter !== undefined && diameter > COOLING.widerThan ? COOLING.wide : COOLING.slim;

/**
 * m² between a sleeve or casing and a motor by their widths in m.
 * @example annulus(0.152, 0.096) // 0.0109
 */
export const annulus = (bore: number, motor: number): number =>
  (Math.PI / 4) * (bore ** 2 - motor ** 2);

/**
 * m/s of a flow in m³/s that passes a motor.
 * @example annulusVelocity(0.001, 0.152, 0.096) // 0.0917
 */
export const annulusVelocity = (flow: number, bore: number, motor: number): number =>
  flow / annulus(bore, motor);

/** m, bores of the thin pipe sleeves are cut from. Common practice, no source. */
const SLEEVES = [3, 3.5, 4, 4.5, 5, 6, 8].map((inches) => inches * INCH);

/** m of room a sleeve leaves round a motor at the least. Common practice, no source. */
const ROOM = 0.003;

/** The widest sleeve in m in which a flow cools a motor, and that itself goes down the casing; undefined where none does. */
export function sleeveFor(flow: number, motor: number, casing: number): number | undefined {
  return SLEEVES.findLast(
    (sleeve) =>
      sleeve >= motor + 2 * ROOM &&
      sleeve + 4 * ROOM <= casing &&
      annulusVelocity(flow, sleeve, motor) >= coolingVelocity(motor),
  );
}
