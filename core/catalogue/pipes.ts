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
  | "pvc-sch80"
  | "pvc-u-pn16"
  | "steel-sch40"
  | "steel-sch80"
  | "copper-l"
  | "pe100-sdr11"
  | "pe100-sdr17"
  | "pe-sidr7"
  | "pe-sidr15"
  | "thin-drain"
  | "garden-hose"
  | "sump-hose"
  | "suction-hose"
  | "lay-flat";

export interface FamilyFacts {
  label: string;
  flexible: boolean;
  /** what roughness and C assume, and where they come from */
  assumption: string;
  /** Young's modulus of the wall in Pa, for surge; absent for hose, whose give softens it. From memory. */
  youngsModulus?: number;
  /** highest water temperature in K at which a full rating is claimed, and the factor above it */
  derating?: readonly (readonly [temperature: number, factor: number])[];
}

const INCH = 0.0254;
const PSI = 6894.757293168361;
const BAR = 1e5;
const celsius = (t: number) => t + 273.15;

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

const PVC = {
  flexible: false,
  assumption: "New smooth pipe, ε 0.0015 mm, C 150 (common practice, no source).",
  youngsModulus: 2.8e9,
} as const;
const STEEL = {
  flexible: false,
  assumption:
    "Commercial steel some years in service, ε 0.045 mm, C 120 (common practice, no source).",
  youngsModulus: 2.0e11,
} as const;
const PE = {
  flexible: false,
  assumption:
    "Smooth wall with weld beads or couplings, ε 0.01 mm, C 145 (common practice, no source).",
  youngsModulus: 0.9e9,
} as const;

