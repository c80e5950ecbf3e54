import { BAR, INCH, PSI, ZERO_CELSIUS } from "../../quantity/constants.ts";
import { type FamilyFacts, type FamilyTable, walled } from "../pipeTypes.ts";

const celsius = (t: number) => t + ZERO_CELSIUS;

// From memory: pressure reduction coefficients of ISO 4427 for PE100.
const PE_DERATING = [
  [celsius(20), 1],
  [celsius(30), 0.87],
  [celsius(40), 0.74],
] as const;
// From memory: customary factors for polyethylene rated at 73 °F.
const PE_INCH_DERATING = [
  [celsius(23), 1],
  [celsius(27), 0.92],
  [celsius(32), 0.81],
  [celsius(38), 0.7],
] as const;

const PE: Omit<FamilyFacts, "label"> = {
  flexible: false,
  surfaces: {
    new: { roughness: 10e-6, hazenWilliamsC: 145 },
    aged: { roughness: 40e-6, hazenWilliamsC: 140 },
  },
  usual: "new",
  assumption:
    "Smooth wall with weld beads or couplings: ε 0.01 mm, C 145 new; ε 0.04 mm, C 140 aged (common practice, no source).",
  youngsModulus: 0.9e9,
};

/** Outside diameter and least wall of ISO 4427 SDR 11, in mm. */
const PE100_SDR11: readonly [outside: number, wall: number][] = [
  [20, 2.0],
  [25, 2.3],
  [32, 3.0],
  [40, 3.7],
  [50, 4.6],
  [63, 5.8],
  [75, 6.8],
  [90, 8.2],
  [110, 10.0],
  [125, 11.4],
  [160, 14.6],
];

/** Outside diameter and least wall of ISO 4427 SDR 17, in mm. */
const PE100_SDR17: readonly [outside: number, wall: number][] = [
  [32, 2.0],
  [40, 2.4],
  [50, 3.0],
  [63, 3.8],
  [75, 4.5],
  [90, 5.4],
  [110, 6.6],
  [125, 7.4],
  [160, 9.5],
];

/** Inside-diameter-controlled polyethylene of ASTM D2239: bores in inches. */
const PE_SIDR: readonly [name: string, bore: number][] = [
  ["1/2 in", 0.622],
  ["3/4 in", 0.824],
  ["1 in", 1.049],
  ["1-1/4 in", 1.38],
  ["1-1/2 in", 1.61],
  ["2 in", 2.067],
];

/**
 * Walls are made between a least and a greatest thickness, and pipe between a least and a greatest outside
 * diameter: the bore is taken in the middle of both. ISO 11922-1 tolerances, from memory.
 */
const meanWall = (least: number) => 1.05 * least + 0.1;
const meanOutside = (nominal: number) => nominal + Math.max(0.3, 0.006 * nominal) / 2;

export const POLYETHYLENE_FAMILIES: readonly FamilyTable[] = [
  ...(["pe100-sdr11", "pe100-sdr17"] as const).map((family): FamilyTable => {
    const [label, sizes, bar] =
      family === "pe100-sdr11"
        ? (["PE100 SDR 11", PE100_SDR11, 16] as const)
        : (["PE100 SDR 17", PE100_SDR17, 10] as const);
    return {
      family,
      facts: { label, ...PE, derating: PE_DERATING },
      sizes: sizes.map(([outside, wall]) => ({
        nominal: `${outside} mm`,
        ...walled(meanOutside(outside), meanWall(wall), 1e-3),
        pressureRating: bar * BAR,
        soldLength: outside <= 63 ? 50 : 6,
        source: `ISO 4427-2, mean bore from the least wall for ${label.slice(6)}, PN ${bar} at 20 °C, and the tolerances (from memory).`,
      })),
    };
  }),
  ...(["pe4710-sidr7", "pe-sidr7", "pe-sidr15"] as const).map((family): FamilyTable => {
    const ratio = family === "pe-sidr15" ? 15 : 7;
    // Design stress of the newer and of the older material, psi.
    const [material, stress] = family === "pe4710-sidr7" ? ["PE 4710", 1000] : ["PE 3408", 800];
    const rating = (2 * Number(stress)) / (ratio + 1);
    return {
      family,
      facts: { label: `PE SIDR ${ratio}, ${rating} psi`, ...PE, derating: PE_INCH_DERATING },
      sizes: PE_SIDR.map(([nominal, bore]) => ({
        nominal,
        bore: bore * INCH,
        outsideDiameter: bore * INCH * (1 + 2 / ratio),
        pressureRating: rating * PSI,
        soldLength: 30.48,
        source: `ASTM D2239 bores; rating 2S/(SIDR + 1) at 73 °F with S ${stress} psi for ${material} (from memory).`,
      })),
    };
  }),
];
