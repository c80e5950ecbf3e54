import { atmosphericPressure } from "../fluid/atmosphere.ts";
import { pressureHead } from "../hydraulics/boundary.ts";
import { orificeFlow } from "../hydraulics/hydraulicModel.ts";
import { submergence } from "../hydraulics/submergence.ts";
import { barometricHead, liftLimitHere, npshAvailable } from "../hydraulics/suctionLimits.ts";
import { joukowskySurge, korteweg } from "../hydraulics/surge.ts";
import {
  coefficientLoss,
  darcyWeisbach,
  meanVelocity,
  reynoldsNumber,
} from "../pipe/darcyWeisbach.ts";
import { frictionFactor } from "../pipe/frictionFactor.ts";
import { hazenWilliams } from "../pipe/hazenWilliams.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { formula, type OpenFormula, sign } from "./formula.ts";

/** The equations of the core, each with the function that works it out. */

const flow = sign("Q", "flow here", "flow");
const bore = sign("D", "real bore", "diameter");
const velocity = sign("v", "mean velocity", "velocity");
const density = sign("\\rho", "density of the water", "density");
const loss = sign("h", "head it takes", "head");

export const VELOCITY = formula({
  title: "Velocity",
  equation: "v = \\frac{4Q}{\\pi D^2}",
  given: [flow, bore],
  result: velocity,
  source: "Continuity",
  of: meanVelocity,
});

export const REYNOLDS = formula({
  title: "Reynolds number",
  equation: "Re = \\frac{\\rho v D}{\\mu}",
  given: [density, velocity, bore, sign("\\mu", "viscosity of the water", "viscosity")],
  result: sign("Re", "Reynolds number", "ratio"),
  source: "IAPWS SR1-86(1992) density, SR6-08(2011) viscosity",
  of: reynoldsNumber,
});

const factorSigns = {
  title: "Friction factor",
  given: [
    sign("Re", "Reynolds number", "ratio"),
    sign("\\varepsilon", "roughness", "diameter"),
    bore,
  ],
  result: sign("f", "Darcy friction factor", "ratio"),
  of: (reynolds: number, roughness: number, diameter: number) =>
    frictionFactor(reynolds, roughness / diameter),
} as const;

export const FACTOR_LAMINAR = formula({
  ...factorSigns,
  equation: "f = \\frac{64}{Re}",
  source: "Hagen–Poiseuille",
  range: "Re up to 2000",
});
export const FACTOR_BETWEEN = formula({
  ...factorSigns,
  equation: "f\\,Re^2 = \\text{cubic between } 64\\,Re \\text{ and Colebrook–White}",
  source: "No formula holds there; a smooth bridge that always rises",
  range: "Re 2000 to 4000",
});
export const FACTOR_TURBULENT = formula({
  ...factorSigns,
  equation:
    "\\frac{1}{\\sqrt f} = -2\\log_{10}\\!\\left(\\frac{\\varepsilon/D}{3.7} + \\frac{2.51}{Re\\sqrt f}\\right)",
  source: "C. F. Colebrook, J. Inst. Civ. Eng. 11 (1939) 133–156",
  range: "Re from 4000; about ±10 % of measured pipes",
});

export const DARCY_WEISBACH = formula({
  title: "Head lost",
  equation: "h = f\\,\\frac{L}{D}\\,\\frac{v^2}{2g}",
  given: [
    sign("f", "Darcy friction factor", "ratio"),
    sign("L", "length", "length"),
    bore,
    velocity,
  ],
  result: loss,
  source: "Darcy–Weisbach",
  of: darcyWeisbach,
});

export const HAZEN_WILLIAMS = formula({
  title: "Head lost",
  equation: "h = \\frac{10.67\\,L\\,Q^{1.852}}{C^{1.852} D^{4.8704}}",
  given: [sign("L", "length", "length"), flow, sign("C", "Hazen–Williams C", "ratio"), bore],
  result: loss,
  source: "Hazen–Williams in SI units",
  range: "water at 5 to 25 °C, v up to 3 m/s, D from 50 mm",
  of: hazenWilliams,
});

