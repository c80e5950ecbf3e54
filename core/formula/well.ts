import { voltageDrop } from "../driving/conductor.ts";
import { recoveryTime, settlingTime } from "../line/casing.ts";
import { airLiftFlow, startPressure } from "../well/airLift.ts";
import { annulusVelocity } from "../well/cooling.ts";
import { flowDrawing } from "../well/drawdown.ts";
import { cylinderArea, handleForce } from "../well/handPump.ts";
import { tankFor, tankGives } from "../well/pressureTank.ts";
import { UNDER_WATER } from "../well/setting.ts";
import { formula, sign } from "./formula.ts";

/** The equations of wells, their tanks and cables, each with the function that works it out. */

const depth = (symbol: string, name: string) => sign(symbol, name, "length");
const pressure = (symbol: string, name: string) => sign(symbol, name, "pressure");
const flow = (name: string) => sign("Q", name, "flow");

export const WATER_OVER_INTAKE = formula({
  title: "Water over the intake while it runs",
  equation: "h = z_w - s - z_i",
  given: [depth("z_w", "standing water"), sign("s", "drawdown", "head"), depth("z_i", "intake")],
  result: depth("h", "water over the intake"),
  source: "Levels of the job",
  of: (standing: number, drawn: number, intake: number) => standing - drawn - intake,
});

export const LOWEST_PUMPING = formula({
  title: "Pumping level",
  equation: "d = d_0 + s",
  given: [depth("d_0", "down to the standing water"), sign("s", "drawdown", "head")],
  result: depth("d", "down to the water while it runs"),
  source: "Levels of the job",
  of: (standing: number, drawn: number) => standing + drawn,
});

export const WELL_GIVES = formula({
  title: "Flow that draws it down so far",
  equation: "Q = \\frac{2 s}{B + \\sqrt{B^2 + 4 C s}}",
  given: [
    sign("B", "of the ground, s/m²", "ratio"),
    sign("C", "of the well, s²/m⁵", "ratio"),
    depth("s", "drawdown there is room for, 3 ft left over the intake"),
  ],
  result: flow("flow the well gives without end"),
  source: "Root of s = B Q + C Q² (Jacob 1947)",
  of: (linear: number, quadratic: number, drawn: number) =>
    flowDrawing({ linear, quadratic }, drawn),
});

export const NOT_ABOVE = formula({
  title: "Not above",
  equation: "d_{min} = d_w + 3\\,ft",
  given: [depth("d_w", "lowest pumping level")],
  result: depth("d_{min}", "highest the pump may hang"),
  source: "Common practice, no source",
  of: (pumping: number) => pumping + UNDER_WATER,
});

export const NOT_BELOW = formula({
  title: "Not below",
  equation: "d_{max} = d - a - l_m",
  given: [
    depth("d", "what it is kept above"),
    depth("a", "room kept there"),
    depth("l_m", "motor below the intake"),
  ],
  result: depth("d_{max}", "lowest the intake may hang"),
  source: "Common practice, no source",
  of: (limit: number, room: number, motor: number) => limit - room - motor,
});

export const SETTLES = formula({
  title: "How fast the well settles",
  equation: "\\tau = A\\, B",
  given: [
    sign("A", "water surface in the casing", "area"),
    sign("B", "drawdown for each flow, s/m²", "ratio"),
  ],
  result: sign("\\tau", "time to 1/e of a change", "time"),
  source: "A ds/dt = Q − s/B, solved",
  range:
    "a well whose drawdown goes with its flow; what the ground itself takes to settle is left out",
  of: settlingTime,
});

export const RECOVERS = formula({
  title: "Recovery",
  equation: "t = \\tau \\ln\\frac{1}{x}",
  given: [
    sign("\\tau", "time to 1/e", "time"),
    sign("x", "part of the drawdown that is left", "ratio"),
  ],
  result: sign("t", "time after the pump stopped", "time"),
  source: "s = s₀ e^(−t/τ)",
  of: recoveryTime,
});

export const IN_CASING = formula({
  title: "Water the casing gives",
  equation: "V = A\\, s",
  given: [sign("A", "water surface in the casing", "area"), sign("s", "drawn down", "head")],
  result: sign("V", "water out of the casing", "volume"),
  source: "Geometry",
  of: (area: number, drawn: number) => area * drawn,
});

export const PAST_THE_MOTOR = formula({
  title: "Water past the motor",
  equation: "v = \\frac{4 Q}{\\pi (D^2 - d^2)}",
  given: [
    flow("flow of the pump"),
    sign("D", "bore of the sleeve or casing round it", "diameter"),
    sign("d", "width of the motor", "diameter"),
  ],
  result: sign("v", "past the motor", "velocity"),
  source: "Geometry",
  of: annulusVelocity,
});

