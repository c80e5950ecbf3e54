import { endHead, sourceHead } from "../hydraulics/lineLoss.ts";
import { settledDuty } from "../hydraulics/operatingPoint.ts";
import type { PumpAtWork, PumpOnLine, Running, Solution } from "../hydraulics/solveLine.ts";
import type { LevelCase } from "../line/path.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { holeWorking } from "./headLoss.ts";
import { onward, step, type Term, term, type WorkStep } from "./step.ts";

/** How high the water must be raised before any runs, in a case. */
export function staticWorking({ line, water }: Solution, levelCase: LevelCase): WorkStep {
  const ends = line.outlets.map((outlet) => endHead(outlet, levelCase, water));
  return step(
    {
      title: "Static head",
      equation: "H_{st} = z_2 - z_1",
      given: [
        term("z_2", "head the outlet asks for at no flow", Math.min(...ends), "m"),
        term("z_1", "level of the source", sourceHead(line.source, levelCase, water), "m"),
      ],
      result: { symbol: "H_{st}", name: "static head", unit: "m" },
      source: "Levels of the job; pressure counted as metres of water",
      assumed:
        ends.length > 1
          ? ["Of several outlets the one that asks for least begins to run first"]
          : [],
    },
    (z2 = 0, z1 = 0) => z2 - z1,
  );
}

/** Where the pump's curve and the line meet; it ends with the flow. */
export function flowWorking(solution: Solution, levelCase: LevelCase): WorkStep[] {
  const { outcomes, running } = solution.cases[levelCase];
  if (!running) return [staticWorking(solution, levelCase)];
  const pumps = running.pumps.map((atWork, i) =>
    curveStep(
      solution.pumps[i] as PumpOnLine,
      atWork,
      running.pumps.length > 1 ? i + 1 : undefined,
    ),
  );
  if (!solution.line.single) return [...pumps, balanceStep(solution, running)];
  const outcome = outcomes[0];
  const settled = outcome && settledDuty(outcome) !== undefined;
  const asks = headStep(solution, running, levelCase);
  return [
    asks,
    ...pumps,
    step(
      {
        title: settled ? "They meet" : "End of the published curve",
        equation: "H_{pump}(Q) = H_{line}(Q)",
        given: [
          term("Q", "flow at which they were held together", running.duty.flow, "m³/s"),
          ...pumps.map(onward),
          onward(asks),
        ],
        result: { symbol: "Q", name: "flow", unit: "m³/s" },
        source: "Root by Brent's bracketing; every crossing of the two curves is looked for",
        assumed: settled ? [] : ["The pump has head to spare here: the true flow is more"],
      },
      (q = 0) => q,
    ),
  ];
}

/** What all holes let go together. */
export function lostWorking({ line, cases }: Solution, levelCase: LevelCase): WorkStep[] {
  const { running } = cases[levelCase];
  if (!running || line.holes.length === 0) return [];
  const each = line.holes.flatMap((hole) =>
    holeWorking(hole, running.flows.nodeHeads[hole.node] as number),
  );
  const all = step(
    {
      title: "All holes together",
      equation: "q = \\sum q_i",
      given: each.map(onward),
      result: { symbol: "q", name: "lost through holes", unit: "m³/s" },
      source: "Sum",
    },
    (...flows) => flows.reduce((sum, flow) => sum + flow, 0),
  );
  return [...each, all];
}

/** What reaches the outlets: the pumps' flow less what holes let go. */
export function deliveredWorking(solution: Solution, levelCase: LevelCase): WorkStep[] {
  const { running } = solution.cases[levelCase];
  const lost = lostWorking(solution, levelCase);
  const holes = lost.at(-1);
  if (!running || !holes) return flowWorking(solution, levelCase);
  const left = step(
    {
      title: "What is left for the outlets",
      equation: "Q_{out} = Q - q",
      given: [term("Q", "flow the pumps draw", running.duty.flow, "m³/s"), onward(holes)],
      result: { symbol: "Q_{out}", name: "flow at the outlets", unit: "m³/s" },
      source: "Mass balance",
    },
    (q = 0, gone = 0) => q - gone,
  );
  return [...lost, left];
}

/** The head the pumps make; it ends with the total dynamic head. */
export function headWorking(solution: Solution, levelCase: LevelCase): WorkStep[] {
  const { running } = solution.cases[levelCase];
  const still = staticWorking(solution, levelCase);
  if (!running) return [still];
  if (solution.line.single) return [still, headStep(solution, running, levelCase)];
  const given = running.pumps.flatMap(({ duty }, i): Term[] => [
    term(`Q_${i + 1}`, `flow of pump ${i + 1}`, duty.flow, "m³/s"),
    term(`H_${i + 1}`, `head of pump ${i + 1}`, duty.head, "m"),
  ]);
  return [
    balanceStep(solution, running),
    step(
      {
        title: "Total dynamic head",
        equation: "H = \\frac{\\sum Q_i H_i}{Q}",
        given: [term("Q", "flow drawn from the source", running.duty.flow, "m³/s"), ...given],
        result: { symbol: "H", name: "total head", unit: "m" },
        source: "The head that gives the whole flow the power the pumps give it",
      },
      (q = 0, ...pairs) => {
        let power = 0;
        for (let i = 0; i < pairs.length; i += 2) {
          power += (pairs[i] as number) * (pairs[i + 1] as number);
        }
        return q > 0 ? power / q : 0;
      },
    ),
  ];
}