export const EQUIVALENT_LENGTH = formula({
  title: "Equivalent length",
  equation: "L = \\frac{L_e}{D}\\,D",
  given: [sign("L_e/D", "pipe diameters, all pieces together", "ratio"), bore],
  result: sign("L", "straight pipe that takes as much", "length"),
  source: "Equivalent lengths",
  of: (diameters: number, diameter: number) => diameters * diameter,
});

export const COEFFICIENT_LOSS = formula({
  title: "Head lost",
  equation: "h = K\\,\\frac{v^2}{2g}",
  given: [sign("K", "loss coefficient", "ratio"), velocity],
  result: loss,
  source: "Loss coefficient",
  of: coefficientLoss,
});

export const EMITTER = formula({
  title: "Pressure it uses",
  equation: "h = \\frac{p_0}{\\rho g}\\left(\\frac{Q}{Q_0}\\right)^2",
  given: [
    sign("p_0", "its stated pressure", "pressure"),
    density,
    flow,
    sign("Q_0", "its stated flow", "flow"),
  ],
  result: loss,
  source: "Flow in proportion to the root of pressure",
  of: (pressure: number, rho: number, q: number, known: number) =>
    (pressure / (rho * GRAVITY)) * (q / known) ** 2,
});

export const RUNS_BACK = formula({
  title: "Seen along the path",
  equation: "h = -h'",
  given: [sign("h'", "taken along the water's own way", "head")],
  result: loss,
  source: "The water runs against the path here",
  of: (taken: number) => -taken,
});

export const DRAWDOWN = formula({
  title: "Drawdown of the well",
  equation: "s = B\\,Q + C\\,Q^2",
  given: [
    sign("B", "of the ground, s/m²", "ratio"),
    sign("C", "of the well, s²/m⁵", "ratio"),
    flow,
  ],
  result: sign("s", "drawdown", "head"),
  source: "C. E. Jacob, Trans. ASCE 112 (1947) 1047–1064",
  of: (b: number, c: number, q: number) => b * q + c * q * q,
});

export const ORIFICE = formula({
  title: "Flow through the hole",
  equation: "q = C_d\\,\\frac{\\pi}{4} d^2 \\sqrt{2 g h}",
  given: [
    sign("C_d", "discharge coefficient", "ratio"),
    sign("d", "bore of the hole", "diameter"),
    sign("h", "head over what is outside the hole", "head"),
  ],
  result: sign("q", "what it lets go", "flow"),
  source: "Orifice; customary coefficient of a drilled hole",
  assumed: ["A sharp edge; outside is air, or where the hole is under water, that water"],
  of: orificeFlow,
});

export const PRESSURE_HEAD = formula({
  title: "Pressure as head",
  equation: "h = \\frac{p}{\\rho g}",
  given: [sign("p", "pressure", "pressure"), density],
  result: sign("h", "head", "head"),
  source: "Hydrostatics",
  of: (pressure: number, rho: number) => pressureHead(pressure, { density: rho }),
});

export const STATIC_PRESSURE = formula({
  title: "Pressure",
  equation: "p = \\rho g\\,(H - z)",
  given: [density, sign("H", "head", "head"), sign("z", "height it is felt at", "length")],
  result: sign("p", "pressure", "pressure"),
  source: "Hydrostatics",
  of: (rho: number, head: number, height: number) => rho * GRAVITY * (head - height),
});

export const POINT_PRESSURE = formula({
  title: "Pressure in the pipe, as metres of water",
  equation: "\\frac{p}{\\rho g} = H - z - \\frac{v^2}{2g}",
  given: [sign("H", "head there", "head"), sign("z", "height there", "length"), velocity],
  result: sign("p/\\rho g", "pressure, against the air's", "head"),
  source: "Bernoulli",
  of: (head: number, height: number, speed: number) => head - height - coefficientLoss(1, speed),
});

export const DIFFERENCE = formula({
  title: "Difference",
  equation: "\\Delta = a - b",
  given: [sign("a", "one", "head"), sign("b", "the other", "head")],
  result: sign("\\Delta", "difference", "head"),
  source: "Levels of the job",
  of: (a: number, b: number) => a - b,
});