export const FAMILIES: Record<PipeFamily, FamilyFacts> = {
  "pvc-sch40": { label: "PVC sch 40", ...PVC, derating: PVC_DERATING },
  "pvc-sch80": { label: "PVC sch 80", ...PVC, derating: PVC_DERATING },
  "pvc-u-pn16": { label: "PVC-U PN 16", ...PVC, derating: PVC_U_DERATING },
  "steel-sch40": { label: "steel sch 40", ...STEEL },
  "steel-sch80": { label: "steel sch 80", ...STEEL },
  "copper-l": {
    label: "copper type L",
    flexible: false,
    assumption: "Drawn tube, ε 0.0015 mm, C 140 (common practice, no source).",
    youngsModulus: 1.17e11,
  },
  "pe100-sdr11": { label: "PE100 SDR 11", ...PE, derating: PE_DERATING },
  "pe100-sdr17": { label: "PE100 SDR 17", ...PE, derating: PE_DERATING },
  "pe-sidr7": { label: "PE SIDR 7", ...PE, derating: PE_INCH_DERATING },
  "pe-sidr15": { label: "PE SIDR 15", ...PE, derating: PE_INCH_DERATING },
  "thin-drain": {
    label: "thin-wall drain",
    flexible: false,
    assumption:
      "Smooth new pipe, ε 0.0015 mm, C 150; made for gravity flow, without a pressure rating (common practice, no source).",
    youngsModulus: 2.8e9,
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

/** Outside diameter and walls of ASME B36.10M schedules 40 and 80, in inches, with PVC ratings in psi. */
const SCHEDULE_80: readonly [name: string, outside: number, wall: number, pvcPsi: number][] = [
  ["1/2 in", 0.84, 0.147, 850],
  ["3/4 in", 1.05, 0.154, 690],
  ["1 in", 1.315, 0.179, 630],
  ["1-1/4 in", 1.66, 0.191, 520],
  ["1-1/2 in", 1.9, 0.2, 470],
  ["2 in", 2.375, 0.218, 400],
  ["2-1/2 in", 2.875, 0.276, 420],
  ["3 in", 3.5, 0.3, 370],
  ["4 in", 4.5, 0.337, 320],
  ["6 in", 6.625, 0.432, 280],
];
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

/** Outside diameter and wall of ASTM B88 type L, in inches. */
const COPPER_L: readonly [name: string, outside: number, wall: number][] = [
  ["1/2 in", 0.625, 0.04],
  ["3/4 in", 0.875, 0.045],
  ["1 in", 1.125, 0.05],
  ["1-1/4 in", 1.375, 0.055],
  ["1-1/2 in", 1.625, 0.06],
  ["2 in", 2.125, 0.07],
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

/** Thin-wall drain pipe of ASTM D2729: outside diameter and wall in inches. */
const THIN_DRAIN: readonly [name: string, outside: number, wall: number][] = [
  ["2 in", 2.25, 0.062],
  ["3 in", 3.25, 0.07],
  ["4 in", 4.215, 0.075],
  ["6 in", 6.275, 0.1],
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
  "pvc-sch80": { roughness: 1.5e-6, hazenWilliamsC: 150 },
  "pvc-u-pn16": { roughness: 1.5e-6, hazenWilliamsC: 150 },
  "steel-sch40": { roughness: 45e-6, hazenWilliamsC: 120 },
  "steel-sch80": { roughness: 45e-6, hazenWilliamsC: 120 },
  "copper-l": { roughness: 1.5e-6, hazenWilliamsC: 140 },
  "pe100-sdr11": { roughness: 10e-6, hazenWilliamsC: 145 },
  "pe100-sdr17": { roughness: 10e-6, hazenWilliamsC: 145 },
  "pe-sidr7": { roughness: 10e-6, hazenWilliamsC: 145 },
  "pe-sidr15": { roughness: 10e-6, hazenWilliamsC: 145 },
  "thin-drain": { roughness: 1.5e-6, hazenWilliamsC: 150 },
  "garden-hose": { roughness: 10e-6, hazenWilliamsC: 140 },
  "sump-hose": { roughness: 250e-6, hazenWilliamsC: 110 },
  "suction-hose": { roughness: 100e-6, hazenWilliamsC: 125 },
  "lay-flat": { roughness: 50e-6, hazenWilliamsC: 135 },
};

/** Invented prices: so much per metre and square metre of bore; what is not named costs as plastic. */
const PRICE_PER_AREA: Partial<Record<PipeFamily, number>> = {
  "pvc-sch80": 2900,
  "steel-sch40": 5200,
  "steel-sch80": 7400,
  "copper-l": 21_000,
  "pe-sidr7": 2600,
  "suction-hose": 4100,
  "lay-flat": 1500,
  "thin-drain": 700,
};

function inventedPrice(family: PipeFamily, bore: number): number {
  const rate = PRICE_PER_AREA[family] ?? 1900;
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

/** A row of pipe made to an outside diameter and a wall, in metres by `unit`. */
function walled(
  family: PipeFamily,
  nominal: string,
  outside: number,
  wall: number,
  unit: number,
  rest: Pick<PipeStock, "pressureRating" | "soldLength" | "source">,
): PipeStock {
  const outsideDiameter = outside * unit;
  return row(family, nominal, outsideDiameter - 2 * wall * unit, { outsideDiameter, ...rest });
}

const MM = 1e-3;
const D1785 =
  "ASTM D1785, dimensions and water pressure ratings at 73 °F for PVC 1120 (from memory).";
const B36 = "ASME B36.10M dimensions (from memory); the joint sets the rating, not the pipe.";

/** Every size in stock, each family from small to large. */
export const PIPE_STOCK: readonly PipeStock[] = [
  ...(["pvc-sch40", "pvc-sch80"] as const).flatMap((family) =>
    (family === "pvc-sch40" ? SCHEDULE_40 : SCHEDULE_80).map(([nominal, outside, wall, psi]) =>
      walled(family, nominal, outside, wall, INCH, {
        pressureRating: psi * PSI,
        soldLength: 6.096,
        source: D1785,
      }),
    ),
  ),
  ...PVC_U_PN16.map(([outside, wall]) =>
    walled("pvc-u-pn16", `${outside} mm`, outside, wall, MM, {
      pressureRating: 16 * BAR,
      soldLength: 6,
      source: "ISO 1452-2, least wall for PN 16 at 20 °C (from memory).",
    }),
  ),
  ...(["steel-sch40", "steel-sch80"] as const).flatMap((family) =>
    (family === "steel-sch40" ? SCHEDULE_40 : SCHEDULE_80).map(([nominal, outside, wall]) =>
      walled(family, nominal, outside, wall, INCH, { soldLength: 6.4, source: B36 }),
    ),
  ),
  ...COPPER_L.map(([nominal, outside, wall]) =>
    walled("copper-l", nominal, outside, wall, INCH, {
      soldLength: 6.096,
      source: "ASTM B88 type L dimensions (from memory); the joint sets the rating, not the tube.",
    }),
  ),
  ...(["pe100-sdr11", "pe100-sdr17"] as const).flatMap((family) =>
    (family === "pe100-sdr11" ? PE100_SDR11 : PE100_SDR17).map(([outside, wall]) =>
      walled(family, `${outside} mm`, outside, wall, MM, {
        pressureRating: (family === "pe100-sdr11" ? 16 : 10) * BAR,
        soldLength: outside <= 63 ? 50 : 6,
        source: `ISO 4427-2, least wall for ${family === "pe100-sdr11" ? "SDR 11, PN 16" : "SDR 17, PN 10"} at 20 °C (from memory).`,
      }),
    ),
  ),
  ...(["pe-sidr7", "pe-sidr15"] as const).flatMap((family) => {
    const ratio = family === "pe-sidr7" ? 7 : 15;
    return PE_SIDR.map(([nominal, bore]) =>
      row(family, nominal, bore * INCH, {
        outsideDiameter: bore * INCH * (1 + 2 / ratio),
        // 2 S / (SIDR + 1) with a design stress S of 800 psi.
        pressureRating: (1600 / (ratio + 1)) * PSI,
        soldLength: 30.48,
        source:
          "ASTM D2239 bores; rating 2S/(SIDR + 1) at 73 °F with S 800 psi for PE 3408 (from memory).",
      }),
    );
  }),
  ...THIN_DRAIN.map(([nominal, outside, wall]) =>
    walled("thin-drain", nominal, outside, wall, INCH, {
      soldLength: 3.048,
      source: "ASTM D2729 dimensions (from memory); gravity pipe, not rated for pressure.",
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
