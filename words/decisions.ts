import { format, formatPercent, formatSize } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { findConductor } from "#core/driving/conductor.ts";
import type { PathItem } from "#core/line/path.ts";
import type { Decided, Decision, DecisionId, DecisionState } from "#model/kinds/decision.ts";
import { checkWords } from "./checks.ts";
import { CONTEXT_NAMES, findingWords } from "./findings.ts";
import { formatClock } from "./irrigation.ts";
import { stockName } from "./items.ts";
import { formatDuration } from "./simulation.ts";
import { litres } from "./well.ts";

export const DECISION_NAMES: Record<DecisionId, string> = {
  pump: "Pump",
  suction: "Suction",
  discharge: "Pipe",
  floats: "Floats",
  "stays-dry": "Stays dry",
  "power-cut": "Power cut",
  backup: "Backup",
  drains: "Drains",
  "dry-after": "Dry after",
  "full-after": "Full after",
  hang: "Hang",
  "drop-pipe": "Drop pipe",
  cable: "Cable",
  "pre-charge": "Pre-charge",
  tank: "Tank",
  gun: "Gun",
  sets: "Sets",
  fuel: "Fuel",
};

export const DECISION_STATES: Record<DecisionState, string> = {
  open: "Open",
  advised: "Usual",
  chosen: "Chosen",
  stopped: "Stop",
};

/** What is chosen or advised, and one clause why. */
interface DecisionSaid {
  value: string;
  why: string;
}

/** A decision in words: of one that is stopped, the clause is what stops it. */
export function decisionWords(
  decision: Decision,
  job: {
    path: readonly PathItem[];
    source: { kind: string };
    bodies?: readonly { name?: string | undefined }[] | undefined;
  },
  system: UnitSystem,
): DecisionSaid {
  const say = WORDS[decision.id] as (own: Decision, system: UnitSystem) => DecisionSaid;
  const said = say(decision, system);
  const { stop } = decision;
  if (!stop) return said;
  if (stop.of === "line") return { ...said, why: checkWords(stop.judgement, job, system).title };
  const { title = CONTEXT_NAMES[stop.finding.context] } = findingWords(stop.finding, {
    system,
    body: (index) => job.bodies?.[index]?.name || `Water ${index + 1}`,
  });
  return { ...said, why: title };
}

const pipeWords = (
  { stock, velocity, head }: Decided<"suction" | "discharge">,
  system: UnitSystem,
): DecisionSaid => ({
  value: stock === undefined ? "no pipe yet" : stockName(stock),
  why:
    velocity === undefined
      ? "what it takes is told once water moves"
      : `${format(velocity, "velocity", system)}${head === undefined ? "" : `, takes ${format(head, "head", system)}`}`,
});

