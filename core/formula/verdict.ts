import { FAMILIES } from "../catalogue/pipes.ts";
import type { Verdict } from "../check/verdict.ts";
import { atmosphericPressure } from "../fluid/atmosphere.ts";
import { waterAt } from "../fluid/water.ts";
import type { PumpOnLine, Running, Solution } from "../hydraulics/solveLine.ts";
import { barometricLimit } from "../hydraulics/suctionLimits.ts";
import { BULK_MODULUS } from "../hydraulics/surge.ts";
import { type Segment, suctionOf } from "../line/compiledLine.ts";
import type { Line } from "../line/path.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { flowWorking, staticWorking } from "./duty.ts";
import { holeWorking, velocityStep } from "./headLoss.ts";
import { onward, step, type Term, term, type WorkStep } from "./step.ts";

const g = term("g", "standard gravity", GRAVITY, "m/s²");

/** How the number a verdict stands on comes about. */
export function verdictWorking(verdict: Verdict, solution: Solution, line: Line): WorkStep[] {
  const { levelCase, itemId, value } = verdict;
  const { running } = solution.cases[levelCase];
  const at = solution.line.segments.findIndex(
    (segment) => segment.itemId === itemId && segment.kind !== "bore-change",
  );
  const segment = solution.line.segments[at];
  const flow = Math.abs(running?.flows.bySegment[at] ?? 0);
  const pumpIndex = Math.max(
    solution.pumps.findIndex((pump) => pump.itemId === itemId),
    0,
  );
  switch (verdict.code) {
    case "suction-velocity":
    case "discharge-velocity":
    case "discharge-velocity-high":
    case "discharge-velocity-low":
    case "check-valve-flutters":
    case "hazen-williams-range":
      return segment ? [velocityStep(flow, segment.bore)] : [];
    case "wanted-flow":
    case "schools-disagree":
    case "beyond-curve":
    case "two-crossings":
      return flowWorking(solution, levelCase);
    case "cannot-lift":
    case "below-curve":
    case "pump-held-shut":
      return [staticWorking(solution, levelCase), shutOff(solution, pumpIndex)];
    case "operating-region":
      return running ? [regionStep(verdict, running, pumpIndex)] : [];
    case "npsh-margin":
    case "suction-lift-barometric":
    case "suction-lift-pump":
    case "suction-boils":
      return running ? suctionSteps(verdict, solution, running, line, pumpIndex) : [];
    case "submergence":
      return segment ? submergenceSteps(segment, flow) : [];
    case "pressure-rating":
    case "pressure-rating-unknown":
      return segment ? pressureSteps(verdict, segment, solution, line) : [];
    case "surge":
      return segment && running ? surgeSteps(segment, flow, solution, running) : [];
    case "loses-prime":
      return [volumeStep(suctionOf(solution.line, solution.line.pumps[pumpIndex]), value)];
    case "drains-back":
      return [
        volumeStep(
          solution.line.segments.filter(({ side }) => side === "discharge"),
          value,
        ),
      ];
    case "hole-wastes":
      return running
        ? solution.line.holes.flatMap((hole) =>
            holeWorking(hole, running.flows.nodeHeads[hole.node] as number),
          )
        : [];
    case "siphons":
      return [staticWorking(solution, levelCase)];
    default:
      return [];
  }
}

function shutOff(solution: Solution, pumpIndex: number): WorkStep {
  const { curve } = solution.pumps[pumpIndex] as PumpOnLine;
  return step(
    {
      title: "Most the pump can make",
      equation: "H_0 = \\max H_{pump}(Q)",
      given: curve.head.y.map((head, i) => term(`H_{${i + 1}}`, "published point", head, "m")),
      result: { symbol: "H_0", name: "greatest published head", unit: "m" },
      source: "Published curve, at the running speed",
    },
    (...heads) => Math.max(...heads),
  );
}

function regionStep({ extra = {} }: Verdict, running: Running, pumpIndex: number): WorkStep {
  const guessed = extra.guessed === 1;
  return step(
    {
      title: "Share of best-efficiency flow",
      equation: "\\frac{Q}{Q_{bep}}",
      given: [
        term("Q", "flow of the pump", running.pumps[pumpIndex]?.duty.flow ?? 0, "m³/s"),
        term("Q_{bep}", "best-efficiency flow", extra.bestFlow ?? 0, "m³/s"),
      ],
      result: { symbol: "Q/Q_{bep}", name: "share", unit: "" },
      source: "ANSI/HI 9.6.3 preferred region, from memory",
      assumed: guessed ? ["No power is published: the middle of the curve stands for it"] : [],
    },
    (q = 0, best = 1) => q / best,
  );
}

