import type { WaterLevel } from "../fluid/levels.ts";
import {
  type Boundary,
  outletLevel,
  pressureHead,
  sourcePressure,
} from "../hydraulics/boundary.ts";
import { NOTHING, type SteadyState } from "../hydraulics/hydraulicModel.ts";
import { settledDuty } from "../hydraulics/operatingPoint.ts";
import { headLoss, resistanceOf } from "../hydraulics/resistance.ts";
import { otherMethods, type Running, type Solution, solveLine } from "../hydraulics/solveLine.ts";
import type { PlacedOutlet, Stretch } from "../line/compiledLine.ts";
import { type Line, levelsOf } from "../line/path.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { delivers, outletPressure } from "../outlet/outlets.ts";
import {
  type Derivation,
  type DerivationStep,
  derive,
  deriveOver,
  formula,
  sign,
  type Term,
  term,
} from "./formula.ts";
import {
  CROSSING,
  DIFFERENCE,
  EFFICIENCY,
  GREATEST_HEAD,
  JOINT_HEAD,
  LAST_FLOW,
  PRESSURE_HEAD,
  SUM_OF_FLOWS,
  SUM_OF_HEADS,
  SUM_OF_POWERS,
  WATER_POWER,
} from "./laws.ts";
import { holeStep, lossDerivation } from "./losses.ts";

/** A number of the duty a person may ask about. */
export type Subject =
  | {
      kind: "flow" | "delivered" | "outlet" | "lost" | "head" | "static" | "power" | "efficiency";
      at: WaterLevel;
      /** which pump or outlet, for the flow of one of several */
      itemId?: string;
    }
  /** the flow at normal water by the other school of friction, or of fittings */
  | { kind: "other-friction" | "other-fittings" }
  /** an entry of the normal level's ledger */
  | { kind: "ledger"; index: number };

/** How a number of the duty comes about: the last step ends with the number that is shown. */
export function dutyDerivation(subject: Subject, solution: Solution, line: Line): Derivation {
  switch (subject.kind) {
    case "flow":
      return flowDerivation(solution, subject.at, subject.itemId);
    case "outlet":
      return outletDerivation(solution, subject.at, subject.itemId);
    case "lost":
      return lostDerivation(solution, subject.at);
    case "delivered":
      return deliveredDerivation(solution, subject.at);
    case "head":
      return headDerivation(solution, subject.at);
    case "static":
      return staticDerivation(solution, subject.at);
    case "power":
      return powerDerivation(solution, subject.at);
    case "efficiency":
      return efficiencyDerivation(solution, subject.at);
    case "other-friction":
      return otherDerivation("friction", solution, line);
    case "other-fittings":
      return otherDerivation("fittings", solution, line);
    case "ledger":
      return ledgerDerivation(subject.index, solution);
  }
}

/** How high the water must be raised before any runs. */
export function staticDerivation(solution: Solution, at: WaterLevel): Derivation {
  const { line, boundaries, water } = solution;
  const { source, outlets } = boundaries[at];
  const least = outlets.indexOf(Math.min(...outlets));
  const { item, elevation } = line.outlets[least] as PlacedOutlet;
  const held = pressureStep(outletPressure(item.outlet), water.density, "pressure at the outlet");
  const pushed = pressureStep(sourcePressure(line.source), water.density, "pressure at the source");
  const heads: Term[] = [
    term(
      sign("z_2", "outlet, or the surface it empties into", "length"),
      outletLevel(item.outlet, elevation, at),
    ),
    ...held.map(({ result }) => result),
    term(sign("-z_1", "level of the source", "length"), -(source - pushedHead(solution))),
    ...pushed.map(({ result }) => ({ ...result, symbol: "-h_1", value: -result.value })),
  ];
  return [
    ...held,
    ...pushed,
    deriveOver({ ...SUM_OF_HEADS, ...STATIC }, heads, {
      assumed:
        outlets.length > 1
          ? ["Of several outlets the one that asks for least begins to run first"]
          : [],
    }),
  ];
}

const STATIC = {
  title: "Static head",
  equation: "H_{st} = z_2 + \\frac{p_2}{\\rho g} - z_1 - \\frac{p_1}{\\rho g}",
  result: sign("H_{st}", "static head", "head"),
  source: "Levels of the job; pressure counted as metres of water",
};

