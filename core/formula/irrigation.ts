import { christiansen } from "../irrigation/evenness.ts";
import { applicationRate, textbookThrow, wettedArea } from "../irrigation/gun.ts";
import { secondsPerSet } from "../irrigation/sets.ts";
import { formula, sign } from "./formula.ts";

/** The equations of watering ground, each with the function that works it out. */

const radius = sign("R", "throw", "length");
const area = (name: string) => sign("A", name, "area");
const flow = (name: string) => sign("Q", name, "flow");

export const TEXTBOOK_THROW = formula({
  title: "Throw by the textbook",
  equation: "R = 1.35\\sqrt{1000\\, d\\, h}",
  given: [
    sign("d", "bore of the range nozzle", "diameter"),
    sign("h", "pressure at its base as water", "head"),
  ],
  result: radius,
  source: "Textbook form, from memory",
  range:
    "jets that leave at 20° to 30°, in still air, inside the gun’s window; good to ±45 % until one throw is measured",
  of: textbookThrow,
});

export const CHART_THROW = formula({
  title: "Throw by the chart",
  equation: "R = R(p)",
  given: [
    sign("p", "pressure at its base", "pressure"),
    sign("R", "read off the chart there, straight over √p between its rows", "length"),
  ],
  result: radius,
  source: "The gun’s chart",
  range: "still air, inside the gun’s window; ±15 % (common practice, no source)",
  of: (_pressure: number, read: number) => read,
});

export const MEASURED_THROW = formula({
  title: "Throw as measured here",
  equation: "R = c\\, R_0",
  given: [
    sign("c", "measured over expected, mean of the throws taken", "ratio"),
    sign("R_0", "throw expected at this pressure", "length"),
  ],
  result: radius,
  source: "Throws taken on this job",
  range: "any pressure inside the gun’s window, since both go with its root",
  of: (factor: number, expected: number) => factor * expected,
});

export const WETTED = formula({
  title: "Ground one gun wets",
  equation: "A = \\pi R^2\\, \\frac{\\alpha}{360}",
  given: [radius, sign("\\alpha", "arc it turns through, degrees", "ratio")],
  result: area("ground it wets standing alone"),
  source: "Geometry",
  of: wettedArea,
});

export const RATE = formula({
  title: "How fast it rains there",
  equation: "i = \\frac{Q}{A}",
  given: [flow("flow of the gun"), area("ground it wets")],
  result: sign("i", "rate, metres or feet of water a second", "velocity"),
  source: "Balance of volumes; in US units 96.25 gpm/ft² is inches an hour",
  of: applicationRate,
});

export const PER_SET = formula({
  title: "Time a set",
  equation: "t = \\frac{z\\, A}{n\\, Q\\,(1 - o)}",
  given: [
    sign("z", "depth over the field", "length"),
    area("field to be watered"),
    sign("n", "sets", "ratio"),
    flow("flow of all guns"),
    sign("o", "part of it that falls outside", "ratio"),
  ],
  result: sign("t", "time a set, on average", "time"),
  source: "Balance of volumes",
  assumed: [
    "The depth is laid on the field, not on the circles, which overlap",
    "A gun that turns through less runs shorter",
  ],
  of: (depth: number, ground: number, sets: number, all: number, outside: number) =>
    secondsPerSet(depth, ground, sets, all * (1 - outside)),
});

export const LAID = formula({
  title: "Water in all",
  equation: "V = \\frac{z\\, A}{1 - o}",
  given: [
    sign("z", "depth over the field", "length"),
    area("field to be watered"),
    sign("o", "part that falls outside", "ratio"),
  ],
  result: sign("V", "water put out", "volume"),
  source: "Balance of volumes",
  of: (depth: number, ground: number, outside: number) => (depth * ground) / (1 - outside),
});

export const CHRISTIANSEN = formula({
  title: "Christiansen’s coefficient",
  equation: "C_u = 1 - \\frac{\\sum w_i |z_i - \\bar z|}{\\bar z \\sum w_i}",
  given: [
    sign(
      "\\frac{\\sum w |z - \\bar z|}{\\sum w}",
      "how far the cans lie off their mean, on average",
      "length",
    ),
    sign("\\bar z", "mean of the cans, each by its ground", "length"),
  ],
  result: sign("C_u", "coefficient", "ratio"),
  source:
    "J. E. Christiansen, Univ. of California Bulletin 670 (1942); by ground after Heermann and Hein (1968), from memory",
  of: christiansen,
});

export const LOW_QUARTER = formula({
  title: "Low quarter",
  equation: "D_u = \\frac{\\bar z_{lq}}{\\bar z}",
  given: [
    sign("\\bar z_{lq}", "mean of the quarter of the ground that got least", "length"),
    sign("\\bar z", "mean of the cans, each by its ground", "length"),
  ],
  result: sign("D_u", "uniformity of the low quarter", "ratio"),
  source: "US Soil Conservation Service, from memory",
  of: (least: number, mean: number) => least / mean,
});
