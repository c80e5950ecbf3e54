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
  | "steel-sch40"
  | "pe100-sdr11"
  | "garden-hose"
  | "sump-hose"
  | "suction-hose"
  | "lay-flat";

export interface FamilyFacts {
  label: string;
  flexible: boolean;
  /** what roughness and C assume, and where they come from */
  assumption: string;
  /** highest water temperature in K at which a full rating is claimed, and the factor above it */
  derating?: readonly (readonly [temperature: number, factor: number])[];
}

const INCH = 0.0254;
const PSI = 6894.757293168361;
const BAR = 1e5;
const celsius = (t: number) => t + 273.15;

export const FAMILIES: Record<PipeFamily, FamilyFacts> = {
  "pvc-sch40": {
    label: "PVC sch 40",
    flexible: false,
    assumption: "New smooth pipe, ε 0.0015 mm, C 150 (common practice, no source).",
    // From memory: de-rating factors customary for PVC pressure pipe in North America.
    derating: [
      [celsius(23), 1],
      [celsius(27), 0.88],
      [celsius(32), 0.75],
      [celsius(38), 0.62],
      [celsius(43), 0.5],
      [celsius(49), 0.4],
      [celsius(54), 0.3],
      [celsius(60), 0.22],
    ],
  },
  "steel-sch40": {
    label: "steel sch 40",
    flexible: false,
    assumption:
      "Commercial steel some years in service, ε 0.045 mm, C 120 (common practice, no source).",
  },
  "pe100-sdr11": {
    label: "PE100 SDR 11",
    flexible: false,
    assumption:
      "Smooth wall with weld beads or couplings, ε 0.01 mm, C 145 (common practice, no source).",
    // From memory: pressure reduction coefficients of ISO 4427 for PE100.
    derating: [
      [celsius(20), 1],
      [celsius(30), 0.87],
      [celsius(40), 0.74],
    ],
  },
  "garden-hose": {
    label: "garden hose",
    flexible: true,
    assumption: "Smooth bore lying straight, ε 0.01 mm, C 140 (common practice, no source).",
  },
  "sump-hose": {
    label: "sump hose",
    flexible: true,
    assumption:
      "Corrugated wall with a ribbed bore, ε 0.25 mm, C 110 (common practice, no source).",
  },
  "suction-hose": {
    label: "suction hose",
    flexible: true,
    assumption: "Spiral-reinforced, slightly ribbed, ε 0.1 mm, C 125 (common practice, no source).",
  },
  "lay-flat": {
    label: "lay-flat hose",
    flexible: true,
    assumption:
      "Lined, straight and unkinked, ε 0.05 mm, C 135; swelling under pressure is left out, which errs on the safe side (common practice, no source).",
  },
};

/** Steps of wall thickness and outside diameter of ASME B36.10M schedule 40, in inches. */
const SCHEDULE_40: readonly [name: string, outside: number, wall: number, pvcPsi: number][] = [
  ["1/2 in", 0.84, 0.109, 600],
  ["3/4 in", 1.05, 0.113, 480],
  ["1 in", 1.315, 0.133, 450],
  ["1-1/4 in", 1.66, 0.14, 370],
  ["1-1/2 in", 1.9, 0.145, 330],
  ["2 in", 2.375, 0.154, 280],
  ["2-1/2 in", 2.875, 0.203, 300],
  ["3 in", 3.5, 0.216, 260],
  ["4 in", 4.5, 0.237, 220],
  ["6 in", 6.625, 0.28, 180],
];

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

const HOSE_SOURCE =
  "Sold by its inside diameter; working pressure common practice, no source: read the hose.";