export const RATIO = formula({
  title: "Share",
  equation: "\\frac{a}{b}",
  given: [sign("a", "one", "flow"), sign("b", "the other", "flow")],
  result: sign("a/b", "share", "ratio"),
  source: "Definition",
  of: (a: number, b: number) => a / b,
});

export const AIR_PRESSURE = formula({
  title: "Air pressure",
  equation: "p_a = 101325\\,(1 - 2.25577\\cdot10^{-5} z)^{5.25588}",
  given: [sign("z", "altitude", "length")],
  result: sign("p_a", "air pressure", "pressure"),
  source: "ISO 2533 standard atmosphere",
  assumed: ["Weather moves it by about 3 %"],
  of: atmosphericPressure,
});

export const BAROMETRIC = formula({
  title: "What air pressure holds up",
  equation: "H_b = \\frac{p_a - p_v}{\\rho g}",
  given: [
    sign("p_a", "air pressure", "pressure"),
    sign("p_v", "vapour pressure of the water", "pressure"),
    density,
  ],
  result: sign("H_b", "barometric limit", "head"),
  source: "IAPWS SR1-86(1992) vapour pressure and density",
  of: barometricHead,
});

export const DYNAMIC_LIFT = formula({
  title: "What the pump draws",
  equation: "h = h_s + h_{fs}",
  given: [
    sign("h_s", "pump above the water", "head"),
    sign("h_{fs}", "losses of the suction line", "head"),
  ],
  result: sign("h", "suction lift, friction counted", "head"),
  source: "Levels of the job, and the ledger",
  of: (lift: number, friction: number) => lift + friction,
});

export const NPSH_AVAILABLE = formula({
  title: "NPSH available",
  equation: "NPSH_a = H_b - h_s - h_{fs}",
  given: [
    sign("H_b", "barometric limit", "head"),
    sign("h_s", "pump above the water", "head"),
    sign("h_{fs}", "losses of the suction line", "head"),
  ],
  result: sign("NPSH_a", "available at the pump", "head"),
  source: "Definition",
  of: npshAvailable,
});

export const LIFT_LIMIT = formula({
  title: "The pump's own limit, here",
  equation: "h_{max} = h_r - (H_{b,0} - H_b)",
  given: [
    sign("h_r", "the maker's limit at sea level", "head"),
    sign("H_{b,0}", "barometric limit at sea level and 15 °C", "head"),
    sign("H_b", "barometric limit here", "head"),
  ],
  result: sign("h_{max}", "limit at this altitude and temperature", "head"),
  source: "Common practice, no source",
  of: liftLimitHere,
});

export const SUBMERGENCE = formula({
  title: "Depth that keeps a vortex away",
  equation: "S = D\\left(1 + \\frac{2.3\\,v}{\\sqrt{gD}}\\right)",
  given: [bore, velocity],
  result: sign("S", "least submergence", "head"),
  source: "ANSI/HI 9.8, from memory",
  of: submergence,
});

export const WAVE_SPEED = formula({
  title: "Speed of the pressure wave",
  equation: "a = \\sqrt{\\frac{K/\\rho}{1 + K D/(E e)}}",
  given: [
    sign("K", "bulk modulus of water", "modulus"),
    density,
    bore,
    sign("E", "Young's modulus of the wall", "modulus"),
    sign("e", "wall", "diameter"),
  ],
  result: sign("a", "wave speed", "velocity"),
  source: "Korteweg; moduli from memory",
  of: korteweg,
});

export const JOUKOWSKY = formula({
  title: "Surge",
  equation: "\\Delta p = \\rho\\, a\\, v",
  given: [density, sign("a", "wave speed", "velocity"), velocity],
  result: sign("\\Delta p", "rise when stopped at once", "pressure"),
  source: "Joukowsky",
  assumed: ["Stopped faster than the wave runs there and back"],
  of: joukowskySurge,
});

