import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { RUN_FINDINGS, TROUBLE_FINDINGS, UPLIFT_FINDINGS } from "#core/finding/run.ts";
import { GALLON } from "#core/quantity/constants.ts";
import type { Answers, OfUplift, Trouble } from "#core/simulation/answers.ts";
import type { TimelineEvent } from "#core/simulation/dynamics.ts";
import type { RunFinding } from "#model/simulation/answers.ts";
import type { DerivedFigure } from "#model/simulation/derivations.ts";
import { duration } from "./duration.ts";
import type { FindingSaid, FindingVoice, FindingWords } from "./findingWords.ts";

/** What the pumps and the bodies of water of a run are called. */
export interface Called {
  pump: (index: number) => string;
  body: (index: number) => string;
  system: UnitSystem;
}

/** What happened, in a line. */
export function eventWords({ kind, index }: TimelineEvent, { pump, body }: Called): string {
  switch (kind) {
    case "pump-on":
      return `${pump(index)} starts`;
    case "pump-off":
      return `${pump(index)} stops`;
    case "empty":
      return `${body(index)}: no more can be drawn`;
    case "full":
      return `${body(index)}: water over the rim`;
    case "below-rim":
      return `${body(index)}: below the rim again`;
    case "alarm":
      return `${body(index)}: alarm`;
    case "held":
      return `${body(index)}: its float holds the pumps`;
    case "freed":
      return `${body(index)}: its float lets the pumps go`;
    case "power-cut":
      return "Power gone";
    case "power-back":
      return "Power back";
    case "battery-flat":
      return "Battery flat";
  }
}

/** A time of a run: "2 d 4:05" from two days on, "1:05:20" from hours on, "5:20" before. */
export function clockOf(seconds: number): string {
  const whole = Math.round(seconds);
  const two = (n: number) => String(n).padStart(2, "0");
  if (whole >= 172_800) {
    const minutes = Math.round(whole / 60);
    const days = Math.floor(minutes / 1440);
    return `${days} d ${Math.floor((minutes % 1440) / 60)}:${two(minutes % 60)}`;
  }
  const hours = Math.floor(whole / 3600);
  const rest = `${two(Math.floor((whole % 3600) / 60))}:${two(whole % 60)}`;
  return hours > 0 ? `${hours}:${rest}` : rest.replace(/^0/, "");
}

/** "40 s" below two minutes, "4 min 20 s" below ten, else minutes and hours. */
export function formatDuration(seconds: number): string {
  const whole = Math.round(seconds);
  if (whole < 120) return `${whole} s`;
  if (whole >= 600) return duration(seconds);
  const rest = whole % 60;
  return `${Math.floor(whole / 60)} min${rest === 0 ? "" : ` ${rest} s`}`;
}

/** A volume; from ten cubic metres on in those, where litres are read. */
export function amountOf(volume: number, system: UnitSystem): string {
  if (system === "us" || volume < 10) return format(volume, "volume", system);
  return `${volume.toFixed(volume < 100 ? 1 : 0)} m³`;
}

/** One thing that was found of a run, in words. */
export const runFindingWords = (finding: RunFinding, voice: Required<FindingVoice>): FindingSaid =>
  (RUN_WORDS[finding.code] as (own: RunFinding, voice: Required<FindingVoice>) => FindingSaid)(
    finding,
    voice,
  );

/** What is said of a run, with what to do about it. */
export const RUN_WORDS: FindingWords<
  keyof typeof RUN_FINDINGS | keyof typeof UPLIFT_FINDINGS | keyof typeof TROUBLE_FINDINGS