/** Hose families: nominal name, bore in m, working pressure in bar. */
const HOSES: readonly [
  PipeFamily,
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

const SURFACE: Record<PipeFamily, { roughness: number; hazenWilliamsC: number }> = {
  "pvc-sch40": { roughness: 1.5e-6, hazenWilliamsC: 150 },
  "steel-sch40": { roughness: 45e-6, hazenWilliamsC: 120 },
  "pe100-sdr11": { roughness: 10e-6, hazenWilliamsC: 145 },
  "garden-hose": { roughness: 10e-6, hazenWilliamsC: 140 },
  "sump-hose": { roughness: 250e-6, hazenWilliamsC: 110 },
  "suction-hose": { roughness: 100e-6, hazenWilliamsC: 125 },
  "lay-flat": { roughness: 50e-6, hazenWilliamsC: 135 },
};

/** Invented price per metre: a little for the material, more with the square of the bore. */
function inventedPrice(family: PipeFamily, bore: number): number {
  const perArea = { "steel-sch40": 5200, "suction-hose": 4100, "lay-flat": 1500 } as const;
  const rate = family in perArea ? perArea[family as keyof typeof perArea] : 1900;
  return Math.round(100 * (0.6 + rate * bore * bore)) / 100;
}

function stockId(family: PipeFamily, nominal: string): string {
  return `${family}-${nominal.replace(/[ /]/g, "-").replace("-in", "in").replace("-mm", "mm")}`;
}

function row(
  family: PipeFamily,
  nominal: string,
  bore: number,
  rest: Pick<PipeStock, "outsideDiameter" | "pressureRating" | "soldLength" | "source">,
): PipeStock {
  const id = stockId(family, nominal);
  return {
    id,
    family,
    nominal,
    bore,
    price: inventedPrice(family, bore),
    ...SURFACE[family],
    ...rest,
  };
}

/** Every size in stock, each family from small to large. */
export const PIPE_STOCK: readonly PipeStock[] = [
  ...SCHEDULE_40.map(([nominal, outside, wall, psi]) =>
    row("pvc-sch40", nominal, (outside - 2 * wall) * INCH, {
      outsideDiameter: outside * INCH,
      pressureRating: psi * PSI,
      soldLength: 6.096,
      source:
        "ASTM D1785, dimensions and water pressure ratings at 73 °F for PVC 1120 (from memory).",
    }),
  ),
  ...SCHEDULE_40.map(([nominal, outside, wall]) =>
    row("steel-sch40", nominal, (outside - 2 * wall) * INCH, {
      outsideDiameter: outside * INCH,
      soldLength: 6.4,
      source: "ASME B36.10M dimensions (from memory); the joint sets the rating, not the pipe.",
    }),
  ),
  ...PE100_SDR11.map(([outside, wall]) =>
    row("pe100-sdr11", `${outside} mm`, (outside - 2 * wall) / 1000, {
      outsideDiameter: outside / 1000,
      pressureRating: 16 * BAR,
      soldLength: outside <= 63 ? 50 : 6,
      source: "ISO 4427-2, least wall for SDR 11, PN 16 at 20 °C (from memory).",
    }),
  ),
  ...HOSES.flatMap(([family, soldLength, sizes]) =>
    sizes.map(([nominal, bore, bar]) =>
      row(family, nominal, bore, { pressureRating: bar * BAR, soldLength, source: HOSE_SOURCE }),
    ),
  ),
];

const BY_ID = new Map(PIPE_STOCK.map((stock) => [stock.id, stock]));

export function findPipeStock(id: string): PipeStock | undefined {
  return BY_ID.get(id);
}

/** The next larger size of the same family, if one is stocked. */
export function nextSizeUp(stock: PipeStock): PipeStock | undefined {
  return PIPE_STOCK.filter((s) => s.family === stock.family && s.bore > stock.bore).sort(
    (a, b) => a.bore - b.bore,
  )[0];
}

/**
 * Working pressure in Pa at a water temperature in K. Undefined where no rating is stocked or where
 * the temperature is beyond the de-rating table: then nothing may be promised.
 */
export function pressureRatingAt(stock: PipeStock, temperature: number): number | undefined {
  const { pressureRating } = stock;
  const table = FAMILIES[stock.family].derating;
  if (pressureRating === undefined || !table) return pressureRating;
  const step = table.find(([limit]) => temperature <= limit + 1e-9);
  // Between two rows the lower factor holds: it errs on the safe side.
  return step ? pressureRating * step[1] : undefined;
}
