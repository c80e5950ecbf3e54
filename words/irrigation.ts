import { format, formatPercent, withUncertainty } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { DRIP_EVEN, EVENNESS, type IRRIGATION_FINDINGS } from "#core/finding/irrigation.ts";
import type { Finding } from "#core/finding/registry.ts";
import type { CanReason, CanResult } from "#core/irrigation/catchCans.ts";
import type { DayStep } from "#core/irrigation/dayPlan.ts";
import type { Calibration, Gun } from "#core/irrigation/gun.ts";
import type { Halving, HeadFactor, TogetherHeadFactor } from "#core/irrigation/infer.ts";
import type { Runoff, Soil } from "#core/irrigation/soil.ts";
import { ACRE, INCH } from "#core/quantity/constants.ts";
import { duration } from "./duration.ts";
import { doubtfulPercent } from "./fieldTests.ts";
import type { FindingWords } from "./findingWords.ts";

/** A depth of water on the ground: "12.7 mm", "0.50 in". */
export function depthOf(si: number, system: UnitSystem): string {
  return system === "us" ? `${(si / INCH).toFixed(2)} in` : `${(si * 1000).toFixed(1)} mm`;
}

/** A rate of water on the ground, from m/s. */
export function rateOf(si: number, system: UnitSystem): string {
  return `${depthOf(si * 3600, system)}/h`;
}

/** Ground: "1.23 ha", "3.04 acre"; small pieces in m² or ft². */
export function groundOf(area: number, system: UnitSystem): string {
  if (system === "us") {
    const acres = area / ACRE;
    return acres < 0.05 ? format(area, "area", "us") : `${acres.toPrecision(3)} acre`;
  }
  return area < 1000 ? format(area, "area", "metric") : `${(area / 1e4).toPrecision(3)} ha`;
}

const BY = {
  measured: "as measured here, carried by the root of the pressure",
  chart: "by its maker’s chart, ± 15 %",
  textbook: "by the textbook, ± 45 %: pace one throw and it is known",
} as const;

/** What measured throws say, and how far that carries. */
export function calibrationWords(
  { factor, standardUncertainty, used, leftOut }: Calibration,
  gun: Gun,
  system: UnitSystem,
): string[] {
  const of = gun.chart && gun.chart.length > 0 ? "its chart" : "the textbook";
  const { leastPressure: least, greatestPressure: most } = gun;
  const window =
    least !== undefined && most !== undefined
      ? ` between ${format(least, "pressure", system)} and ${format(most, "pressure", system)}`
      : " at which it throws as it should";
  const count = used.length === 1 ? "One throw makes" : `${used.length} throws make`;
  return [
    `${count} it ${withUncertainty(factor, 2 * standardUncertainty, 2)} times what ${of} says. That holds at every pressure${window}: both follow its root.`,
    ...(leftOut.length > 0
      ? [
          `${leftOut.length === 1 ? "One throw was" : `${leftOut.length} throws were`} taken outside that and ${leftOut.length === 1 ? "is" : "are"} left out: there it tells nothing.`,
        ]
      : []),
  ];
}

/** Why the first of several guns throws as it does, and not as it would alone: by the pressure, and nothing else. */
export function sharedWords(
  count: number,
  first: { pressure: number; radius?: number },
  alone: { pressure: number; radius?: number },
  system: UnitSystem,
): string {
  const say = (si: number) => format(si, "pressure", system);
  const length = (si: number) => format(si, "length", system);
  const shared = `${count} guns share the pump: gun 1 has ${say(first.pressure)}, where alone it would have ${say(alone.pressure)}.`;
  return first.radius !== undefined && alone.radius !== undefined
    ? `${shared} The throw follows the root of the pressure: ${length(first.radius)}, ${formatPercent(first.radius / alone.radius)} of the ${length(alone.radius)} it would throw alone.`
    : `${shared} The throw follows the root of the pressure, but only inside the pressure the gun is made for, and ${say(
        (first.radius === undefined ? first : alone).pressure,
      )} lies outside it.`;
}

const SOILS: Record<Soil, string> = { sand: "Sand", loam: "Loam", clay: "Clay" };

const RUNS: Record<Runoff["kind"], string> = {
  "soaks-in": "it soaks in there too",
  "may-run-off": "it may run off there",
  "runs-off": "it runs off there",
};

