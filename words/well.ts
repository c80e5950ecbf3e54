import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { conductorName } from "#core/driving/conductor.ts";
import { DROP, START_VOLTAGE } from "#core/driving/motor.ts";
import type {
  CABLE_FINDINGS,
  CableLacks,
  DRAWDOWN_FINDINGS,
  DRAWS_FINDINGS,
  HANGING_FINDINGS,
  OTHER_PUMP_FINDINGS,
  TANK_FINDINGS,
  TAP_FINDINGS,
  VALVE_FINDINGS,
  WELL_FINDINGS,
} from "#core/finding/well.ts";
import type { WaterLevel } from "#core/fluid/levels.ts";
import { FOOT, GALLON } from "#core/quantity/constants.ts";
import type { DropPipeState } from "#core/well/dropPipe.ts";
import { duration } from "./duration.ts";
import type { FindingWords } from "./findingWords.ts";
import { amountOf } from "./simulation.ts";

/** The three states of a well's water through the year. */
export const SEASONS: Record<WaterLevel, string> = {
  low: "Dry season",
  normal: "Usual",
  high: "Wet season",
};

/** A season by its name; one that nobody measured is not told as if somebody had. */
export const seasonName = ({ at, assumed }: { at: WaterLevel; assumed: boolean }): string =>
  assumed ? `${SEASONS[at]}: not measured` : SEASONS[at];

/** Seconds where they are few, else as a duration. */
export const spell = (seconds: number): string =>
  !Number.isFinite(seconds)
    ? "without end"
    : seconds < 120
      ? `${seconds < 10 ? seconds.toFixed(1) : Math.round(seconds)} s`
      : duration(seconds);

/** "11.3 L" or "3.0 gal": small volumes as they are told of tanks. */
export const litres = (si: number, system: UnitSystem): string =>
  system === "us" ? `${(si / GALLON).toFixed(1)} gal` : `${(si * 1000).toFixed(1)} L`;

/** J for a m³ as energy is told of water. */
export const workOf = (perVolume: number, system: UnitSystem): string =>
  system === "us"
    ? `${((perVolume * GALLON * 1000) / 3.6e6).toPrecision(2)} kWh/1000 gal`
    : `${(perVolume / 3.6e6).toPrecision(2)} kWh/m³`;

export const PIPE_STATES: Record<DropPipeState, string> = {
  running: "Running",
  "cut-out": "At cut-out",
  "dead-headed": "Dead-headed",
};

/** What is cut, joined and tied, as it stands on a list. */
export const PART_NAMES = {
  "torque-arrestor": "Torque arrestor over the pump",
  rope: "Safety rope",
  cable: "Submersible cable",
  "splice-kit": "Heat-shrink splice kit",
  "cable-ties": "Cable ties",
  joints: "Pipe joints",
  clamps: "Hose clamps, two to each barb end",
  "more-checks": "Further check valves on the way up",
  "well-head": "Sanitary well seal or pitless adapter",
} as const;

