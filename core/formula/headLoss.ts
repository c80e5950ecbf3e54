import { FAMILIES } from "../catalogue/pipes.ts";
import { lossCoefficient } from "../fitting/resistance.ts";
import { HOLE_COEFFICIENT } from "../hydraulics/flowsAlong.ts";
import type { LossContext } from "../hydraulics/lineLoss.ts";
import type { Hole, Segment } from "../line/compiledLine.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import { frictionFactor } from "../pipe/frictionFactor.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { onward, step, type Term, term, type WorkStep } from "./step.ts";

const g = term("g", "standard gravity", GRAVITY, "m/s²");

/** How the head a segment takes at a flow in m³/s (zero or positive) comes about; it ends with that head. */
export function lossWorking(segment: Segment, flow: number, context: LossContext): WorkStep[] {
  if (segment.emitter) return [emitterStep(segment.emitter, flow, context)];
  const parts: WorkStep[] = [];
  if (segment.run && flow > 0) {
    parts.push(
      ...(context.friction === "darcy-weisbach"
        ? darcySteps(segment, segment.run, flow, context)
        : [hazenStep(segment, segment.run, flow)]),
    );
  }
  if (segment.k > 0 && flow > 0) {
    const friction = parts.at(-1);
    parts.push(...coefficientSteps(segment, flow));
    const local = parts.at(-1);
    // A throttled valve in the equivalent-length school takes both.
    if (friction && local) {
      parts.push(
        step(
          {
            title: "Together",
            equation: "h = h_f + h_K",
            given: [
              { ...onward(friction), symbol: "h_f" },
              { ...onward(local), symbol: "h_K" },
            ],
            result: { symbol: "h", name: "head it takes", unit: "m" },
            source: "Losses one after another add up",
          },
          (a = 0, b = 0) => a + b,
        ),
      );
    }
  }
  return parts;
}

export function velocityStep(flow: number, bore: number): WorkStep {
  return step(
    {
      title: "Velocity",
      equation: "v = \\frac{4Q}{\\pi D^2}",
      given: [term("Q", "flow here", flow, "m³/s"), term("D", "real bore", bore, "m")],
      result: { symbol: "v", name: "mean velocity", unit: "m/s" },
      source: "Continuity",
    },
    (q = 0, d = 0) => meanVelocity(q, d),
  );
}

function darcySteps(
  segment: Segment,
  run: NonNullable<Segment["run"]>,
  flow: number,
  { water }: LossContext,
): WorkStep[] {
  const velocity = velocityStep(flow, run.bore);
  const bore = term("D", "real bore", run.bore, "m");
  const reynolds = step(
    {
      title: "Reynolds number",
      equation: "Re = \\frac{\\rho v D}{\\mu}",
      given: [
        term("\\rho", "density of the water", water.density, "kg/m³"),
        onward(velocity),
        bore,
        term("\\mu", "viscosity of the water", water.viscosity, "Pa·s"),
      ],
      result: { symbol: "Re", name: "Reynolds number", unit: "" },
      source: "IAPWS SR1-86(1992) density, SR6-08(2011) viscosity",
    },
    (rho = 0, v = 0, d = 0, mu = 1) => (rho * v * d) / mu,
  );
  const re = reynolds.result.value;
  const { source, equation } =
    re <= 2000
      ? { equation: "f = \\frac{64}{Re}", source: "Hagen–Poiseuille, laminar flow" }
      : re < 4000
        ? {
            equation: "f\\,Re^2 = \\text{cubic between } 64\\,Re \\text{ and Colebrook–White}",
            source: "No formula holds between Re 2000 and 4000; a smooth bridge that always rises",
          }
        : {
            equation:
              "\\frac{1}{\\sqrt f} = -2\\log_{10}\\!\\left(\\frac{\\varepsilon/D}{3.7} + \\frac{2.51}{Re\\sqrt f}\\right)",
            source: "C. F. Colebrook, J. Inst. Civ. Eng. 11 (1939) 133–156",
          };
  const factor = step(
    {
      title: "Friction factor",
      equation,
      given: [onward(reynolds), term("\\varepsilon", "roughness", run.roughness, "m"), bore],
      result: { symbol: "f", name: "Darcy friction factor", unit: "" },
      source,
      assumed: [FAMILIES[segment.stock.family].assumption],
    },
    (r = 0, roughness = 0, d = 1) => frictionFactor(r, roughness / d),
  );
  const loss = step(
    {
      title: "Head lost",
      equation: "h_f = f\\,\\frac{L}{D}\\,\\frac{v^2}{2g}",
      given: [onward(factor), ...lengthTerms(segment, run), bore, onward(velocity), g],
      result: { symbol: "h_f", name: "head it takes", unit: "m" },
      source: "Darcy–Weisbach",
    },
    (f = 0, l = 0, d = 1, v = 0) => (f * l * v * v) / (d * 2 * GRAVITY),
  );
  return [...equivalentSteps(segment, run), velocity, reynolds, factor, loss];
}

function lengthTerms(segment: Segment, run: NonNullable<Segment["run"]>): Term[] {
  const name = segment.kind === "pipe" ? "length" : "equivalent length";
  return [term("L", name, run.length, "m")];
}