> = {
  "floor-wet": ({ at, lasts, spilled, inflow, survives }, { system }) => {
    const flow = (si: number) => format(si, "flow", system);
    return {
      title: "The floor gets wet",
      sentence: `Water stands over the rim ${formatDuration(at)} after the start, for ${formatDuration(lasts)}; ${amountOf(spilled, system)} run over it.`,
      advice:
        inflow > survives
          ? `Pumps that hold ${flow(inflow)} at the rim, where these hold ${flow(survives)}; or a larger pit. Try a second pump under What if.`
          : "The pumps could hold it: a lower float, a lag float for the second pump, or power that does not fail. Try it under What if.",
    };
  },
  "floats-up": ({ uplift, body: index }, { system, body }) => {
    const tonnes = (newton: number) => format(newton / 9.80665, "mass", system);
    return {
      title: `${body(index)} can lift out of the ground`,
      sentence: `Ground water lifts it with ${tonnes(uplift.force)}; its own weight and the water left in it hold ${tonnes(uplift.holding)}.`,
      advice:
        uplift.keepAbove === undefined
          ? "Not even full of water is it heavy enough: keep the ground water down first, and ask an engineer."
          : `Leave water in it up to ${format(uplift.keepAbove, "length", system)}, or keep the ground water down. ${RELIEF_VALVE}`,
    };
  },
  "uplift-unknown": ({ body: index, lacks }, { body }) => ({
    title: `Whether ${body(index)} can float up is not known`,
    sentence: `Emptied in wet ground a shell can lift and break. ${lacks.map((own) => ASKED_OF_SHELL[own]).join(" ")}`,
    advice:
      "Before a drop is pumped: say how it stands, dip the ground water in a hole beside it, and read its weight off a drawing or work it out. An engineer says whether it may be emptied.",
  }),
  "starts-too-often": ({ starts, limit, raiseBy, larger }, { system }) => ({
    title: "Starts too often",
    sentence: `Up to ${starts.toFixed(0)} starts an hour when water comes in at half of what it pumps; the motor bears ${limit.toFixed(0)}.`,
    advice:
      raiseBy === undefined
        ? `No float in this pit keeps to it: a pit of ${larger ? `${larger.toFixed(1)} times the area` : "more area"}, or a smaller pump.`
        : `Raise the float that starts it by ${format(raiseBy, "diameter", system)}.`,
  }),
  "battery-flat": ({ at, needed }) => ({
    title: "The battery gets flat",
    sentence: `${formatDuration(at)} after the start it is empty.`,
    ...(needed !== undefined && {
      advice: `About ${(Math.ceil(needed / 5) * 5).toFixed(0)} Ah carry it through this power cut.`,
    }),
  }),
  "no-alarm": () => ({
    title: "No high-water alarm",
    sentence: "Nobody hears of it when a pump fails.",
    advice: "Hang an alarm float above the highest one that starts a pump.",
  }),
  "one-pump": () => ({
    title: "One pump alone",
    sentence: "When it fails, or the power does, nothing holds the water.",
    advice: "A second pump on a float of its own, a battery unit, or an overflow by gravity.",
  }),
  "never-dry": ({ level, inflow, drawn }, { system }) => ({
    title: "It does not get dry",
    sentence: `At ${format(level, "length", system)} ${format(inflow, "flow", system)} come in and ${format(drawn, "flow", system)} are drawn.`,
    advice: "A larger pump or hose, or less water coming in.",
  }),
  "not-dry-yet": ({ after, level }, { system }) => ({
    title: "Not dry yet",
    sentence: `After ${formatDuration(after)} it stands at ${format(level, "length", system)}, and still falls.`,
    advice: "Look at it for longer, or pump harder.",
  }),
  "falls-behind": ({ inflow, survives, wetIn }, { system }) => ({
    title: "The pumps fall behind",
    sentence: `${format(inflow, "flow", system)} come in at the end, and the pumps hold ${format(survives, "flow", system)} at the rim: about ${formatDuration(wetIn)} more, and the floor is wet.`,
    advice: "A second pump, or a larger one.",
  }),
  "source-low": ({ at }) => ({
    title: "The source gets too low",
    sentence: `${formatDuration(at)} after the start its float holds the pumps; nothing is moved until the water is back.`,
    advice: "Draw less, find another source, or wait for rain.",
  }),
  "receiver-full": ({ at }) => ({
    title: "It runs over",
    sentence: `The water it goes to is at its rim ${formatDuration(at)} after the start, and runs over from then on.`,
    advice: "A float switch there, or somebody who stops the pump in time.",
  }),
  "runs-back": ({ volume }, { system }) => ({
    title: "Water runs back",
    sentence: `${amountOf(volume, system)} come back through the line once the pump stops.`,
    advice: "A check valve at the pump, or an end above the water it goes to.",
  }),
  "too-many-events": ({ at }) => ({
    title: "It never comes to an end",
    sentence: `Floats followed one another without pause; the run was stopped ${formatDuration(at)} after its start, and shows what came until then.`,
    advice: "Set the floats further apart.",
  }),
  "keeps-up": ({ under, inflow, survives }, { system }) => {
    const flow = (si: number) => format(si, "flow", system);
    const length = format(under, "length", system);
    return {
      title: "The floor stays dry",
      sentence:
        inflow > survives
          ? `The water stays ${length} under the rim, though for a time ${flow(inflow)} come in and the pumps hold ${flow(survives)}: the pit takes the rest.`
          : `The water stays ${length} under the rim; ${flow(inflow)} come in at the most, and the pumps hold ${flow(survives)}.`,
    };
  },
  "run-trouble": ({ trouble }, { system }) => ({ sentence: troubleWords(trouble, system) }),
};

