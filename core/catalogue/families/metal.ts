import { INCH } from "../../quantity/constants.ts";
import { type FamilyFacts, type FamilyTable, walled } from "../pipeTypes.ts";
import { SCHEDULE_40, SCHEDULE_80 } from "./schedules.ts";

const STEEL: Omit<FamilyFacts, "label"> = {
  flexible: false,
  surfaces: {
    new: { roughness: 45e-6, hazenWilliamsC: 140 },
    aged: { roughness: 200e-6, hazenWilliamsC: 120 },
  },
  // It rusts: what is laid today is judged as it will be in a few years.
  usual: "aged",
  assumption:
    "Commercial steel: ε 0.045 mm (Moody 1944), C 140 new; ε 0.2 mm, C 120 some years in service, which is what is taken (common practice, no source).",
  youngsModulus: 2.0e11,
};

const B36 = "ASME B36.10M dimensions (from memory); the joint sets the rating, not the pipe.";

/** Outside diameter and wall of ASTM B88 type L, in inches. */
const COPPER_L: readonly [name: string, outside: number, wall: number][] = [
  ["1/2 in", 0.625, 0.04],
  ["3/4 in", 0.875, 0.045],
  ["1 in", 1.125, 0.05],
  ["1-1/4 in", 1.375, 0.055],
  ["1-1/2 in", 1.625, 0.06],
  ["2 in", 2.125, 0.07],
];

export const METAL_FAMILIES: readonly FamilyTable[] = [
  ...(["steel-sch40", "steel-sch80"] as const).map((family): FamilyTable => {
    const label = family === "steel-sch40" ? "steel sch 40" : "steel sch 80";
    const schedule = family === "steel-sch40" ? SCHEDULE_40 : SCHEDULE_80;
    return {
      family,
      facts: { label, ...STEEL },
      sizes: schedule.map(([nominal, outside, wall]) => ({
        nominal,
        ...walled(outside, wall, INCH),
        soldLength: 6.4,
        source: B36,
      })),
    };
  }),
  {
    family: "copper-l",
    facts: {
      label: "copper type L",
      flexible: false,
      surfaces: {
        new: { roughness: 1.5e-6, hazenWilliamsC: 150 },
        aged: { roughness: 20e-6, hazenWilliamsC: 140 },
      },
      usual: "new",
      assumption:
        "Drawn tube: ε 0.0015 mm, C 150 new; ε 0.02 mm, C 140 aged (common practice, no source).",
      youngsModulus: 1.17e11,
    },
    sizes: COPPER_L.map(([nominal, outside, wall]) => ({
      nominal,
      ...walled(outside, wall, INCH),
      soldLength: 6.096,
      source: "ASTM B88 type L dimensions (from memory); the joint sets the rating, not the tube.",
    })),
  },
];
