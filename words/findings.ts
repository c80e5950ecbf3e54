import type { Context, Finding, FindingCode } from "#core/finding/registry.ts";
import { DRIVING_WORDS } from "./driving.ts";
import type { FindingSaid, FindingVoice, FindingWords } from "./findingWords.ts";
import { IRRIGATION_WORDS } from "./irrigation.ts";
import { RUN_WORDS } from "./simulation.ts";
import { WELL_WORDS } from "./well.ts";
import { YARD_WORDS } from "./yard.ts";

const WORDS: FindingWords<FindingCode> = {
  ...RUN_WORDS,
  ...WELL_WORDS,
  ...IRRIGATION_WORDS,
  ...DRIVING_WORDS,
  ...YARD_WORDS,
};

export function findingWords(finding: Finding, voice: FindingVoice): FindingSaid {
  const say = WORDS[finding.code] as (own: Finding, voice: Required<FindingVoice>) => FindingSaid;
  return say(finding, { body: () => "It", keepOff: () => "An edge", ...voice });
}

/** What a context is called where its findings stand among others. */
export const CONTEXT_NAMES: Record<Context, string> = {
  run: "Over time",
  uplift: "Floating up",
  "run-trouble": "Over time",
  well: "The well",
  "drawdown-test": "Pumping test",
  hanging: "What hangs there",
  "cable-size": "Cable",
  cable: "Cable",
  "cable-motor": "Cable",
  tank: "Pressure tank",
  valve: "Pressure valve",
  "well-day": "Draws of a day",
  draws: "Draws of a day",
  tap: "Taps",
  "top-suction": "A pump at the top",
  "hand-pump": "Hand pump",
  jet: "Jet pump",
  "air-lift": "Air lift",
  "pulse-pump": "Pulse pump",
  gun: "Guns",
  runoff: "Rain of the guns",
  sets: "Sets",
  "day-plan": "The day",
  cans: "Catch cans",
  drip: "Drip",
  "worked-back": "Worked back",
  speeds: "Speed",
  motor: "Motor",
  engine: "Engine",
  "yard-run": "Drains of the yard",
};