/** Wall clock of a time from midnight of the first day: "14:20", later days "+1 06:05". */
export function formatClock(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  const day = Math.floor(minutes / 1440);
  const two = (n: number) => String(n).padStart(2, "0");
  const clock = `${two(Math.floor((minutes % 1440) / 60))}:${two(minutes % 60)}`;
  return day > 0 ? `+${day} d ${clock}` : clock;
}

export function stepWords(step: DayStep): { title: string; note?: string } {
  switch (step.kind) {
    case "prime":
      return { title: "Prime and start", note: "Valve a third open until it runs full." };
    case "run":
      return { title: `Set ${step.set + 1}` };
    case "move":
      return { title: `Move to set ${step.set + 1}` };
    case "fuel":
      return {
        title: `Move to set ${step.set + 1} and refuel`,
        note: `Engine off. Fill from ${formatClock(step.fillFrom)}, once it is cool: fuel on a hot engine burns.`,
      };
    case "wait":
      return { title: "Wait for the calm" };
  }
}

export const CAN_REFUSED: Record<Extract<CanResult, { kind: "refused" }>["why"], string> = {
  "too-few": "Three cans at least, better eight: type what stood in them.",
  "no-time": "Type how long it ran.",
  "all-dry": "Every can is dry: nothing fell where they stood.",
};

/** Each as a cause that may be, not as one that is: what points to it put it where it stands. */
const CAN_REASONS: Record<CanReason, string> = {
  "nozzle-worn":
    "A nozzle worn, or larger than typed, gives more water at the same throw. Try the shank of a drill of its size in it, engine off.",
  "nozzle-smaller":
    "A nozzle smaller than typed, or partly blocked, gives less at much the same throw. Stop the engine, let the pressure down, look through it.",
  "pressure-higher":
    "More pressure than the line says gives more water and throws farther. Read a gauge at the gun’s base.",
  "pressure-lower":
    "Less pressure than the line says gives less water and throws short. Read a gauge at the gun’s base.",
  wind: "Wind carries it past the cans, to one side. Repeat it in the calm of the morning.",
  evaporation:
    "On a hot dry day up to 15 % goes into the air before it falls (common practice, no source). Repeat it in the evening.",
  "edge-missed": "The last cans still stood in water: more fell beyond them. Set cans farther out.",
};

/** How even a pattern is, by its coefficient. */
export function evennessWords(christiansen: number): string {
  if (christiansen >= EVENNESS.even) return "even";
  if (christiansen >= EVENNESS.fair) return "fair, enough for grass";
  return "uneven, some gets far too little";
}

/** The size of a grain: "100 µm", "0.004 in (100 µm)". Never rounded up: a filter must hold back what is larger. */
export function grainOf(si: number, system: UnitSystem): string {
  const micron = `${Math.floor(si * 1e6 + 1e-6)} µm`;
  return system === "us"
    ? `${(Math.floor((si / INCH) * 1e4) / 1e4).toFixed(4)} in (${micron})`
    : micron;
}

/** Whether pump and line carry a drip zone, and how many at a time. */
export function broughtWords(
  flow: number,
  brought: number,
  pressure: number,
  system: UnitSystem,
): string {
  const say = `With ${format(pressure, "pressure", system)} kept at the end of the line, pump and line bring ${format(brought, "flow", system)} there`;
  const zones = Math.floor(brought / flow);
  if (zones < 1) return `${say}: less than the zone takes. Open it in parts.`;
  if (zones < 4)
    return `${say}: ${zones === 1 ? "enough for it" : `${zones} such zones at a time`}.`;
  return `${say}: ${zones} such zones at a time. With one alone the pump works near its shut-off and heats the water: open several, or give it a way back.`;
}

const READ: Record<string, string> = {
  flow: "the flow",
  pressure: "the pressure",
  throw: "the throw",
  calibration: "one throw taped at a known pressure",
  nozzle: "the size of the nozzles, which drill shanks tell",
  line: "what the line loses, which a second gauge at the pump tells",
  level: "the water level",
  "pressure-one": "the pressure with one gun",
  "pressure-two": "the pressure with two",
};

