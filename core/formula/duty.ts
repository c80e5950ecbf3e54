import {
  outletLevel,
  outletPressure,
  pressureHead,
  sourcePressure,
} from "../hydraulics/boundary.ts";
import { NOTHING } from "../hydraulics/hydraulicModel.ts";
import { settledDuty } from "../hydraulics/operatingPoint.ts";
import { otherSchools, type Running, type Solution, solveLine } from "../hydraulics/solveLine.ts";
import type { PlacedOutlet } from "../line/compiledLine.ts";
import { type Line, levelsOf, type WaterLevel } from "../line/path.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
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
  if (solution.pumps.length === 0) return outletDerivation(solution, at);
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
  const boundary = solution.boundaries[at];
  const surplus = (flow: number) => {
    const imposed = solution.model.imposed(boundary, flow, solution.states, i);
    return imposed.kind === "steady" ? evaluate(curve.head, flow) - imposed.head : Number.NaN;
  };
  const gap = 1e-4 * duty.flow;
  const below = duty.flow - gap;
  const above = Math.min(duty.flow + gap, curve.lastFlow);
  if (!outcome || !settledDuty(outcome) || duty.flow <= 0) {
    return [
      deriveOver(SUM_OF_FLOWS, [term(sign("Q", "passed by this pump", "flow"), duty.flow)], {
        assumed: ["The others hold its check valve shut"],
      }),
    ];
  }
  return [
    derive(CROSSING, [below, surplus(below), above, surplus(above)], {
      assumed: [
        `Published points joined by a monotone cubic (Fritsch, Carlson 1980); tolerance grade ${pump.tolerance}`,
        ...(solution.line.single
          ? []
          : ["The network balanced at each flow: global gradient method, Todini and Pilati 1988"]),
      ],
    }),
  ];
}

/** What leaves at one outlet, or at the only one: the pumps' flow less everything else that leaves. */
export function outletDerivation(solution: Solution, at: WaterLevel, itemId?: string): Derivation {
  const { running } = solution.cases[at];
  if (!running) return staticDerivation(solution, at);
  const { line, pumps } = solution;
  const { state } = running;
  const index = Math.max(
    line.outlets.findIndex(({ item }) => item.id === itemId),
    0,
  );
  if (pumps.length === 0) {
    const flow = state.byOutlet[index] as number;
    const boundary = solution.boundaries[at];
    const spare = (q: number) => {
      const imposed = solution.model.imposed(boundary, q);
      return imposed.kind === "steady" ? -imposed.head : Number.NaN;
    };
    const [below, above] = [flow * (1 - 1e-4), flow * (1 + 1e-4)];
    const names = {
      1: "head the source has over the line's",
      3: "head the source has over the line's",
    };
    const title = "Where the line takes all the source gives";
    return [derive(CROSSING, [below, spare(below), above, spare(above)], { title, names })];
  }
  const all = flowDerivation(solution, at);
  const lost = lostDerivation(solution, at);
  const others = state.byOutlet.flatMap((flow, i) =>
    i === index ? [] : [term(sign(`-Q_${i + 1}`, "another outlet", "flow"), -flow)],
  );
  const drawn = (all.at(-1) as DerivationStep).result;
  const holes = lost.map(({ result }) => result).slice(-1);
  const past = pastPumps(solution, running);
  if (others.length + holes.length + past.length === 0) return all;
  return [
    ...all,
    ...lost,
    deriveOver(
      SUM_OF_FLOWS,
      [drawn, ...holes.map((hole) => ({ ...hole, symbol: "-q", value: -hole.value })), ...others],
      { title: "What is left for this outlet" },
    ),
  ];
}

/** What runs between source and line past the pumps: none, but where a way without a pump leads there. */
function pastPumps({ line }: Solution, { state }: Running): Term[] {
  let net = 0;
  for (const [i, { from, to }] of line.stretches.entries()) {
    const flow = state.byStretch[i] as number;
    if (from === 0) net += flow;
    if (to === 0) net -= flow;
  }
  for (const [i, { inlet, fed }] of line.pumps.entries()) {
    const flow = state.byPump[i] as number;
    if (inlet === 0) net += flow;
    if (!fed) net -= flow;
  }
  const own = sign("Q_0", "runs past the pumps, back to the source where negative", "flow");
  return Math.abs(net) > NOTHING ? [term(own, net)] : [];
}

/** What all holes let go together. */
export function lostDerivation({ line, cases }: Solution, at: WaterLevel): Derivation {
  const { running } = cases[at];
  if (!running || line.holes.length === 0) return [];
  const each = line.holes.map((hole) =>
    holeStep(hole, running.state.nodeHeads[hole.node] as number),
  );
  if (each.length === 1) return each;
  const all = each.map(({ result }, i) => ({ ...result, symbol: `q_${i + 1}` }));
  return [...each, deriveOver(SUM_OF_FLOWS, all, { title: "All holes together" })];
}

/** What reaches the outlets: the pumps' flow less what holes and open drains let go. */
export function deliveredDerivation(solution: Solution, at: WaterLevel): Derivation {
  const { running } = solution.cases[at];
  const all = flowDerivation(solution, at);
  const lost = lostDerivation(solution, at);
  if (!running) return all;
  const spilled = solution.line.outlets.flatMap(({ item }, i) => {
    const flow = running.state.byOutlet[i] as number;
    return item.outlet.type === "drain"
      ? [term(sign("-q_d", "comes up at a drain", "flow"), -flow)]
      : [];
  });
  const hole = lost.at(-1)?.result;
  const past = pastPumps(solution, running);
  if (!hole && spilled.length + past.length === 0) return all;
  const drawn = (all.at(-1) as DerivationStep).result;
  return [
    ...all,
    ...lost,
    deriveOver(
      SUM_OF_FLOWS,
      [
        drawn,
        ...past,
        ...(hole ? [{ ...hole, symbol: "-q", value: -hole.value }] : []),
        ...spilled,
      ],
      { title: "What is left for the outlets" },
    ),
  ];
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
function otherDerivation(
  school: "friction" | "fittings",
  { pumps }: Solution,
  line: Line,
): Derivation {
  const method = { ...line.method, [school]: otherSchools(line.method)[school] };
  const result = solveLine(
    { ...line, method },
    pumps.map(({ pump }) => pump),
  );
  return result.kind === "solved" ? flowDerivation(result.solution, "normal") : [];
}

function ledgerDerivation(index: number, solution: Solution): Derivation {
  const { line, water, model, cases } = solution;
  const { running } = cases.normal;
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
      return hole ? [holeStep(hole, running.state.nodeHeads[hole.node] as number)] : [];
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