function suctionSteps(
  { code }: Verdict,
  solution: Solution,
  running: Running,
  line: Line,
  pumpIndex: number,
): WorkStep[] {
  const { water } = solution;
  const { suction } = running.pumps[pumpIndex] as Running["pumps"][number];
  const { pump } = solution.pumps[pumpIndex] as PumpOnLine;
  const air = step(
    {
      title: "Air pressure",
      equation: "p_a = 101325\\,(1 - 2.25577\\cdot10^{-5} z)^{5.25588}",
      given: [term("z", "altitude", line.site.altitude, "m")],
      result: { symbol: "p_a", name: "air pressure", unit: "Pa" },
      source: "ISO 2533 standard atmosphere",
      assumed: ["Weather moves it by about 3 %"],
    },
    (z = 0) => atmosphericPressure(z),
  );
  const barometric = step(
    {
      title: "What air pressure holds up",
      equation: "H_b = \\frac{p_a - p_v}{\\rho g}",
      given: [
        onward(air),
        term("p_v", "vapour pressure of the water", water.vapourPressure, "Pa"),
        term("\\rho", "density of the water", water.density, "kg/m³"),
        g,
      ],
      result: { symbol: "H_b", name: "barometric limit", unit: "m" },
      source: "IAPWS SR1-86(1992) vapour pressure and density",
    },
    (pa = 0, pv = 0, rho = 1) => (pa - pv) / (rho * GRAVITY),
  );
  const lift = term("h_s", "pump above the water", suction.staticLift, "m");
  const friction = term("h_{fs}", "losses of the suction line", suction.friction, "m");
  const dynamic = step(
    {
      title: "What the pump draws",
      equation: "h = h_s + h_{fs}",
      given: [lift, friction],
      result: { symbol: "h", name: "suction lift, friction counted", unit: "m" },
      source: "Levels of the job, and the ledger",
    },
    (s = 0, f = 0) => s + f,
  );
  const steps = [air, barometric, dynamic];
  if (code === "npsh-margin") {
    steps.push(
      step(
        {
          title: "NPSH available",
          equation: "NPSH_a = H_b - h_s - h_{fs}",
          given: [onward(barometric), lift, friction],
          result: { symbol: "NPSH_a", name: "available at the pump", unit: "m" },
          source: "Definition",
        },
        (b = 0, s = 0, f = 0) => b - s - f,
      ),
    );
  }
  if (code === "suction-lift-pump" && pump.maxSuctionLift !== undefined) {
    steps.push(
      step(
        {
          title: "The pump's own limit, here",
          equation: "h_{max} = h_r - (H_{b,0} - H_b)",
          given: [
            term("h_r", "the maker's limit at sea level", pump.maxSuctionLift, "m"),
            term("H_{b,0}", "at sea level and 15 °C", barometricLimit(0, waterAt(288.15)), "m"),
            onward(barometric),
          ],
          result: { symbol: "h_{max}", name: "limit at this altitude and temperature", unit: "m" },
          source: "Common practice, no source",
        },
        (rated = 0, sea = 0, here = 0) => rated - (sea - here),
      ),
    );
  }
  return steps;
}

function submergenceSteps(segment: Segment, flow: number): WorkStep[] {
  const velocity = velocityStep(flow, segment.bore);
  return [
    velocity,
    step(
      {
        title: "Depth that keeps a vortex away",
        equation: "S = D\\left(1 + \\frac{2.3\\,v}{\\sqrt{gD}}\\right)",
        given: [term("D", "bore of the intake", segment.bore, "m"), onward(velocity), g],
        result: { symbol: "S", name: "least submergence", unit: "m" },
        source: "ANSI/HI 9.8, from memory",
      },
      (d = 1, v = 0) => d * (1 + (2.3 * v) / Math.sqrt(GRAVITY * d)),
    ),
  ];
}