/** The one reading that would help most, and whether it halves the doubt. */
export function halvingWords(halving: Halving<string> | undefined): string | undefined {
  if (!halving) return undefined;
  const what = READ[halving.name] ?? halving.name;
  if (halving.toHalf === undefined) {
    return `No one reading halves that; most of it is ${what}: known exactly, ${formatPercent(halving.left)} of the doubt would be left.`;
  }
  return halving.toHalf < 0.05
    ? `Measuring ${what} would halve it, if it came out exact.`
    : `Measuring ${what} to ${formatPercent(halving.toHalf)} of its present doubt halves it.`;
}

export function headFactorWords(own: HeadFactor, system: UnitSystem): string {
  const guns = own.guns === 1 ? "one gun" : `${own.guns} guns`;
  return `With ${guns} it moves ${format(own.flow, "flow", system)} at ${format(own.head, "head", system)}: ${doubtfulPercent(own)} of its curve.`;
}

export function togetherWords(found: TogetherHeadFactor): string {
  const { apart, agree } = found;
  if (agree)
    return `Both say the same: the pump makes ${doubtfulPercent(found)} of its published heads.`;
  return apart.value < 0
    ? `They do not agree: with two guns ${doubtfulPercent({ ...apart, value: -apart.value })} less than with one. More is lost with more flow than the line says, or the pump draws air: look at suction, strainer and hose before the pump.`
    : `They do not agree: with two guns ${doubtfulPercent(apart)} more than with one. Read both again, at the same engine speed.`;
}

const GROUND_REFUSED: Record<Finding<"ground-refused">["why"], string> = {
  "no-size": "The ground has no size yet: type its sides.",
  "too-few-sides": "A walk needs three sides, or two and the way straight back.",
  "crosses-itself":
    "The walk crosses itself. Check the bearings: each is taken along the side, clockwise from north.",
};

const SETS_REFUSED: Record<Finding<"sets-refused">["why"], string> = {
  "no-throw": "The gun does not throw: there is nothing to plan.",
  "nothing-left": "What is kept off takes up the whole ground: nothing is left to water.",
  "too-many-sets":
    "That would be more than 5000 stands. Check the size of the ground and the throw.",
};

const DRIP_REFUSED: Record<Finding<"drip-refused">["why"], string> = {
  "too-many-emitters": "That is more than 20 000 emitters: split the zone.",
  "no-pressure":
    "The pressure does not reach the end: nothing drips there. More pressure, a larger bore, or laterals that do not climb.",
  "not-balanced": "The zone cannot be solved as it stands. Check bores and flows.",
};

/** What is said of guns, ground, sets, the day, cans and drip. */
/** Guns that stand alone, or together, as they are told. */
export const STOOD = { one: "One gun open", two: "Two guns open" } as const;