function headStep(solution: Solution, running: Running, levelCase: LevelCase): WorkStep {
  const lift = onward(staticWorking(solution, levelCase));
  const losses = running.ledger.flatMap(({ kind, head }) =>
    kind === "lift" || kind === "outlet-pressure" || kind === "source-pressure" || kind === "hole"
      ? []
      : [head],
  );
  const sum = losses.reduce((total, head) => total + head, 0);
  return step(
    {
      title: "What the line asks for",
      equation: "H_{line} = H_{st} + \\sum h",
      given: [lift, term("\\sum h", `${losses.length} losses of the ledger`, sum, "m")],
      result: { symbol: "H_{line}", name: "total dynamic head", unit: "m" },
      source: "Energy from the source to the outlet",
    },
    (st = 0, h = 0) => st + h,
  );
}

function curveStep(
  { pump, curve }: PumpOnLine,
  { duty }: PumpAtWork,
  number: number | undefined,
): WorkStep {
  const { x, y } = curve.head;
  const after = Math.max(
    x.findIndex((flow) => flow >= duty.flow),
    1,
  );
  const i = after < 1 ? x.length - 1 : after;
  const held = Math.min(Math.max(duty.flow, curve.firstFlow), curve.lastFlow);
  return step(
    {
      title: number === undefined ? "What the pump gives" : `What pump ${number} gives`,
      equation: "H_{pump}(Q):\\ \\text{monotone cubic through the published points}",
      given: [
        term("Q", "flow", held, "m³/s"),
        term("Q_a,\\ H_a", "point before: flow", x[i - 1] as number, "m³/s"),
        term("", "point before: head", y[i - 1] as number, "m"),
        term("Q_b,\\ H_b", "point after: flow", x[i] as number, "m³/s"),
        term("", "point after: head", y[i] as number, "m"),
      ],
      result: { symbol: "H_{pump}", name: "head", unit: "m" },
      source: "F. N. Fritsch, R. E. Carlson, SIAM J. Numer. Anal. 17 (1980) 238–246",
      assumed: [`Tolerance grade ${pump.tolerance}; nothing is taken past the published points`],
    },
    (q = 0) => evaluate(curve.head, q),
  );
}

/** What a balanced network leaves over, counted anew from its own flows and heads. */
function balanceStep({ line }: Solution, { flows, duty }: Running): WorkStep {
  const net = line.nodes.map(() => 0);
  const add = (node: number, flow: number) => {
    net[node] = (net[node] as number) + flow;
  };
  for (const { from, to, start } of line.stretches) {
    const flow = flows.bySegment[start] ?? 0;
    add(from, -flow);
    add(to, flow);
  }
  for (const [i, { inlet, outlet }] of line.pumps.entries()) {
    add(inlet, -(flows.byPump[i] as number));
    add(outlet, flows.byPump[i] as number);
  }
  for (const [i, { node }] of line.holes.entries()) add(node, -(flows.lost[i]?.flow ?? 0));
  const open = new Set([0, ...line.outlets.map(({ node }) => node)]);
  const left = Math.max(
    0,
    ...net.flatMap((flow, node) => (open.has(node) ? [] : [Math.abs(flow)])),
  );
  return step(
    {
      title: "Balance of the network",
      equation:
        "\\sum Q = 0 \\text{ at every node},\\quad H_i - H_j = h(Q_{ij}) \\text{ along every stretch}",
      given: [
        term("Q", "flow drawn from the source", duty.flow, "m³/s"),
        term("n", "nodes", line.nodes.length),
        term("m", "stretches of pipe", line.stretches.length),
        term("\\Delta Q", "most that is left over at a node", left, "m³/s"),
      ],
      result: { symbol: "Q", name: "flow", unit: "m³/s" },
      source: "Global gradient method, E. Todini and S. Pilati (1988)",
      assumed: ["A pump does not run backwards; open outlets and holes let no air in"],
    },
    (q = 0) => q,
  );
}

/** Power given to the water, taken by the pumps, and the one over the other. */
export function powerWorking(solution: Solution, levelCase: LevelCase): WorkStep[] {
  const { running } = solution.cases[levelCase];
  if (!running) return [];
  const given = step(
    {
      title: "Power given to the water",
      equation: "P_w = \\rho g Q H",
      given: [
        term("\\rho", "density of the water", solution.water.density, "kg/m³"),
        term("g", "standard gravity", GRAVITY, "m/s²"),
        term("Q", "flow", running.duty.flow, "m³/s"),
        term("H", "total head", running.duty.head, "m"),
      ],
      result: { symbol: "P_w", name: "hydraulic power", unit: "W" },
      source: "Definition",
    },
    (rho = 0, gravity = 0, q = 0, h = 0) => rho * gravity * q * h,
  );
  if (running.power === undefined) return [given];
  const each = running.pumps.map(({ power = 0 }, i) =>
    term(`P_${i + 1}`, "published power at this flow, for this water", power, "W"),
  );
  const taken = step(
    {
      title: "Power taken",
      equation: "P = \\sum P_i",
      given: each,
      result: { symbol: "P", name: "power taken", unit: "W" },
      source: "Published power curve, in proportion to the specific gravity",
    },
    (...powers) => powers.reduce((sum, power) => sum + power, 0),
  );
  return [given, taken];
}

export function efficiencyWorking(solution: Solution, levelCase: LevelCase): WorkStep[] {
  const steps = powerWorking(solution, levelCase);
  const [water, taken] = steps;
  if (!water || !taken) return steps;
  const efficiency = step(
    {
      title: "Efficiency",
      equation: "\\eta = \\frac{P_w}{P}",
      given: [onward(water), onward(taken)],
      result: { symbol: "\\eta", name: "efficiency", unit: "" },
      source: "Definition; what the maker's power counts, shaft or plug, is the maker's",
    },
    (pw = 0, p = 1) => pw / p,
  );
  return [...steps, efficiency];
}
