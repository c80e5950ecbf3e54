import { FOOT } from "../quantity/constants.ts";

/** A copper conductor as it is sold: of an American gauge, or of so many square millimetres. */
export interface Conductor {
  id: string;
  label: string;
  /** of IEC 60228: 2 stranded and stiff, 5 flexible; American gauges have none */
  strands?: 2 | 5;
  /** Ω per m at the temperature it runs at */
  resistance: number;
  /** A it carries by a cautious table, until an electrician says; from memory */
  ampacity: number;
}

/**
 * Stranded uncoated copper at 75 °C in Ω per 1000 ft. Source: NEC chapter 9 table 8, from memory. Amperes of the coolest
 * column of its table for conductors in a raceway or in earth (60 °C), from memory, and less under 14 AWG.
 */
const GAUGES: readonly (readonly [string, ohms: number, amperes: number])[] = [
  ["18", 7.95, 7],
  ["16", 4.99, 10],
  ["14", 3.14, 15],
  ["12", 1.98, 20],
  ["10", 1.24, 30],
  ["8", 0.778, 40],
  ["6", 0.491, 55],
  ["4", 0.308, 70],
  ["3", 0.245, 85],
  ["2", 0.194, 95],
  ["1", 0.154, 110],
  ["1/0", 0.122, 125],
  ["2/0", 0.0967, 145],
  ["3/0", 0.0766, 165],
  ["4/0", 0.0608, 195],
];

/**
 * Copper at 20 °C in Ω per km, stranded (class 2) and flexible (class 5). Source: IEC 60228, from memory. Amperes of a
 * cable with two loaded PVC conductors in a wall that keeps it warm (IEC 60364-5-52, method A2), the least there are, from
 * memory.
 */
const SQUARES: readonly (readonly [string, stranded: number, flexible: number, amperes: number])[] =
  [
    ["0.75", 24.5, 26, 7],
    ["1", 18.1, 19.5, 10],
    ["1.5", 12.1, 13.3, 14],
    ["2.5", 7.41, 7.98, 18.5],
    ["4", 4.61, 4.95, 25],
    ["6", 3.08, 3.3, 32],
    ["10", 1.83, 1.91, 43],
    ["16", 1.15, 1.21, 57],
    ["25", 0.727, 0.78, 75],
    ["35", 0.524, 0.554, 92],
    ["50", 0.387, 0.386, 110],
    ["70", 0.268, 0.272, 139],
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
  ...GAUGES.map(
    ([gauge, ohms, ampacity]): Conductor => ({
      id: `awg-${gauge.replace("/", "-")}`,
      label: `${gauge} AWG`,
      resistance: ohms / (1000 * FOOT),
      ampacity,
    }),
  ),
  ...([5, 2] as const).flatMap((strands) =>
    SQUARES.map(
      ([size, stranded, flexible, ampacity]): Conductor => ({
        id: `${strands === 5 ? "mm2" : "mm2stranded"}-${size.replace(".", "-")}`,
        label: `${size} mm²`,
        strands,
        resistance: atTemperature((strands === 5 ? flexible : stranded) / 1000, 20, WARM),
        ampacity,
      }),
    ),
  ),
];

const BY_ID = new Map(CONDUCTORS.map((conductor) => [conductor.id, conductor]));
export const findConductor = (id: string): Conductor | undefined => BY_ID.get(id);

/** "2.5 mm² class 5": a size with how its strands are, where that is told apart. */
export const conductorName = ({ label, strands }: Conductor): string =>
  strands === undefined ? label : `${label} class ${strands}`;

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
