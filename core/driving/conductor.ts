import { FOOT } from "../quantity/constants.ts";

/** A copper conductor as it is sold: of an American gauge, or of so many square millimetres. */
export interface Conductor {
  id: string;
  label: string;
  /** Ω per m at the temperature it runs at */
  resistance: number;
}

/**
 * Stranded uncoated copper at 75 °C in Ω per 1000 ft. Source: NEC chapter 9 table 8, from memory.
 */
const GAUGES: readonly (readonly [string, number])[] = [
  ["18", 7.95],
  ["16", 4.99],
  ["14", 3.14],
  ["12", 1.98],
  ["10", 1.24],
  ["8", 0.778],
  ["6", 0.491],
  ["4", 0.308],
  ["3", 0.245],
  ["2", 0.194],
  ["1", 0.154],
  ["1/0", 0.122],
  ["2/0", 0.0967],
  ["3/0", 0.0766],
  ["4/0", 0.0608],
];

/**
 * Flexible copper (class 5) at 20 °C in Ω per km, a little more than the solid of the same size. Source: IEC 60228, from
 * memory.
 */
const SQUARES: readonly (readonly [string, number])[] = [
  ["0.75", 26],
  ["1", 19.5],
  ["1.5", 13.3],
  ["2.5", 7.98],
  ["4", 4.95],
  ["6", 3.3],
  ["10", 1.91],
  ["16", 1.21],
  ["25", 0.78],
  ["35", 0.554],
  ["50", 0.386],
  ["70", 0.272],
];

/** Copper's resistance goes up by this part a degree. */
const PER_DEGREE = 0.003_93;
/** °C at which a loaded cable is reckoned; the one table is at 75, the other at 20. */
const WARM = 70;

/** Ω at a temperature in °C of a conductor told at another. */
export function atTemperature(resistance: number, told: number, at: number): number {
  return (resistance * (1 + PER_DEGREE * (at - 20))) / (1 + PER_DEGREE * (told - 20));
}

/** Every size, thin to thick within each way of measuring, all at the temperature of a loaded cable. */
export const CONDUCTORS: readonly Conductor[] = [
  ...GAUGES.map(([gauge, ohms]) => ({
    id: `awg-${gauge.replace("/", "-")}`,
    label: `${gauge} AWG`,
    resistance: ohms / (1000 * FOOT),
  })),
  ...SQUARES.map(([size, ohms]) => ({
    id: `mm2-${size.replace(".", "-")}`,
    label: `${size} mm²`,
    resistance: atTemperature(ohms / 1000, 20, WARM),
  })),
];

const BY_ID = new Map(CONDUCTORS.map((conductor) => [conductor.id, conductor]));
export const findConductor = (id: string): Conductor | undefined => BY_ID.get(id);

/** Sizes measured the same way. */
export const alikeConductors = ({ id }: Conductor): readonly Conductor[] =>
  CONDUCTORS.filter((other) => other.id.split("-")[0] === id.split("-")[0]);

/**
 * V lost there and back on one phase or direct current, 2 L I R, or on three, √3 L I R. m, A and Ω per m; the
 * cable's reactance is left out, as it may be in sizes like these.
 */
export function voltageDrop(
  length: number,
  current: number,
  resistance: number,
  phase: 1 | 3 = 1,
): number {
  return (phase === 3 ? Math.sqrt(3) : 2) * length * current * resistance;
}

/** The thinnest conductor, measured the same way, that loses no more than so many V; nothing where none does. */
export function thinnestFor(
  alike: Conductor,
  length: number,
  current: number,
  most: number,
  phase: 1 | 3 = 1,
): Conductor | undefined {
  return alikeConductors(alike).find(
    ({ resistance }) => voltageDrop(length, current, resistance, phase) <= most,
  );
}
