import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { CableChoice, CableRow } from "#core/driving/cableChoice.ts";
import { conductorName } from "#core/driving/conductor.ts";
import { DROP, START_VOLTAGE } from "#core/driving/motor.ts";
import type { WaterLevel } from "#core/line/path.ts";
import { FOOT, GALLON } from "#core/quantity/constants.ts";
import type { DrawdownFit } from "#core/well/drawdown.ts";
import type { DropPipeState } from "#core/well/dropPipe.ts";
import { FOR_ONE, type Hangs, ROPE_FACTOR } from "#core/well/hanging.ts";
import { duration } from "./duration.ts";
import { amountOf } from "./simulation.ts";

/** A sentence with how much it matters. */
export interface SaidOfWell {
  severity: "stop" | "watch" | "unknown" | "good";
  sentence: string;
}

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

/** What the test says, and how far it may be trusted. */
export function fitWords(fit: DrawdownFit, system: UnitSystem): SaidOfWell {
  switch (fit.kind) {
    case "none":
      return {
        severity: "unknown",
        sentence:
          "How far pumping draws the water down is not known. Pump at a flow you can measure until the level stays, dip it, and type both.",
      };
    case "no-drawdown":
      return {
        severity: "stop",
        sentence: `Step ${fit.at + 1} stands at the standing water or above it: water being pumped stands lower. Dip it again, or put the standing water right.`,
      };
    case "fitted": {
      const to = format(fit.testedTo, "flow", system);
      if (fit.held === "quadratic") {
        return {
          severity: "watch",
          sentence: `Between its steps the drawdown grows slower than the flow, which no well does for long: the levels had not settled, or a flow is wrong. It is taken as going with the flow, up to ${to}.`,
        };
      }
      if (fit.held === "linear") {
        return {
          severity: "watch",
          sentence: `Its drawdown grows faster than the square of the flow: something chokes, or a level is wrong. It is taken as the square, up to ${to}.`,
        };
      }
      if (fit.drawdown.quadratic === 0) {
        return {
          severity: "watch",
          sentence: `One step: the drawdown is taken to go with the flow, and above ${to} it is not known. A second step at a larger flow tells how it bends.`,
        };
      }
      return fit.scatter === undefined
        ? {
            severity: "watch",
            sentence: `Two steps, which any curve goes through: a third would tell whether they agree. Tested to ${to}; above that the drawdown is not known.`,
          }
        : {
            severity: "good",
            sentence: `The steps lie within ${format(fit.scatter, "length", system)} of one curve. Tested to ${to}; above that the drawdown is not known.`,
          };
    }
  }
}

export const PIPE_STATES: Record<DropPipeState, string> = {
  running: "Running",
  "cut-out": "At cut-out",
  "dead-headed": "Dead-headed",
};

/** What hangs there, and who and what lifts it. */
export function hangsWords(hangs: Hangs, system: UnitSystem): SaidOfWell[] {
  const mass = (si: number) => format(si, "mass", system);
  const said: SaidOfWell[] = [
    {
      severity: hangs.full > FOR_ONE ? "watch" : "good",
      sentence: `${mass(hangs.dry)} go down; ${mass(hangs.full)} come up, the pipe full of water. ${
        hangs.full > FOR_ONE
          ? `That is more than one person lifts (${mass(FOR_ONE)}): two, or a tripod and winch, and never by the cable.`
          : "Never by the cable."
      }`,
    },
    {
      severity: "good",
      sentence: `The rope has to break at ${mass(hangs.rope)} or more, ${ROPE_FACTOR} times what hangs (common practice, no source).`,
    },
  ];
  if (hangs.pull) {
    const { stress, allowed } = hangs.pull;
    const bad = stress > allowed;
    said.push({
      severity: bad ? "stop" : "good",
      sentence: `Its weight pulls the pipe with ${format(stress, "pressure", system)}; it may be pulled with ${format(allowed, "pressure", system)} all its life (half its design stress, from memory).${bad ? " The rope must carry it, or stiffer pipe." : ""}`,
    });
  }
  return said;
}

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