/** "day 2, 18:40", or "18:40" of the first. */
export function clock(seconds: number): string {
  const day = Math.floor(seconds / 86_400);
  const minutes = Math.floor((seconds % 86_400) / 60);
  const at = `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
  return day === 0 ? at : `day ${day + 1}, ${at}`;
}

type WellCode =
  | keyof typeof WELL_FINDINGS
  | keyof typeof DRAWDOWN_FINDINGS
  | keyof typeof HANGING_FINDINGS
  | keyof typeof CABLE_FINDINGS
  | keyof typeof TANK_FINDINGS
  | keyof typeof VALVE_FINDINGS
  | keyof typeof DRAWS_FINDINGS
  | keyof typeof TAP_FINDINGS
  | keyof typeof OTHER_PUMP_FINDINGS;

/** What is said of a well, its test, pipe, cable, tank and days, and of other ways to lift its water. */
const CABLE_LACKS: Record<CableLacks["lacks"][number], string> = {
  pump: "The cable follows the motor: choose a pump first, under Pump.",
  volts: "Neither the pump’s plate nor the supply says how many volts: type either.",
  current:
    "The motor’s current is not on its plate, nor is its power published: read it with a clamp meter, and type it with the pump.",
};

export const WELL_WORDS: FindingWords<WellCode> = {
  "drawdown-differs": () => ({
    sentence: "The line is solved with another drawdown than these steps give.",
  }),
  "step-too-short": ({ step, value }) => ({
    sentence: `Step ${step + 1} was too short: by what stands in the casing alone the level takes ${duration(value)} to settle, and what was pumped came in part out of the casing.`,
  }),
  "well-weaker-than-pump": ({ lifts, runs, startsPerHour, perDay }, { system }) => ({
    sentence: `The pump lifts ${format(lifts, "flow", system)}, more than the well gives in the dry season: with a guard against running dry it runs ${(100 * runs).toFixed(0)} % of the day, ${startsPerHour.toFixed(1)} starts an hour, and gives ${amountOf(perDay, system)} a day at the most. A tank lives on that meanwhile.`,
  }),
  "pump-weight-unknown": () => ({
    sentence: "What hangs there is not told: type the pump’s weight with the pump.",
  }),

  "drawdown-unknown": () => ({
    sentence:
      "How far pumping draws the water down is not known. Pump at a flow you can measure until the level stays, dip it, and type both.",
  }),
  "step-not-drawn": ({ at }) => ({
    sentence: `Step ${at + 1} stands at the standing water or above it: water being pumped stands lower. Dip it again, or put the standing water right.`,
  }),
  "drawdown-straightens": ({ testedTo }, { system }) => ({
    sentence: `Between its steps the drawdown grows slower than the flow, which no well does for long: the levels had not settled, or a flow is wrong. It is taken as going with the flow, up to ${format(testedTo, "flow", system)}.`,
  }),
  "drawdown-chokes": ({ testedTo }, { system }) => ({
    sentence: `Its drawdown grows faster than the square of the flow: something chokes, or a level is wrong. It is taken as the square, up to ${format(testedTo, "flow", system)}.`,
  }),
  "one-step": ({ testedTo }, { system }) => ({
    sentence: `One step: the drawdown is taken to go with the flow, and above ${format(testedTo, "flow", system)} it is not known. A second step at a larger flow tells how it bends.`,
  }),
  "two-steps": ({ testedTo }, { system }) => ({
    sentence: `Two steps, which any curve goes through: a third would tell whether they agree. Tested to ${format(testedTo, "flow", system)}; above that the drawdown is not known.`,
  }),
  "steps-agree": ({ scatter, testedTo }, { system }) => ({
    sentence: `The steps lie within ${format(scatter, "length", system)} of one curve. Tested to ${format(testedTo, "flow", system)}; above that the drawdown is not known.`,
  }),

  "lifting-weight": ({ value, limit, dry, severity }, { system }) => {
    const mass = (si: number) => format(si, "mass", system);
    return {
      sentence: `${mass(dry)} go down; ${mass(value)} come up, the pipe full of water. ${
        severity === "watch"
          ? `That is more than one person lifts (${mass(limit)}): two, or a tripod and winch, and never by the cable.`
          : "Never by the cable."
      }`,
    };
  },
  "rope-strength": ({ value, factor }, { system }) => ({
    sentence: `The rope has to break at ${format(value, "mass", system)} or more, ${factor} times what hangs (common practice, no source).`,
  }),
  "pipe-pulled": ({ value, limit, severity }, { system }) => ({
    sentence: `Its weight pulls the pipe with ${format(value, "pressure", system)}; it may be pulled with ${format(limit, "pressure", system)} all its life (half its design stress, from memory).${severity === "stop" ? " The rope must carry it, or stiffer pipe." : ""}`,
  }),

  "cable-size": ({ row: { fails, assumed, part, ampacity, carries }, breaker }) => {
    if (fails.includes("start")) {
      return { sentence: `Starts it at less than ${formatPercent(START_VOLTAGE)} of its voltage` };
    }
    if (fails.includes("drop")) {
      return { sentence: `Loses more than ${formatPercent(DROP.most)}` };
    }
    const guessed = assumed.includes("ampacity");
    const amperes = `${ampacity.toFixed(0)} A${guessed ? " (from memory)" : ""}`;
    if (fails.includes("ampacity")) {
      return {
        sentence:
          breaker === undefined
            ? `Carries ${amperes}, less than the ${carries.toFixed(0)} A it should`
            : `Carries ${amperes}, less than its ${breaker} A breaker lets through`,
      };
    }
    const passes =
      part > DROP.good ? `Passes, losing more than ${formatPercent(DROP.good)}` : "Passes";
    return { sentence: guessed ? `${passes}; ${amperes}` : passes };
  },
  /** The one answer, and what of it an electrician has still to say. */
  "cable-motor": ({ lack }) => ({ sentence: CABLE_LACKS[lack] }),
  "cable-choice": (choice) => {
    if (!("row" in choice) || choice.row === undefined) {
      return {
        sentence:
          "No size here keeps the voltage up and carries its breaker: a shorter way, a higher voltage, or a motor that starts softly.",
      };
    }
    const { conductor, part, ampacity, carries, assumed } = choice.row;
    const loses =
      part > DROP.good
        ? ` It loses ${formatPercent(part, 1)} of the voltage, more than ${formatPercent(DROP.good)}: a heavier one loses less.`
        : "";
    const taken = [
      ...(assumed.includes("ampacity")
        ? [
            `that it carries ${ampacity.toFixed(1).replace(/\.0$/, "")} A is a cautious table’s, from memory`,
          ]
        : []),
      ...(assumed.includes("breaker")
        ? [
            `with no breaker typed it is held against ${carries.toFixed(1)} A, a quarter over the running current`,
          ]
        : []),
    ];
    const ask = taken.length > 0 ? ` Ask your electrician: ${taken.join("; ")}.` : "";
    return {
      sentence: `${conductorName(conductor)} is the cheapest that keeps the voltage up and carries its breaker.${loses}${ask}`,
    };
  },

  "tank-upside-down": () => ({
    sentence:
      "Its cut-out does not lie above its cut-in: no switch works so. Type one of them again.",
  }),
  "tank-over-charged": ({ value, limit }, { system }) => ({
    sentence: `Its air at ${format(value, "pressure", system)} is above the cut-in of ${format(limit, "pressure", system)}: the taps run dry before the pump starts. Let air out with the tank empty.`,
  }),
  "tank-starts-not-told": () => ({
    sentence: "How often it starts is told once a pump runs into it: choose one under Pump.",
  }),
  "tank-never-stops": () => ({
    sentence:
      "With nothing drawn the pump still does not bring it to its cut-out, and never stops: a lower cut-out or a pump with more head.",
  }),
  "tank-run": ({ value, severity, forMinute }, { system }) => ({
    sentence: `It runs ${spell(value)} at the least${
      severity === "watch" && forMinute !== undefined
        ? `; a minute wants a tank of ${litres(forMinute, system)} (common practice, no source)`
        : ""
    }.`,
  }),
  "tank-starts": ({ value, limit, use }, { system }) => ({
    sentence: `${value.toFixed(0)} starts an hour at the most, while ${format(use, "flow", system)} are drawn all the time; ${
      limit === undefined ? "its plate does not say how many it may." : `its plate allows ${limit}.`
    }`,
  }),

  "valve-least-flow": ({ value, limit, past, severity }, { system }) => {
    const flow = (si: number) => format(si, "flow", system);
    const speed = (si: number) => format(si, "velocity", system);
    if (limit === undefined) {
      return {
        sentence: past
          ? `While little is drawn the valve lets ${flow(value)} through, and the water passes the motor at ${speed(past.velocity)}; ${speed(past.limit)} cools it at full load (common practice, no source). It takes less then: ask its maker, or fit a sleeve.`
          : `The valve always lets ${flow(value)} through; what its motor needs to stay cool is not on its plate: ask its maker.`,
      };
    }
    return {
      sentence:
        severity === "stop"
          ? `The valve lets as little as ${flow(value)} through; the motor needs ${flow(limit)} to stay cool.`
          : `The valve always lets ${flow(value)} through; the motor needs ${flow(limit)}.`,
    };
  },

  "day-without-run": (found, { system }) => ({
    sentence:
      found.why === "no-water"
        ? "In the dry season the water stands below the intake: nothing is pumped at all. Hang the pump lower."
        : `${found.draws} draws and ${amountOf(found.volume, system)} a day are wanted. What the tank and the well make of it is told once a pump runs into the tank: choose one under Pump.`,
  }),
  "draws-broken-off": () => ({
    sentence: "So much switches on and off that it was broken off: a larger tank.",
  }),
  "draws-held-for-water": ({ value }) => ({
    sentence: `The guard stopped the pump ${value} ${value === 1 ? "time" : "times"} for want of water in the well.`,
  }),
  "draws-short": ({ value, wanted, firstShort }, { system }) => ({
    sentence: `${amountOf(value, system)} of ${amountOf(wanted, system)} did not come${firstShort === undefined ? "" : `, first at ${clock(firstShort)}`}.`,
  }),
  "draws-start-often": ({ value, limit }) => ({
    sentence: `${value} starts within one hour; its plate allows ${limit}.`,
  }),
  "draws-met": () => ({
    sentence: "Every draw was met, with the pauses these draws leave the well.",
  }),
  "tap-pressure": ({ value, limit }, { system }) => ({
    sentence:
      value <= 0
        ? "So much does not come."
        : `${format(value, "pressure", system)} at the least; under ${format(limit, "pressure", system)} people complain (common practice, no source).`,
  }),

  "top-suction": ({ value, limit, severity }, { system }) => {
    const head = (si: number) => format(si, "head", system);
    return {
      sentence:
        severity === "stop"
          ? `No pump at the top draws from here: the water stands ${head(value)} down in the dry season, and it holds ${head(limit)} here at the most, ${format(25 * FOOT, "head", system)} at the sea (common practice, no source). The pump, or a hand pump’s cylinder, has to go down.`
          : `The water stands ${head(value)} down in the dry season; a pump at the top holds ${head(limit)} here at the most, friction and drawdown still to come off.`,
    };
  },
  "handle-force": ({ limit, severity }, { system }) => ({
    sentence: `A person keeps up ${forceOf(limit, system)} for minutes (common practice, no source)${severity === "stop" ? ": a smaller cylinder, or a longer handle" : ""}.`,
  }),
  "hand-suction": ({ value, limit, severity }, { system }) => {
    const head = (si: number) => format(si, "head", system);
    return {
      sentence:
        severity === "stop"
          ? `Its cylinder would have to suck the water up ${head(value)}; ${head(limit)} is the most here. Hang the cylinder in the water.`
          : `Its cylinder sucks the water up ${head(value)}, of ${head(limit)} at the most here.`,
    };
  },
  "jet-suction": ({ name, flow, lift, limit }, { system }) => {
    const head = (si: number) => format(si, "head", system);
    return {
      sentence: `${name}: ${flow === undefined ? "does not lift it to the outlet" : format(flow, "flow", system)}${
        lift === undefined
          ? ""
          : `, drawing ${head(lift)} up with friction; it holds ${limit === undefined ? "nobody says how much" : head(limit)} here`
      }.`,
    };
  },
  "air-lift": ({ result }, { system }) => {
    switch (result.kind) {
      case "will-not-start":
        return {
          sentence: `It starts at ${format(result.needs, "pressure", system)} of air in the wet season; this compressor does not give that.`,
        };
      case "will-not-run":
        return {
          sentence: `It starts, but with air running it takes ${format(result.needs, "pressure", system)}; this compressor does not give that.`,
        };
      case "too-little-water":
        return {
          sentence: `Only ${(100 * Math.max(result.submergence, 0)).toFixed(0)} % of its length stands in water: under 35 % it gurgles and gives next to nothing. Hang its foot deeper.`,
        };
    }
  },
  "pulse-pump": ({ start, losses, starts, submergence }, { system }) => {
    const head = (si: number) => format(si, "head", system);
    const pressure = (si: number) => format(si, "pressure", system);
    return {
      sentence:
        submergence <= 0
          ? `In the dry season its foot hangs ${head(-submergence)} over the water: it stops.`
          : starts
            ? `Its air pump gives more than the ${pressure(start)} of water over its inlet in the wet season; valves and hose take about ${pressure(losses)} beside that (common practice, no source). In the dry season its foot stands ${head(submergence)} in the water.`
            : `Its air pump does not give the ${pressure(start)} of water over its inlet in the wet season.`,
    };
  },
};

/** A force as it is told of a handle. */
export const forceOf = (newtons: number, system: UnitSystem): string =>
  system === "us" ? `${(newtons / 4.448).toFixed(0)} lbf` : `${newtons.toFixed(0)} N`;