function pushedHead({ line, water }: Solution): number {
  return pressureHead(sourcePressure(line.source), water);
}

function pressureStep(pressure: number, density: number, name: string): Derivation {
  return pressure === 0 ? [] : [derive(PRESSURE_HEAD, [pressure, density], { names: { 0: name } })];
}

/** The flow the pumps move, or one of them; it ends with that flow. */
export function flowDerivation(solution: Solution, at: WaterLevel, itemId?: string): Derivation {
  const { running } = solution.cases[at];
  if (!running) return staticDerivation(solution, at);
  if (solution.pumps.length === 0) return deliveredDerivation(solution, at);
  const each = running.pumps.flatMap((pump, i) =>
    itemId === undefined || pump.itemId === itemId ? [pumpFlow(solution, at, running, i)] : [],
  );
  const own = each.filter((steps) => steps.length > 0);
  if (own.length === 1 && own[0]) return own[0];
  const parts = own.flatMap((steps, i) => {
    const last = steps.at(-1) as DerivationStep;
    return solution.line.pumps[i]?.fed ? [] : [last.result];
  });
  return [...own.flat(), deriveOver(SUM_OF_FLOWS, parts, { title: "Drawn from the source" })];
}

/** Where the curve of one pump meets what the line asks of it, the others running. */
function pumpFlow(solution: Solution, at: WaterLevel, running: Running, i: number): Derivation {
  const { curve, pump } = solution.pumps[i] as Solution["pumps"][number];
  const outcome = solution.cases[at].outcomes[i];
  const { duty } = running.pumps[i] as Running["pumps"][number];
  if (outcome?.kind === "beyond-curve") {
    const points = curve.head.x.map((flow, n) =>
      term(sign(`Q_{${n + 1}}`, "published point", "flow"), flow),
    );
    return [
      deriveOver(LAST_FLOW, points, {
        assumed: ["The pump has head to spare here: the true flow is more"],
      }),
    ];
  }
  if (!outcome || !settledDuty(outcome) || duty.flow <= 0) {
    return [
      deriveOver(SUM_OF_FLOWS, [term(sign("Q", "passed by this pump", "flow"), duty.flow)], {
        assumed: ["The others hold its check valve shut"],
      }),
    ];
  }
  const { boundary, states } = solution.cases[at];
  const surplus = (flow: number) => {
    const imposed = solution.model.imposed(boundary, flow, states, i);
    return imposed.kind === "steady" ? evaluate(curve.head, flow) - imposed.head : Number.NaN;
  };
  return [
    crossing(
      surplus,
      duty.flow,
      {
        ...(solution.pumps.length > 1 && { title: `Where pump ${i + 1} and the line meet` }),
        assumed: [
          `Published points joined by a monotone cubic (Fritsch, Carlson 1980); tolerance grade ${pump.tolerance}`,
        ],
        ...(!solution.line.single && { source: BALANCED }),
      },
      curve.lastFlow,
    ),
  ];
}

/** Said of what only a whole network gives. */
const BALANCED =
  "Every way and pump of the network balanced together: global gradient method, E. Todini and S. Pilati (1988)";

/** Where what is left over turns from more than nothing to less, on either side of a flow that was found. */
function crossing(
  surplus: (flow: number) => number,
  flow: number,
  notes: Parameters<typeof derive>[2],
  most = Number.POSITIVE_INFINITY,
): DerivationStep {
  const below = flow * (1 - GAP);
  const above = Math.min(flow * (1 + GAP), most);
  return derive(CROSSING, [below, surplus(below), above, surplus(above)], notes);
}

/** fraction of the flow on either side of a crossing */
const GAP = 2e-5;

/** What leaves at one outlet, or at the only one. */
export function outletDerivation(solution: Solution, at: WaterLevel, itemId?: string): Derivation {
  const { running, boundary } = solution.cases[at];
  if (!running) return staticDerivation(solution, at);
  if (solution.line.single) return deliveredDerivation(solution, at);
  const { outlets } = solution.line;
  const index = Math.max(
    outlets.findIndex(({ item }) => item.id === itemId),
    0,
  );
  return [outletStep(solution, boundary, running.state, index)];
}

