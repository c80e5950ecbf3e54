import { BAR, INCH, PSI, ZERO_CELSIUS } from "../../quantity/constants.ts";
import { type FamilyFacts, type FamilyTable, walled } from "../pipeTypes.ts";
import { SCHEDULE_40, SCHEDULE_80 } from "./schedules.ts";

const celsius = (t: number) => t + ZERO_CELSIUS;

// From memory: de-rating factors customary for PVC pressure pipe in North America.
const PVC_DERATING = [
  [celsius(23), 1],
  [celsius(27), 0.88],
  [celsius(32), 0.75],
  [celsius(38), 0.62],
  [celsius(43), 0.5],
  [celsius(49), 0.4],
  [celsius(54), 0.3],
  [celsius(60), 0.22],
] as const;
// From memory: ISO 1452 reduces from 25 °C on.
const PVC_U_DERATING = [
  [celsius(25), 1],
  [celsius(35), 0.8],
  [celsius(45), 0.63],
] as const;

const PVC: Omit<FamilyFacts, "label"> = {
  flexible: false,
  surfaces: {
    new: { roughness: 1.5e-6, hazenWilliamsC: 150 },
    aged: { roughness: 20e-6, hazenWilliamsC: 145 },
  },
  usual: "new",
  assumption:
    "Smooth plastic pipe: ε 0.0015 mm, C 150 new; ε 0.02 mm, C 145 with the slime of years (common practice, no source).",
  youngsModulus: 2.8e9,
};

const D1785 =
  "ASTM D1785, dimensions and water pressure ratings at 73 °F for PVC 1120 (from memory).";

/** Outside diameter and least wall of ISO 1452 PVC-U for PN 16, in mm. */
const PVC_U_PN16: readonly [outside: number, wall: number][] = [
  [20, 1.5],
  [25, 1.9],
  [32, 2.4],
  [40, 3.0],
  [50, 3.7],
  [63, 4.7],
  [75, 5.6],
  [90, 6.7],
  [110, 6.6],
  [160, 9.5],
];

/** Thin-wall drain pipe of ASTM D2729: outside diameter and wall in inches. */
const THIN_DRAIN: readonly [name: string, outside: number, wall: number][] = [
  ["2 in", 2.25, 0.062],
  ["3 in", 3.25, 0.07],
  ["4 in", 4.215, 0.075],
  ["6 in", 6.275, 0.1],
];

/**
 * Walls are made between a least and a greatest thickness, and pipe between a least and a greatest outside
 * diameter: the bore is taken in the middle of both. ISO 11922-1 tolerances, from memory.
 */
const meanWall = (least: number) => 1.05 * least + 0.1;
const meanOutside = (nominal: number) => nominal + Math.max(0.2, 0.003 * nominal) / 2;

export const PVC_FAMILIES: readonly FamilyTable[] = [
  ...(["pvc-sch40", "pvc-sch80"] as const).map((family): FamilyTable => {
    const label = family === "pvc-sch40" ? "PVC sch 40" : "PVC sch 80";
    const schedule = family === "pvc-sch40" ? SCHEDULE_40 : SCHEDULE_80;
    return {
      family,
      facts: { label, ...PVC, derating: PVC_DERATING },
      sizes: schedule.map(([nominal, outside, wall, psi]) => ({
        nominal,
        ...walled(outside, wall, INCH),
        pressureRating: psi * PSI,
        soldLength: 6.096,
        source: D1785,
      })),
    };
  }),
  {
    family: "pvc-u-pn16",
    facts: { label: "PVC-U PN 16", ...PVC, derating: PVC_U_DERATING },
    sizes: PVC_U_PN16.map(([outside, wall]) => ({
      nominal: `${outside} mm`,
      ...walled(meanOutside(outside), meanWall(wall), 1e-3),
      pressureRating: 16 * BAR,
      soldLength: 6,
      source:
        "ISO 1452-2, mean bore from the least wall for PN 16 at 20 °C and the tolerances (from memory).",
    })),
  },
  {
    family: "thin-drain",
    facts: {
      label: "thin-wall drain",
      ...PVC,
      assumption: `${PVC.assumption} Made for gravity flow, without a pressure rating.`,
    },
    sizes: THIN_DRAIN.map(([nominal, outside, wall]) => ({
      nominal,
      ...walled(outside, wall, INCH),
      soldLength: 3.048,
      source: "ASTM D2729 dimensions (from memory); gravity pipe, not rated for pressure.",
    })),
  },
];