function equivalentSteps(segment: Segment, run: NonNullable<Segment["run"]>): WorkStep[] {
  const { fitting } = segment;
  if (!fitting) return [];
  return [
    step(
      {
        title: "Equivalent length",
        equation: "L = \\frac{L_e}{D}\\,D",
        given: [
          term("L_e/D", "pipe diameters, all pieces together", run.length / run.bore),
          term("D", "real bore", run.bore, "m"),
        ],
        result: { symbol: "L", name: "straight pipe that takes as much", unit: "m" },
        source: fitting.source,
      },
      (ratio = 0, d = 0) => ratio * d,
    ),
  ];
}

function hazenStep(segment: Segment, run: NonNullable<Segment["run"]>, flow: number): WorkStep {
  return step(
    {
      title: "Head lost",
      equation: "h_f = \\frac{10.67\\,L\\,Q^{1.852}}{C^{1.852} D^{4.8704}}",
      given: [
        ...lengthTerms(segment, run),
        term("Q", "flow here", flow, "m³/s"),
        term("C", "Hazen–Williams C", run.hazenWilliamsC),
        term("D", "real bore", run.bore, "m"),
      ],
      result: { symbol: "h_f", name: "head it takes", unit: "m" },
      source: "Hazen–Williams in SI units; water at 5 to 25 °C, v up to 3 m/s, D from 50 mm",
      assumed: [FAMILIES[segment.stock.family].assumption],
    },
    (l = 0, q = 0, c = 1, d = 1) => (10.67 * l * (q / c) ** 1.852) / d ** 4.8704,
  );
}

function coefficientSteps(segment: Segment, flow: number): WorkStep[] {
  const velocity = velocityStep(flow, segment.bore);
  const { title, source, assumed } = describe(segment);
  const k = term("K", title, segment.k);
  const loss = step(
    {
      title: "Head lost",
      equation: "h_K = K\\,\\frac{v^2}{2g}",
      given: [k, onward(velocity), g],
      result: { symbol: "h_K", name: "head it takes", unit: "m" },
      source,
      assumed,
    },
    (coefficient = 0, v = 0) => (coefficient * v * v) / (2 * GRAVITY),
  );
  return [velocity, loss];
}

/** Where a segment's loss coefficient comes from. */
function describe(segment: Segment): { title: string; source: string; assumed: string[] } {
  const { kind, fitting, bore } = segment;
  switch (kind) {
    case "exit":
      return {
        title: "loss coefficient",
        source: "The speed of the jet is spent: K = 1",
        assumed: [],
      };
    case "nozzle":
      return {
        title: "loss coefficient 1/Cd²",
        source: "Nozzle q = Cd A √(2p/ρ)",
        assumed: ["The discharge coefficient typed for this outlet"],
      };
    case "bore-change":
      return {
        title: "loss coefficient on the smaller bore",
        source:
          "Sudden: widening (1 − β²)² (Borda–Carnot), narrowing 0.5 (1 − β²); tapered: Crane TP 410",
        assumed: ["Sudden, unless a tapered reducer stands before it"],
      };
    default: {
      if (!fitting) return { title: "loss coefficient", source: "", assumed: [] };
      const each = lossCoefficient(fitting, bore);
      const pieces = segment.k / each;
      const whole = Math.abs(pieces - Math.round(pieces)) < 1e-9;
      return {
        title:
          whole && pieces > 1.5
            ? `loss coefficient, ${Math.round(pieces)} pieces`
            : "loss coefficient",
        source: fitting.source,
        assumed: whole ? [] : ["The opening of the valve: from measured tables, from memory"],
      };
    }
  }
}

function emitterStep(
  emitter: { flow: number; pressure: number },
  flow: number,
  { water }: LossContext,
): WorkStep {
  return step(
    {
      title: "Pressure it uses",
      equation: "h = \\frac{p_0}{\\rho g}\\left(\\frac{Q}{Q_0}\\right)^2",
      given: [
        term("p_0", "its printed pressure", emitter.pressure, "Pa"),
        term("\\rho", "density of the water", water.density, "kg/m³"),
        g,
        term("Q", "flow here", flow, "m³/s"),
        term("Q_0", "its printed flow", emitter.flow, "m³/s"),
      ],
      result: { symbol: "h", name: "head it takes", unit: "m" },
      source: "Flow in proportion to the root of pressure",
    },
    (p = 0, rho = 1, _g = 1, q = 0, known = 1) => (p / (rho * GRAVITY)) * (q / known) ** 2,
  );
}

/** What leaves through a hole under a total head in m above datum. */
export function holeWorking(hole: Hole, totalHead: number): WorkStep[] {
  return [
    step(
      {
        title: "Flow through the hole",
        equation: "q = C_d\\,\\frac{\\pi}{4} d^2 \\sqrt{2 g h}",
        given: [
          term("C_d", "discharge coefficient", HOLE_COEFFICIENT),
          term("d", "bore of the hole", hole.bore, "m"),
          g,
          term("h", "head over the hole", Math.max(totalHead - hole.elevation, 0), "m"),
        ],
        result: { symbol: "q", name: "what it lets go", unit: "m³/s" },
        source: "Orifice into the open; customary coefficient of a drilled hole",
        assumed: ["A sharp edge, and water leaving into air"],
      },
      (cd = 0, d = 0, _g = 0, h = 0) => cd * (Math.PI / 4) * d * d * Math.sqrt(2 * GRAVITY * h),
    ),
  ];
}