const ASKED_OF_SHELL: Record<OfUplift, string> = {
  "in-ground": "Whether it stands in the ground is not said.",
  groundwater: "How high the ground water stands is not known.",
  mass: "What its empty shell weighs is not known.",
};

/** The step at which a shell in the ground is emptied. */
export const RELIEF_VALVE =
  "A hydrostatic relief valve in the floor is opened before pumping and stays open until it is full again; one that is stuck, or missing, leaves the shell to the ground water.";

/** What is wrong with how a job moves in time. */
export function troubleWords(trouble: Trouble, system: UnitSystem): string {
  const length = (si: number) => format(si, "length", system);
  switch (trouble.code) {
    case "floats-crossed":
      return `It would start at ${length(trouble.on)} and stop at ${length(trouble.off)}: the two are crossed.`;
    case "lag-under-lead":
      return `The second float starts at ${length(trouble.on)}, not above the first at ${length(trouble.off)}: both pumps start together.`;
    case "float-over-rim":
      return `${length(trouble.level)} is over the rim at ${length(trouble.rim)}: the floor is wet before it moves.`;
    case "float-under-bottom":
      return `${length(trouble.level)} is under the bottom at ${length(trouble.bottom)}: it never moves.`;
    case "no-area":
      return "This holds no water: give it a length, a width and a depth.";
    case "rows-not-rising":
      return `Row ${trouble.row} does not come after the row before it.`;
    case "power-back-before-cut":
      return "The power cannot be back before it is gone.";
    case "no-battery":
      return "A battery without its Ah and volts never gets flat here: type both.";
  }
}

/** s from one emptying of a wet vacuum to the next. Common practice, no source. */
const TRIP = 240;

/** m³ of a drum and of a bucket as people have them. */
const DRUM: Record<UnitSystem, number> = { us: 55 * GALLON, metric: 0.2 };
const BUCKET: Record<UnitSystem, number> = { us: 5 * GALLON, metric: 0.01 };
const SIZES = { us: ["55 gal", "5 gal"], metric: ["200 L", "10 L"] } as const;

/** A flow in things people see: "1.1 drums (55 gal) or 12 buckets (5 gal) a minute". */
export function inBuckets(flow: number, system: UnitSystem): string {
  const each = (volume: number) => {
    const count = (flow * 60) / volume;
    return count < 0.095 ? count.toPrecision(1) : count < 9.5 ? count.toFixed(1) : count.toFixed(0);
  };
  const [drum, bucket] = SIZES[system];
  return `${each(DRUM[system])} drums (${drum}) or ${each(BUCKET[system])} buckets (${bucket}) a minute`;
}

export interface AnswerLine {
  name: string;
  value: string;
  note?: string;
  /** a figure whose working can be shown */
  worked?: DerivedFigure;
}