/** The flow at which an outlet's own way takes all the head there is between where it begins and the outlet. */
function outletStep(
  { line, model }: Solution,
  boundary: Boundary,
  { nodeHeads, byOutlet }: SteadyState,
  index: number,
): DerivationStep {
  const { node } = line.outlets[index] as PlacedOutlet;
  const flow = byOutlet[index] as number;
  const way = line.stretches.find(({ to }) => to === node) as Stretch;
  const from = nodeHeads[way.from] as number;
  const title = "Where this outlet's way takes all the head there is";
  if (Math.abs(flow) <= NOTHING) {
    return deriveOver(SUM_OF_FLOWS, [term(sign("Q", "reaches this outlet", "flow"), flow)], {
      title: "Nothing runs",
      assumed: ["The head where its way begins does not reach it, or a valve holds it"],
    });
  }
  const resistance = resistanceOf(line.segments.slice(way.start, way.end), model.context);
  const held = from - (boundary.outlets[index] as number);
  const spare = (q: number) => held - headLoss(resistance, q, model.context.friction);
  const left = "head there is, less what its way takes";
  return crossing(spare, flow, { title, names: { 1: left, 3: left }, source: BALANCED });
}

/** What reaches every outlet that is meant to have it, in a state; it ends with the sum. */
function outletsDerivation(solution: Solution, boundary: Boundary, state: SteadyState): Derivation {
  const each = solution.line.outlets.flatMap(({ item }, i) =>
    delivers(item.outlet) ? [outletStep(solution, boundary, state, i)] : [],
  );
  const [only, ...others] = each;
  if (only && others.length === 0) return [only];
  const flows = each.map(({ result }, i) => ({ ...result, symbol: `Q_${i + 1}` }));
  return [...each, deriveOver(SUM_OF_FLOWS, flows, { title: "At all outlets together" })];
}

/** What all holes let go together. */
export function lostDerivation({ line, cases }: Solution, at: WaterLevel): Derivation {
  const { running, boundary } = cases[at];
  if (!running || line.holes.length === 0) return [];
  const each = line.holes.map((hole) =>
    holeStep(hole, running.state.nodeHeads[hole.node] as number, boundary),
  );
  if (each.length === 1) return each;
  const all = each.map(({ result }, i) => ({ ...result, symbol: `q_${i + 1}` }));
  return [...each, deriveOver(SUM_OF_FLOWS, all, { title: "All holes together" })];
}

/** What reaches the outlets. */
export function deliveredDerivation(solution: Solution, at: WaterLevel): Derivation {
  const { running, boundary } = solution.cases[at];
  if (!running) return staticDerivation(solution, at);
  const { line, pumps } = solution;
  if (!line.single) return outletsDerivation(solution, boundary, running.state);
  return pumps.length > 0
    ? flowDerivation(solution, at)
    : drivenDerivation(solution, boundary, running.state);
}

/** What runs with no pump at work, where the fall or the source's own pressure drives it. */
export function drivenDerivation(
  solution: Solution,
  boundary: Boundary,
  state: SteadyState,
): Derivation {
  const { line, model } = solution;
  if (!line.single) return outletsDerivation(solution, boundary, state);
  const spare = (q: number) => {
    const imposed = model.imposed(boundary, q);
    return imposed.kind === "steady" ? -imposed.head : Number.NaN;
  };
  const left = "head the source has over the line's";
  const title = "Where the line takes all the source gives";
  return [crossing(spare, state.delivered, { title, names: { 1: left, 3: left } })];
}

/** The head the pumps make; it ends with the total dynamic head. */
export function headDerivation(solution: Solution, at: WaterLevel): Derivation {
  const { running } = solution.cases[at];
  if (!running) return staticDerivation(solution, at);
  if (solution.line.single && solution.pumps.length === 1) {
    const curve = solution.pumps[0]?.curve;
    const outcome = solution.cases[at].outcomes[0];
    if (curve && outcome?.kind === "beyond-curve") {
      return [
        deriveOver(
          {
            ...GREATEST_HEAD,
            title: "Head at the end of the published curve",
            equation: "H",
            of: (head = 0) => head,
          },
          [term(sign("H", "last published point", "head"), evaluate(curve.head, curve.lastFlow))],
        ),
      ];
    }
    const still = staticDerivation(solution, at);
    const lift = (still.at(-1) as DerivationStep).result;
    const losses = running.ledger.flatMap((entry): Term[] =>
      entry.segment === undefined ? [] : [term(sign("h", "of the ledger", "head"), entry.head)],
    );
    const spent = deriveOver(SUM_OF_HEADS, losses, { title: "Everything the line takes" });
    return [
      ...still,
      spent,
      deriveOver({ ...SUM_OF_HEADS, ...TOTAL }, [lift, { ...spent.result, symbol: "\\sum h" }]),
    ];
  }
  const pairs = running.pumps.flatMap(({ duty }, i): Term[] => [
    term(sign(`Q_${i + 1}`, `flow of pump ${i + 1}`, "flow"), duty.flow),
    term(sign(`H_${i + 1}`, `head of pump ${i + 1}`, "head"), duty.head),
  ]);
  return [
    deriveOver(JOINT_HEAD, [
      term(sign("Q", "flow drawn from the source", "flow"), running.duty.flow),
      ...pairs,
    ]),
  ];
}

