import { BAR, INCH } from "../../quantity/constants.ts";
import type { FamilyFacts, FamilyTable, PipeFamily } from "../pipeTypes.ts";

type HoseFamily = Extract<PipeFamily, "garden-hose" | "sump-hose" | "suction-hose" | "lay-flat">;

const FACTS: Record<HoseFamily, FamilyFacts> = {
  "garden-hose": {
    label: "garden hose",
    flexible: true,
    surfaces: {
      new: { roughness: 10e-6, hazenWilliamsC: 140 },
      aged: { roughness: 50e-6, hazenWilliamsC: 130 },
    },
    usual: "new",
    assumption:
      "Smooth bore lying straight: ε 0.01 mm, C 140; ε 0.05 mm, C 130 aged. Coils and kinks cost extra (common practice, no source).",
  },
  "sump-hose": {
    label: "sump hose",
    flexible: true,
    surfaces: {
      new: { roughness: 500e-6, hazenWilliamsC: 99 },
      aged: { roughness: 800e-6, hazenWilliamsC: 92 },
    },
    usual: "new",
    assumption:
      "Ribbed inside and out: about twice the friction of a smooth bore, ε 0.5 mm, C 99; ε 0.8 mm, C 92 aged (common practice, no source).",
  },
  "suction-hose": {
    label: "suction hose",
    flexible: true,
    surfaces: {
      new: { roughness: 300e-6, hazenWilliamsC: 112 },
      aged: { roughness: 500e-6, hazenWilliamsC: 104 },
    },
    usual: "new",
    assumption:
      "Held open by a spiral that shows inside: ε 0.3 mm, C 112; ε 0.5 mm, C 104 aged (common practice, no source).",
  },
  "lay-flat": {
    label: "lay-flat hose",
    flexible: true,
    surfaces: {
      new: { roughness: 50e-6, hazenWilliamsC: 137 },
      aged: { roughness: 100e-6, hazenWilliamsC: 130 },
    },
    usual: "new",
    assumption:
      "Lined, straight and unkinked: ε 0.05 mm, C 137; ε 0.1 mm, C 130 aged; swelling under pressure is left out, which errs on the safe side (common practice, no source).",
  },
};

const HOSE_SOURCE =
  "Sold by its inside diameter; working pressure common practice, no source: read the hose.";

/** Hose families: nominal name, bore in m, working pressure in bar. */
const HOSES: readonly [
  HoseFamily,
  soldLength: number,
  readonly [name: string, bore: number, bar: number][],
][] = [
  [
    "garden-hose",
    25,
    [
      ["1/2 in", 0.5 * INCH, 8],
      ["5/8 in", 0.625 * INCH, 8],
      ["3/4 in", 0.75 * INCH, 8],
      ["12 mm", 0.012, 8],
      ["18 mm", 0.018, 8],
      ["25 mm", 0.025, 8],
    ],
  ],
  [
    "sump-hose",
    6.096,
    [
      ["1-1/4 in", 1.25 * INCH, 2],
      ["1-1/2 in", 1.5 * INCH, 2],
      ["2 in", 2 * INCH, 2],
    ],
  ],
  [
    "suction-hose",
    6.096,
    [
      ["1 in", 1 * INCH, 4],
      ["1-1/4 in", 1.25 * INCH, 4],
      ["1-1/2 in", 1.5 * INCH, 4],
      ["2 in", 2 * INCH, 4],
      ["3 in", 3 * INCH, 4],
      ["4 in", 4 * INCH, 3],
    ],
  ],
  [
    "lay-flat",
    30,
    [
      ["1-1/2 in", 1.5 * INCH, 10],
      ["2 in", 2 * INCH, 10],
      ["2-1/2 in", 2.5 * INCH, 10],
      ["3 in", 3 * INCH, 8],
      ["4 in", 4 * INCH, 8],
      ["6 in", 6 * INCH, 6],
    ],
  ],
];

export const HOSE_FAMILIES: readonly FamilyTable[] = HOSES.map(([family, soldLength, sizes]) => ({
  family,
  facts: FACTS[family],
  sizes: sizes.map(([nominal, bore, bar]) => ({
    nominal,
    bore,
    pressureRating: bar * BAR,
    soldLength,
    source: HOSE_SOURCE,
  })),
}));