export const BOYLE = formula({
  title: "Water the tank gives",
  equation:
    "V_d = V (p_{pre} + p_a) \\left(\\frac{1}{p_{on} + p_a} - \\frac{1}{p_{off} + p_a}\\right)",
  given: [
    sign("V", "tank", "volume"),
    pressure("p_{pre}", "its air with no water in it"),
    pressure("p_{on}", "cut-in"),
    pressure("p_{off}", "cut-out"),
    pressure("p_a", "air outside"),
  ],
  result: sign("V_d", "water between cut-out and cut-in", "volume"),
  source: "Boyle: p V constant, the air as warm after as before",
  of: tankGives,
});

export const TANK_FOR = formula({
  title: "Tank for a minute’s run",
  equation: "V = \\frac{V_d}{v_d}",
  given: [
    sign("V_d", "a minute of the pump’s flow", "volume"),
    pressure("p_{pre}", "its air with no water in it"),
    pressure("p_{on}", "cut-in"),
    pressure("p_{off}", "cut-out"),
    pressure("p_a", "air outside"),
  ],
  result: sign("V", "tank", "volume"),
  source: "Boyle; a minute is common practice, no source",
  of: tankFor,
});

export const ALL_STARTS = formula({
  title: "Starts an hour",
  equation: "n = \\frac{3600}{t_{run} + t_{rest}}",
  given: [sign("t_{run}", "run from cut-in to cut-out", "time"), sign("t_{rest}", "rest", "time")],
  result: sign("n", "starts an hour", "ratio"),
  source: "Definition; the run is ∫ dV/(Q(p) − q) along the pump’s curve",
  of: (run: number, rest: number) => 3600 / (run + rest),
});

export const LIFT_AND_CUT_OUT = formula({
  title: "Pipe at cut-out",
  equation: "p = \\rho g\\, h + p_{off}",
  given: [
    sign("\\rho", "density", "density"),
    sign("g", "gravity", "acceleration"),
    depth("h", "tank over the lowest pumping level"),
    pressure("p_{off}", "cut-out"),
  ],
  result: pressure("p", "across the pipe’s wall"),
  source: "Hydrostatics; the water outside is taken off at its lowest",
  of: (rho: number, g: number, lift: number, cutOut: number) => rho * g * lift + cutOut,
});

export const VOLTAGE_LOST = formula({
  title: "Voltage the cable takes",
  equation: "\\Delta V = 2 L I R \\quad (\\sqrt 3\\, L I R \\text{ on three phases})",
  given: [
    depth("L", "one way"),
    sign("I", "current, A", "ratio"),
    sign("R", "of the conductor, Ω/m", "ratio"),
    sign("n", "phases", "ratio"),
  ],
  result: sign("\\Delta V", "lost, V", "ratio"),
  source:
    "NEC chapter 9 table 8 at 75 °C, IEC 60228 brought to 70 °C, from memory; reactance left out",
  of: (length: number, current: number, resistance: number, phases: number) =>
    voltageDrop(length, current, resistance, phases === 3 ? 3 : 1),
});

export const VOLTAGE_IN_ALL = formula({
  title: "Voltage the whole way takes",
  equation: "\\Delta V = \\Delta V_1 + \\Delta V_2",
  given: [
    sign("\\Delta V_1", "along the ground, V", "ratio"),
    sign("\\Delta V_2", "down the well, V", "ratio"),
  ],
  result: sign("\\Delta V", "lost, V", "ratio"),
  source: "One after the other",
  of: (along: number, down: number) => along + down,
});

export const CYLINDER = formula({
  title: "Area of the cylinder",
  equation: "A = \\frac{\\pi}{4} d^2",
  given: [sign("d", "bore of the cylinder", "diameter")],
  result: sign("A", "its area", "area"),
  source: "Geometry",
  of: cylinderArea,
});

export const HANDLE = formula({
  title: "Pull at the handle",
  equation: "F = \\frac{\\rho g H A\\,(1 + c)}{r}",
  given: [
    sign("\\rho", "density", "density"),
    sign("H", "lift", "head"),
    sign("A", "cylinder", "area"),
    sign("r", "leverage of the handle", "ratio"),
    sign("c", "rods and leathers", "ratio"),
  ],
  result: sign("F", "pull, N", "ratio"),
  source: "Statics; what rods and leathers take: common practice, no source",
  of: handleForce,
});

export const AIR_STARTS = formula({
  title: "Air to start",
  equation: "p = \\rho g S",
  given: [sign("\\rho", "density", "density"), depth("S", "foot under the highest standing water")],
  result: pressure("p", "air it starts at"),
  source: "Hydrostatics",
  of: startPressure,
});

export const AIR_LIFTS = formula({
  title: "Flow of the air lift",
  equation: "Q = \\eta\\,\\frac{p_a Q_a \\ln\\frac{p_a + \\rho g S}{p_a}}{\\rho g h}",
  given: [
    sign("\\eta", "part of the air’s work that lifts, by submergence", "ratio"),
    sign("Q_a", "air, as it is outside", "flow"),
    depth("S", "foot under the pumping level"),
    depth("h", "lift over the pumping level"),
    sign("\\rho", "density", "density"),
    pressure("p_a", "air outside"),
  ],
  result: flow("water"),
  source: "Isothermal work of the air; its efficiency by submergence, 0.35 to 0.75, from memory",
  of: airLiftFlow,
});
