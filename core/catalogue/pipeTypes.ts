/**
 * Pipe and hose that can be put on a line: real bores, not nominal ones. Lengths in m, pressures in
 * Pa. Prices are invented.
 */
export interface PipeStock {
  id: string;
  family: PipeFamily;
  /** what the fitter calls it, e.g. "1-1/2 in" or "63 mm" */
  nominal: string;
  /** absent for hose, which is sold by its bore */
  outsideDiameter?: number;
  bore: number;
  /** ε in m and Hazen–Williams C of the state the family is usually found in */
  roughness: number;
  hazenWilliamsC: number;
  /** working pressure at 23 °C (20 °C for metric PE); absent where the maker's plate must tell */
  pressureRating?: number;
  /** per metre, invented */
  price: number;
  /** length of a stick or coil as sold */
  soldLength: number;
  /** where bore and rating come from */
  source: string;
}

export type PipeFamily =
  | "pvc-sch40"
  | "pvc-sch80"
  | "pvc-u-pn16"
  | "steel-sch40"
  | "steel-sch80"
  | "copper-l"
  | "pe100-sdr11"
  | "pe100-sdr17"
  | "pe4710-sidr7"
  | "pe-sidr7"
  | "pe-sidr15"
  | "thin-drain"
  | "garden-hose"
  | "sump-hose"
  | "suction-hose"
  | "lay-flat";

/** Fresh from the stack, or after years in service. */
export type PipeAge = "new" | "aged";

/** A wall as water feels it, by both schools: C is what ε gives at 1.5 m/s in the bores the family is laid in. */
export interface Surface {
  /** ε, m */
  roughness: number;
  hazenWilliamsC: number;
}

export interface FamilyFacts {
  label: string;
  flexible: boolean;
  surfaces: Record<PipeAge, Surface>;
  /** how it is taken where the job does not say */
  usual: PipeAge;
  /** what the numbers assume, and where they come from */
  assumption: string;
  /** Young's modulus of the wall in Pa, for surge; absent for hose, whose give softens it. From memory. */
  youngsModulus?: number;
  /** highest water temperature in K at which a full rating is claimed, and the factor above it */
  derating?: readonly (readonly [temperature: number, factor: number])[];
}

/** A family with its sizes, small to large. */
export interface FamilyTable {
  family: PipeFamily;
  facts: FamilyFacts;
  sizes: readonly SizeRow[];
}

export interface SizeRow {
  nominal: string;
  bore: number;
  outsideDiameter?: number;
  pressureRating?: number;
  soldLength: number;
  source: string;
}

/** Wall from outside and thickness, in metres by `unit`. */
export function walled(outside: number, wall: number, unit: number) {
  const outsideDiameter = outside * unit;
  return { outsideDiameter, bore: outsideDiameter - 2 * wall * unit };
}