/** How a size of cable stands: one that loses more than is good is watched. */
export const cableSeverity = ({ fails, assumed, part }: CableRow): SaidOfWell["severity"] =>
  fails.length > 0 ? "stop" : part > DROP.good ? "watch" : assumed.length > 0 ? "unknown" : "good";

/** Why a size of cable is taken, or not. */
export function cableWords(
  { fails, assumed, part, ampacity, carries }: CableRow,
  breaker: number | undefined,
): string {
  if (fails.includes("start"))
    return `Starts it at less than ${formatPercent(START_VOLTAGE)} of its voltage`;
  if (fails.includes("drop")) return `Loses more than ${formatPercent(DROP.most)}`;
  const amperes = `${ampacity.toFixed(0)} A${assumed.includes("ampacity") ? " (from memory)" : ""}`;
  if (fails.includes("ampacity")) {
    return breaker === undefined
      ? `Carries ${amperes}, less than the ${carries.toFixed(0)} A it should`
      : `Carries ${amperes}, less than its ${breaker} A breaker lets through`;
  }
  const passes =
    part > DROP.good ? `Passes, losing more than ${formatPercent(DROP.good)}` : "Passes";
  return assumed.includes("ampacity") ? `${passes}; ${amperes}` : passes;
}

/** The one answer, and what of it an electrician has still to say. */
export function choiceWords(choice: CableChoice): SaidOfWell {
  if (choice.kind === "none") {
    return {
      severity: "stop",
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
    severity: loses ? "watch" : ask ? "unknown" : "good",
    sentence: `${conductorName(conductor)} is the cheapest that keeps the voltage up and carries its breaker.${loses}${ask}`,
  };
}

/** What a tank asks for, the worst first. */
export function tankWords(
  told: {
    overCharged: boolean;
    upsideDown: boolean;
    switched?: {
      runsOn: boolean;
      shortest?: number;
      worst?: { startsPerHour: number; use: number };
    };
    startsLimit?: number;
    forMinute?: number;
    tank: { volume: number; preCharge: number; cutIn: number };
  },
  system: UnitSystem,
): SaidOfWell[] {
  const said: SaidOfWell[] = [];
  const pressure = (si: number) => format(si, "pressure", system);
  const { overCharged, switched, startsLimit, forMinute, tank } = told;
  if (told.upsideDown) {
    said.push({
      severity: "stop",
      sentence:
        "Its cut-out does not lie above its cut-in: no switch works so. Type one of them again.",
    });
    return said;
  }
  if (overCharged) {
    said.push({
      severity: "stop",
      sentence: `Its air at ${pressure(tank.preCharge)} is above the cut-in of ${pressure(tank.cutIn)}: the taps run dry before the pump starts. Let air out with the tank empty.`,
    });
  }
  if (!switched) {
    said.push({
      severity: "unknown",
      sentence: "How often it starts is told once a pump runs into it: choose one under Pump.",
    });
    return said;
  }
  if (switched.runsOn) {
    said.push({
      severity: "stop",
      sentence:
        "With nothing drawn the pump still does not bring it to its cut-out, and never stops: a lower cut-out or a pump with more head.",
    });
    return said;
  }
  if (switched.shortest !== undefined) {
    const short = switched.shortest < 60;
    said.push({
      severity: short ? "watch" : "good",
      sentence: `It runs ${spell(switched.shortest)} at the least${
        short && forMinute !== undefined
          ? `; a minute wants a tank of ${litres(forMinute, system)} (common practice, no source)`
          : ""
      }.`,
    });
  }
  const worst = switched.worst;
  if (worst) {
    const often = startsLimit !== undefined && worst.startsPerHour > startsLimit;
    said.push({
      severity: startsLimit === undefined ? "unknown" : often ? "watch" : "good",
      sentence: `${worst.startsPerHour.toFixed(0)} starts an hour at the most, while ${format(worst.use, "flow", system)} are drawn all the time; ${
        startsLimit === undefined
          ? "its plate does not say how many it may."
          : `its plate allows ${startsLimit}.`
      }`,
    });
  }
  return said;
}

/** What the motor is cooled by while a valve lets only its least flow through. */
export function leastFlowWords(
  least: number,
  plate: number | undefined,
  past: { velocity: number; limit: number } | undefined,
  system: UnitSystem,
): SaidOfWell {
  const speed = (si: number) => format(si, "velocity", system);
  const flow = (si: number) => format(si, "flow", system);
  if (plate === undefined) {
    // What the plate states is what cools it; where it states nothing, the water past the motor has to.
    return past && past.velocity < past.limit
      ? {
          severity: "watch",
          sentence: `While little is drawn the valve lets ${flow(least)} through, and the water passes the motor at ${speed(past.velocity)}; ${speed(past.limit)} cools it at full load (common practice, no source). It takes less then: ask its maker, or fit a sleeve.`,
        }
      : {
          severity: "unknown",
          sentence: `The valve always lets ${flow(least)} through; what its motor needs to stay cool is not on its plate: ask its maker.`,
        };
  }
  return least < plate
    ? {
        severity: "stop",
        sentence: `The valve lets as little as ${flow(least)} through; the motor needs ${flow(plate)} to stay cool.`,
      }
    : {
        severity: "good",
        sentence: `The valve always lets ${flow(least)} through; the motor needs ${flow(plate)}.`,
      };
}

/** What a day, or a week, of draws comes to by one school. */
export function dayWords(
  run: {
    starts: number;
    worstHour: number;
    short: number;
    firstShort?: number;
    heldForWater: number;
    wanted: number;
    brokenOff: boolean;
  },
  startsLimit: number | undefined,
  system: UnitSystem,
): SaidOfWell[] {
  const said: SaidOfWell[] = [];
  if (run.brokenOff) {
    said.push({
      severity: "stop",
      sentence: "So much switches on and off that it was broken off: a larger tank.",
    });
  }
  if (run.heldForWater > 0) {
    said.push({
      severity: "stop",
      sentence: `The guard stopped the pump ${run.heldForWater} ${run.heldForWater === 1 ? "time" : "times"} for want of water in the well.`,
    });
  }
  if (run.short > 0) {
    said.push({
      severity: "stop",
      sentence: `${amountOf(run.short, system)} of ${amountOf(run.wanted, system)} did not come${run.firstShort === undefined ? "" : `, first at ${clock(run.firstShort)}`}.`,
    });
  }
  if (startsLimit !== undefined && run.worstHour > startsLimit) {
    said.push({
      severity: "watch",
      sentence: `${run.worstHour} starts within one hour; its plate allows ${startsLimit}.`,
    });
  }
  if (said.length === 0) {
    said.push({
      severity: "good",
      sentence: "Every draw was met, with the pauses these draws leave the well.",
    });
  }
  return said;
}

/** "day 2, 18:40", or "18:40" of the first. */
export function clock(seconds: number): string {
  const day = Math.floor(seconds / 86_400);
  const minutes = Math.floor((seconds % 86_400) / 60);
  const at = `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
  return day === 0 ? at : `day ${day + 1}, ${at}`;
}

/** Where nothing sucks water up any more. */
export function suctionWords(limit: number, lift: number, system: UnitSystem): SaidOfWell {
  const head = (si: number) => format(si, "head", system);
  return lift > limit
    ? {
        severity: "stop",
        sentence: `No pump at the top draws from here: the water stands ${head(lift)} down in the dry season, and it holds ${head(limit)} here at the most, ${format(25 * FOOT, "head", system)} at the sea (common practice, no source). The pump, or a hand pump’s cylinder, has to go down.`,
      }
    : {
        severity: lift > 0.9 * limit ? "watch" : "good",
        sentence: `The water stands ${head(lift)} down in the dry season; a pump at the top holds ${head(limit)} here at the most, friction and drawdown still to come off.`,
      };
}