const WORDS: { [D in DecisionId]: (own: Decided<D>, system: UnitSystem) => DecisionSaid } = {
  pump: ({ pumps, flow, wanted, takes }, system) => {
    const say = (si: number) => format(si, "flow", system);
    const [first, ...more] = pumps;
    const alike = more.every((name) => name === first);
    const name =
      first === undefined
        ? "to be chosen"
        : more.length === 0
          ? first
          : alike
            ? `${pumps.length} × ${first}`
            : pumps.join(" and ");
    const asks = wanted === undefined ? "" : `, ${say(wanted)} wanted`;
    return {
      value: name,
      why:
        flow !== undefined
          ? `moves ${say(flow)}${asks}`
          : takes !== undefined && wanted !== undefined
            ? `has to make ${format(takes, "head", system)} at ${say(wanted)}`
            : wanted === undefined
              ? "say how much water is wanted"
              : `${say(wanted)} wanted`,
    };
  },
  suction: pipeWords,
  discharge: pipeWords,
  floats: ({ on, off, starts, limit }, system) => ({
    value:
      on === undefined || off === undefined
        ? "no float yet"
        : `${formatSize(Math.abs(on - off), system, "nearest")} apart`,
    why:
      starts === undefined
        ? "how often it starts is told once it runs"
        : `up to ${starts.toFixed(0)} starts an hour${limit === undefined ? "" : `, ${limit.toFixed(0)} allowed`}`,
  }),
  "stays-dry": ({ wetAt, under, waitsFor }, system) =>
    wetAt !== undefined
      ? { value: "no", why: `wet ${formatDuration(wetAt)} after the start` }
      : under !== undefined
        ? { value: "yes", why: `water stays ${format(under, "length", system)} under the rim` }
        : {
            value: "not known",
            why: waits(waitsFor, "say what comes in, and what the pit is like"),
          },
  "power-cut": ({ floods, waitsFor }) =>
    floods === undefined
      ? { value: "not known", why: waits(waitsFor, "say what comes in") }
      : { value: formatDuration(floods), why: "from the float until the floor is wet" },
  backup: ({ has, flatAt }) => ({
    value: BACKUPS[has],
    why:
      flatAt !== undefined
        ? `flat after ${formatDuration(flatAt)}`
        : has === "none"
          ? "when the pump or the power fails, nothing holds the water"
          : has === "second-pump"
            ? "helps when the pump fails, not when the power does"
            : "works without the mains",
  }),
  drains: ({ fullest, runs }) =>
    fullest === undefined
      ? { value: "none yet", why: "draw the runs under Need" }
      : {
          value: runs === 1 ? "1 run" : `${runs} runs`,
          why: `the fullest carries ${formatPercent(fullest)} of what it can`,
        },
  "dry-after": ({ dry, waitsFor }) =>
    dry === undefined
      ? { value: "not known", why: waits(waitsFor, "say how much water there is") }
      : { value: formatDuration(dry), why: "from the start, as far as this pump takes it" },
  "full-after": ({ full, waitsFor }) =>
    full === undefined
      ? { value: "not known", why: waits(waitsFor, "say how large the tanks are") }
      : { value: formatDuration(full), why: "from the start" },
  hang: ({ depth, from, to }, system) => ({
    value: format(depth, "length", system),
    why:
      to > from
        ? `anywhere from ${format(from, "length", system)} to ${format(to, "length", system)}`
        : "no depth here keeps every rule",
  }),
  "drop-pipe": ({ stock, rating, pressure }, system) => ({
    value: stock === undefined ? "none yet" : stockName(stock),
    why:
      pressure === undefined
        ? "what it stands is told once a pump hangs there"
        : `${format(pressure, "pressure", system)} at the most${rating === undefined ? ", no rating" : `, rated ${format(rating, "pressure", system)}`}`,
  }),
  cable: ({ conductor, part }) => ({
    value: (conductor && findConductor(conductor)?.label) ?? "not known yet",
    why:
      part === undefined
        ? "it follows the motor: choose a pump"
        : `takes ${formatPercent(part, 1)} of the voltage`,
  }),
  "pre-charge": ({ preCharge, cutIn }, system) =>
    preCharge === undefined || cutIn === undefined
      ? { value: "no tank", why: "the line ends in the open" }
      : {
          value: format(preCharge, "pressure", system),
          why: `with the tank empty; cut-in ${format(cutIn, "pressure", system)}`,
        },
  tank: ({ volume, starts, limit }, system) =>
    volume === undefined
      ? { value: "none", why: "the line ends in the open" }
      : {
          value: litres(volume, system),
          why:
            starts === undefined
              ? "how often it starts is told once a pump runs into it"
              : `up to ${starts.toFixed(0)} starts an hour${limit === undefined ? "" : `, ${limit} allowed`}`,
        },
  gun: ({ gun, guns }, system) => {
    if (!gun) return { value: "none runs", why: "give the line a gun and a pump" };
    const { thrown, pressure } = gun;
    const at = `${format(pressure, "pressure", system)} at its base`;
    return {
      value:
        thrown.kind === "throws"
          ? `throws ${format(thrown.radius, "length", system)}`
          : thrown.kind === "ring"
            ? "falls in a ring"
            : "mists",
      why: guns > 1 ? `${at}, one of ${guns}` : at,
    };
  },
  sets: ({ sets, perSet, whole }) =>
    sets === undefined || perSet === undefined || whole === undefined
      ? { value: "not planned", why: "say how large the ground is" }
      : {
          value: sets === 1 ? "1 set" : `${sets} sets`,
          why: `${formatDuration(perSet)} each, ${formatDuration(whole)} with the moves`,
        },
  fuel: ({ first, stops }) =>
    stops === undefined
      ? { value: "not planned", why: "it follows from the sets" }
      : first === undefined
        ? { value: "no stop", why: "the tank lasts, or the mains drive it" }
        : {
            value: formatClock(first),
            why: stops === 1 ? "the one stop for fuel" : `the first of ${stops} stops for fuel`,
          },
};

/** What a time waits for: what stands in the way of any, else what it takes itself. */
const waits = (waitsFor: "line" | "floats" | undefined, own: string): string =>
  waitsFor === "line"
    ? "told once the line can be solved"
    : waitsFor === "floats"
      ? "told once floats and water are right"
      : own;

const BACKUPS: Record<Decided<"backup">["has"], string> = {
  battery: "battery",
  "second-pump": "second pump",
  overflow: "overflow",
  none: "none",
};