const TOTAL = {
  title: "What the line asks for",
  equation: "H_{line} = H_{st} + \\sum h",
  result: sign("H_{line}", "total dynamic head", "head"),
  source: "Energy from the source to the outlet",
};

/** Power given to the water, and taken by the pumps. */
export function powerDerivation(solution: Solution, at: WaterLevel): Derivation {
  const { running } = solution.cases[at];
  if (!running) return staticDerivation(solution, at);
  const { flow, head } = running.duty;
  const given = derive(WATER_POWER, [solution.water.density, flow, head]);
  if (running.power === undefined) return [given];
  const each = running.pumps.map(({ power = 0 }, i) =>
    term(sign(`P_${i + 1}`, "published power at this flow, for this water", "power"), power),
  );
  return [given, deriveOver(SUM_OF_POWERS, each)];
}

export function efficiencyDerivation(solution: Solution, at: WaterLevel): Derivation {
  const steps = powerDerivation(solution, at);
  const [water, taken] = steps;
  if (!water || !taken) return steps;
  return [...steps, derive(EFFICIENCY, [water.result.value, taken.result.value])];
}

/** The most a pump can make, from its published points. */
export function shutOffStep(solution: Solution, pump: number): DerivationStep {
  const { curve } = solution.pumps[pump] as Solution["pumps"][number];
  return deriveOver(
    GREATEST_HEAD,
    curve.head.y.map((head, i) => term(sign(`H_{${i + 1}}`, "published point", "head"), head)),
  );
}

/** The same line solved once more by the other school. */
function otherDerivation(of: "friction" | "fittings", { pumps }: Solution, line: Line): Derivation {
  const method = { ...line.method, [of]: otherMethods(line.method)[of] };
  const result = solveLine(
    { ...line, method },
    pumps.map(({ pump }) => pump),
  );
  return result.kind === "solved" ? flowDerivation(result.solution, "normal") : [];
}

function ledgerDerivation(index: number, solution: Solution): Derivation {
  const { line, water, model, cases } = solution;
  const { running, boundary } = cases.normal;
  const entry = running?.ledger[index];
  if (!running || !entry) return staticDerivation(solution, "normal");
  const outlet = line.outlets.find(({ item }) => item.id === entry.itemId) ?? line.outlets[0];
  switch (entry.kind) {
    case "lift":
      return [
        derive(LIFT, [
          outlet ? outletLevel(outlet.item.outlet, outlet.elevation, "normal") : 0,
          levelsOf(line.source).normal,
        ]),
      ];
    case "outlet-pressure":
      return pressureStep(
        outlet ? outletPressure(outlet.item.outlet) : 0,
        water.density,
        "pressure at the outlet",
      );
    case "source-pressure":
      return pressureStep(
        -sourcePressure(line.source),
        water.density,
        "pressure at the source, a gain",
      );
    case "hole": {
      const hole = line.holes.find(({ itemId }) => itemId === entry.itemId);
      if (!hole) return [];
      return [holeStep(hole, running.state.nodeHeads[hole.node] as number, boundary)];
    }
    default: {
      const segment = line.segments[entry.segment ?? -1];
      return segment ? lossDerivation(segment, entry.flow, model.context) : [];
    }
  }
}

const LIFT = formula({
  ...DIFFERENCE,
  title: "Lift",
  equation: "h = z_2 - z_1",
  given: [
    sign("z_2", "outlet, or the surface it empties into", "length"),
    sign("z_1", "water at the source", "length"),
  ],
  result: sign("h", "lift", "head"),
});