export const IRRIGATION_WORDS: FindingWords<keyof typeof IRRIGATION_FINDINGS> = {
  "throw-outside-window": ({ stood }) => ({
    sentence: `${STOOD[stood]}: such a throw lies outside the pressure the gun is made for, where throw tells nothing of pressure. Read a gauge at its base.`,
  }),
  "gun-throw": ({ thrown, value }, { system }) => {
    const say = (si: number) => format(si, "pressure", system);
    switch (thrown.kind) {
      case "ring":
        return {
          title: "Falls in a ring",
          sentence:
            thrown.limit > 0
              ? `${say(value)} stand at its base; it throws from ${say(thrown.limit)} on. Below that the water comes down in a ring and leaves the middle dry.`
              : "No pressure stands at its base.",
        };
      case "mist":
        return {
          title: "Mists",
          sentence: `${say(value)} stand at its base; above ${say(thrown.limit)} the jet breaks up and drifts. Slow the pump, throttle it, or fit a larger nozzle.`,
        };
      case "throws": {
        const { radius, low, high, by, windowKnown } = thrown;
        const length = (si: number) => format(si, "length", system);
        return {
          title: windowKnown ? "Spreads evenly" : "Throws",
          sentence: `${length(radius)}, between ${length(low)} and ${length(high)}, ${BY[by]}.${windowKnown ? "" : " Whether it is inside the pressure it is made for is not known: type its window."}`,
        };
      }
    }
  },
  // Where a gun turns least the same water has less ground.
  runoff: ({ of: { runoff, soil, rate, guns, narrow } }, { system }) => {
    const { kind, low, high, least, most } = runoff;
    const takes = `${SOILS[soil]} takes up ${rateOf(low, system)} to ${rateOf(high, system)} (common practice, no source)`;
    const twice = guns > 1 ? ", more where two overlap" : "";
    const comes = `${rateOf(rate, system)} come down where one gun stands${twice}`;
    const there = narrow?.runoff
      ? ` Where it turns through ${narrow.arc.toFixed(0)}° it is ${rateOf(narrow.rate, system)}: ${RUNS[narrow.runoff.kind]}.`
      : "";
    switch (kind) {
      case "soaks-in":
        return { sentence: `It soaks in: ${comes}. ${takes}.${there}` };
      case "may-run-off":
        return {
          sentence: `It may run off: ${comes}. ${takes}; on the slowest, ${formatPercent(most)} stays on top. Lay it in two rounds where puddles show.${there}`,
        };
      case "runs-off":
        return {
          sentence: `It runs off: ${comes}. ${takes}; at least ${formatPercent(least)} stays on top, up to ${formatPercent(most)}. Use a smaller nozzle, or short rounds.${there}`,
        };
    }
  },
  "ground-refused": ({ why }) => ({ sentence: GROUND_REFUSED[why] }),
  "sets-refused": ({ why }) => ({ sentence: SETS_REFUSED[why] }),
  "set-note": ({ note, outside }, { system, keepOff }) => {
    switch (note.code) {
      case "circle-larger-than-field":
        return {
          sentence: `One circle is wider than the ground, which is ${format(note.width, "length", system)} across: ${formatPercent(outside)} of the water falls outside it. A smaller nozzle or a part circle keeps it in.`,
        };
      case "keep-off-overlap":
        return {
          sentence: `${keepOff(note.between[0])} and ${keepOff(note.between[1]).toLowerCase()} overlap: what lies in both is kept off once.`,
        };
      case "over-an-edge": {
        const one = note.stands.length === 1;
        const stands = note.stands.map((i) => i + 1).join(", ");
        return {
          sentence: `From ${one ? "stand" : "stands"} ${stands} no arc worth turning stays off an edge that is to be dry: move ${one ? "it" : "them"} in by hand, or fit a smaller nozzle.`,
        };
      }
    }
  },
  // Ground that gets hardly any of it, and why.
  "ground-dry": ({ value, keptOff }) => ({
    sentence: `${formatPercent(value)} of the ground gets less than a quarter of the mean${
      keptOff ? ": beside the edges that keep water off" : ""
    }.`,
  }),
  "day-refused": ({ plan }) => {
    switch (plan.why) {
      case "tank-shorter-than-set":
        return {
          sentence: `The tank lasts ${duration(plan.has)}, and set ${plan.set + 1} takes ${duration(plan.takes)}: it would run dry in the middle and lose its prime. Lay less depth, shorten the set, or use a larger tank.`,
        };
      case "calm-shorter-than-set":
        return {
          sentence: `The calm lasts ${duration(plan.has)}, and set ${plan.set + 1} takes ${duration(plan.takes)} with priming: it cannot be finished in it. Lay less depth or widen the hours.`,
        };
      case "no-sets-left":
        return { sentence: "No set is left: the ground is watered." };
      case "too-long":
        return {
          sentence: `It would take more than ${plan.days} days. Check the depth and the hours.`,
        };
    }
  },
  "cans-agree": ({ agreement, value, limit }, { system }) => {
    const flow = (si: number) => format(si, "flow", system);
    const { ratio, doubt } = agreement;
    const sentence = `The cans add up to ${flow(value)}, the line says ${flow(limit)}: ${withUncertainty(100 * ratio, 100 * doubt, 0)} % of it.`;
    return agreement.kind === "agree"
      ? { title: "Cans and line agree", sentence }
      : {
          title: ratio > 1 ? "More fell than the line says" : "Less fell than the line says",
          sentence,
          reasons: agreement.reasons.map((own) => CAN_REASONS[own]),
        };
  },
  "drip-refused": ({ why }) => ({ sentence: DRIP_REFUSED[why] }),
  "drip-evenness": ({ value }) => ({
    sentence:
      value >= DRIP_EVEN.good
        ? "Even along all of it."
        : value >= DRIP_EVEN.fair
          ? "Fair: a larger submain or shorter laterals help."
          : "Uneven: shorten the laterals, take a larger bore, or emitters that hold their flow.",
  }),
};