function pressureSteps(
  { value, limit }: Verdict,
  segment: Segment,
  { water }: Solution,
  line: Line,
): WorkStep[] {
  const lowest = Math.min(segment.startElevation, segment.endElevation);
  const shut = value / (water.density * GRAVITY) + lowest;
  const steps = [
    step(
      {
        title: "Pressure with the outlet shut",
        equation: "p = \\rho g\\,(H_{shut} - z)",
        given: [
          term("\\rho", "density of the water", water.density, "kg/m³"),
          g,
          term("H_{shut}", "high water and the most the pumps can add", shut, "m"),
          term("z", "lowest point of this run", lowest, "m"),
        ],
        result: { symbol: "p", name: "pressure in the pipe", unit: "Pa" },
        source: "Hydrostatics",
        assumed: ["High water at the source; the greatest published head"],
      },
      (rho = 0, gravity = 0, head = 0, z = 0) => rho * gravity * (head - z),
    ),
  ];
  const { pressureRating, source } = segment.stock;
  if (limit !== undefined && pressureRating) {
    steps.push(
      step(
        {
          title: "Rating at this water temperature",
          equation: "p_{max} = k_T\\, p_{r}",
          given: [
            term(
              "k_T",
              `factor at ${(line.site.waterTemperature - 273.15).toFixed(0)} °C`,
              limit / pressureRating,
            ),
            term("p_r", "rating at 20 to 23 °C", pressureRating, "Pa"),
          ],
          result: { symbol: "p_{max}", name: "rating here", unit: "Pa" },
          source,
        },
        (k = 0, p = 0) => k * p,
      ),
    );
  }
  return steps;
}

function surgeSteps(
  segment: Segment,
  flow: number,
  { water, line }: Solution,
  running: Running,
): WorkStep[] {
  const { stock } = segment;
  const wall = ((stock.outsideDiameter ?? stock.bore) - stock.bore) / 2;
  const modulus = FAMILIES[stock.family].youngsModulus ?? 0;
  const velocity = velocityStep(flow, segment.bore);
  const rho = term("\\rho", "density of the water", water.density, "kg/m³");
  const speed = step(
    {
      title: "Speed of the pressure wave",
      equation: "a = \\sqrt{\\frac{K/\\rho}{1 + K D/(E e)}}",
      given: [
        term("K", "bulk modulus of water", BULK_MODULUS, "Pa"),
        rho,
        term("D", "real bore", stock.bore, "m"),
        term("E", "Young's modulus of the wall", modulus, "Pa"),
        term("e", "wall", wall, "m"),
      ],
      result: { symbol: "a", name: "wave speed", unit: "m/s" },
      source: "Korteweg; moduli from memory",
    },
    (k = 0, density = 1, d = 0, e = 1, w = 1) => Math.sqrt(k / density / (1 + (k * d) / (e * w))),
  );
  const rise = step(
    {
      title: "Surge",
      equation: "\\Delta p = \\rho\\, a\\, v",
      given: [rho, onward(speed), onward(velocity)],
      result: { symbol: "\\Delta p", name: "rise when stopped at once", unit: "Pa" },
      source: "Joukowsky",
      assumed: ["Stopped faster than the wave runs there and back"],
    },
    (density = 0, a = 0, v = 0) => density * a * v,
  );
  const head = Math.max(
    ...line.pumps.map(({ outlet }) => running.flows.nodeHeads[outlet] as number),
  );
  const lowest = Math.min(segment.startElevation, segment.endElevation);
  const total = step(
    {
      title: "Running pressure and surge together",
      equation: "p = \\rho g (H - z) + \\Delta p",
      given: [
        rho,
        g,
        term("H", "head after the pump", head, "m"),
        term("z", "lowest point of this run", lowest, "m"),
        onward(rise),
      ],
      result: { symbol: "p", name: "most the pipe sees", unit: "Pa" },
      source: "Hydrostatics and Joukowsky",
    },
    (density = 0, gravity = 0, h = 0, z = 0, dp = 0) => density * gravity * (h - z) + dp,
  );
  return [velocity, speed, rise, total];
}

/** Pipe by pipe; of a run that lies partly below the water only the part above it counts. */
function volumeStep(segments: readonly Segment[], volume: number): WorkStep {
  const pipes = segments.filter(({ kind, run }) => kind === "pipe" && run);
  return step(
    {
      title: "Water in the pipes",
      equation: "V = \\sum \\frac{\\pi}{4} D^2 L",
      given: [
        term("V", "pipes above the water, up to the first check valve", volume, "m³"),
        ...pipes
          .slice(0, 8)
          .flatMap(({ bore, run }, i): Term[] => [
            term(`D_${i + 1}`, "real bore", bore, "m"),
            term(`L_${i + 1}`, "length", run?.length ?? 0, "m"),
          ]),
      ],
      result: { symbol: "V", name: "volume", unit: "m³" },
      source: "Geometry",
    },
    (v = 0) => v,
  );
}