/** The figures of a run, by name: only those it has. */
export function answerLines(answers: Answers, system: UnitSystem): AnswerLine[] {
  const flow = (si: number) => format(si, "flow", system);
  const volume = (si: number) => amountOf(si, system);
  const { switching, unpumped, survives, wet, dry, full, energy, cost, battery } = answers;
  const lines: AnswerLine[] = [];
  if (dry) {
    lines.push({
      name: "Dry after",
      value: formatDuration(dry.at),
      note: `${volume(dry.left)} stay`,
      worked: "dry",
    });
  }
  if (full) lines.push({ name: "Full after", value: formatDuration(full.at), worked: "full" });
  if (answers.sourceLow !== undefined) {
    lines.push({ name: "Source too low after", value: formatDuration(answers.sourceLow) });
  }
  if (unpumped) {
    lines.push({
      name: "Wet floor without a pump",
      value: `${formatDuration(unpumped.fromOn)} to ${formatDuration(unpumped.fromOff)}`,
      note: `at ${flow(unpumped.inflow)}`,
      worked: "unpumped",
    });
  }
  if (wet) {
    const spreading = wet.lasts > 0 ? `, on average ${flow(wet.spilled / wet.lasts)}` : "";
    lines.push({
      name: "Over the rim",
      value: volume(wet.spilled),
      note: `from ${clockOf(wet.at)} on${spreading}`,
      worked: "wet",
    });
  }
  if (survives !== undefined) {
    lines.push({
      name: "Largest inflow it holds",
      value: flow(survives),
      note: `${flow(answers.greatestInflow)} at the most here`,
      worked: "survives",
    });
  }
  if (switching) {
    const { worst, now, limit, assumed, most } = switching;
    lines.push({
      worked: "starts",
      name: "Starts an hour at the worst",
      value: worst.startsPerHour.toFixed(worst.startsPerHour < 9.5 ? 1 : 0),
      note: `at ${flow(worst.inflow)}; ${assumed ? "assumed" : "motor"} limit ${limit.toFixed(0)}; ${most} in the worst hour here`,
    });
    if (now) {
      lines.push({
        name: "Cycle as it comes now",
        value: formatDuration(now.filling + now.pumping),
        note: `${formatDuration(now.pumping)} of it pumping`,
        worked: "cycle",
      });
    }
  }
  lines.push({ name: "Moved", value: volume(answers.moved), worked: "moved" });
  if (answers.ranBack > 1e-3) lines.push({ name: "Ran back", value: volume(answers.ranBack) });
  lines.push({
    name: "Pumps ran",
    value: formatDuration(answers.runTime),
    note: `${answers.starts} ${answers.starts === 1 ? "start" : "starts"}`,
  });
  if (energy !== undefined) {
    lines.push({
      name: "Energy",
      value: format(energy, "energy", system),
      worked: "energy",
      note: `by the published power${cost === undefined ? "" : `; ${cost.toFixed(2)} in money`}`,
    });
  }
  if (answers.stages) {
    const days = answers.stages.length;
    lines.push({ name: "Let down in", value: `${days} ${days === 1 ? "day" : "days"}` });
  }
  if (answers.hire !== undefined) {
    lines.push({ name: "Hired by the day", value: answers.hire.toFixed(0), note: "in money" });
  }
  if (answers.hose) {
    const { pieces, couplings, clamps } = answers.hose;
    lines.push({
      name: "Hose",
      value: `${pieces} ${pieces === 1 ? "piece" : "pieces"}`,
      note: `of 20 ft, ${couplings} couplings, ${clamps} clamps`,
    });
  }
  if (answers.vacuum) {
    const { trips, each } = answers.vacuum;
    lines.push({
      name: "By wet vacuum instead",
      value: `${trips} trips`,
      worked: "vacuum",
      note: `of ${format(each, "volume", system)}, about ${formatDuration(trips * TRIP)}`,
    });
  }
  if (battery) {
    lines.push({
      name: "Battery used",
      value: formatPercent(battery.used),
      ...(battery.used > 0 && { worked: "battery" as const }),
    });
  }
  return lines;
}