export const WATER_POWER = formula({
  title: "Power given to the water",
  equation: "P_w = \\rho g Q H",
  given: [density, sign("Q", "flow", "flow"), sign("H", "total head", "head")],
  result: sign("P_w", "hydraulic power", "power"),
  source: "Definition",
  of: (rho: number, q: number, head: number) => rho * GRAVITY * q * head,
});

export const EFFICIENCY = formula({
  title: "Efficiency",
  equation: "\\eta = \\frac{P_w}{P}",
  given: [sign("P_w", "hydraulic power", "power"), sign("P", "power taken", "power")],
  result: sign("\\eta", "efficiency", "ratio"),
  source: "Definition; what the maker's power counts, shaft or plug, is the maker's",
  of: (water: number, taken: number) => water / taken,
});

/** Where two heads cross between two flows close together, straight between them. */
export const CROSSING = formula({
  title: "Where pump and line meet",
  equation: "Q = Q_a + (Q_b - Q_a)\\frac{\\Delta_a}{\\Delta_a - \\Delta_b}",
  given: [
    sign("Q_a", "a little less than the duty", "flow"),
    sign("\\Delta_a", "head of the pump less that of the line", "head"),
    sign("Q_b", "a little more", "flow"),
    sign("\\Delta_b", "head of the pump less that of the line", "head"),
  ],
  result: sign("Q", "flow where both are the same", "flow"),
  source:
    "Found by regula falsi (Anderson, Björck 1973); every crossing of the two curves is looked for",
  of: (qa: number, da: number, qb: number, db: number) => qa + ((qb - qa) * da) / (da - db),
});

const sum = (...values: number[]) => values.reduce((total, value) => total + value, 0);

export const SUM_OF_HEADS: OpenFormula = {
  title: "Together",
  equation: "H = \\sum h_i",
  result: sign("H", "together", "head"),
  source: "Heads one after another add up",
  of: sum,
};

export const SUM_OF_FLOWS: OpenFormula = {
  title: "Together",
  equation: "Q = \\sum Q_i",
  result: sign("Q", "together", "flow"),
  source: "Mass balance",
  of: sum,
};

export const SUM_OF_POWERS: OpenFormula = {
  title: "Power taken",
  equation: "P = \\sum P_i",
  result: sign("P", "power taken", "power"),
  source: "Published power curve, in proportion to the specific gravity",
  of: sum,
};

export const GREATEST_HEAD: OpenFormula = {
  title: "Most the pump can make",
  equation: "H_0 = \\max H_{pump}(Q)",
  result: sign("H_0", "greatest published head", "head"),
  source: "Published curve, at the running speed",
  of: (...heads) => Math.max(...heads),
};

export const LAST_FLOW: OpenFormula = {
  title: "End of the published curve",
  equation: "Q = \\max Q_i",
  result: sign("Q", "last published flow", "flow"),
  source: "Published curve, at the running speed",
  of: (...flows) => Math.max(...flows),
};

/** Bores and lengths in turn: D₁, L₁, D₂, L₂, … */
export const PIPE_VOLUME: OpenFormula = {
  title: "Water in the pipes",
  equation: "V = \\sum \\frac{\\pi}{4} D_i^2 L_i",
  result: sign("V", "volume", "volume"),
  source: "Geometry",
  of: (...pairs) => {
    let volume = 0;
    for (let i = 0; i < pairs.length; i += 2) {
      volume += (Math.PI / 4) * (pairs[i] as number) ** 2 * (pairs[i + 1] as number);
    }
    return volume;
  },
};

/** Flows and heads in turn, after the flow of all. */
export const JOINT_HEAD: OpenFormula = {
  title: "Total dynamic head",
  equation: "H = \\frac{\\sum Q_i H_i}{Q}",
  result: sign("H", "total head", "head"),
  source: "The head that gives the whole flow the power the pumps give it",
  of: (q = 0, ...pairs) => {
    let power = 0;
    for (let i = 0; i < pairs.length; i += 2) {
      power += (pairs[i] as number) * (pairs[i + 1] as number);
    }
    return q > 0 ? power / q : 0;
  },
};
