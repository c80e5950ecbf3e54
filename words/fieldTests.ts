import { SAFETY_CHECKLIST, type SafetyItem } from "#contract/documents/fieldTest.ts";
import type { FirmDocument } from "#contract/documents/firm.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import {
  format,
  formatPercent,
  formatSize,
  formatUncertain,
  withUncertainty,
} from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { findFitting } from "#core/catalogue/fittings.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import type { MeasuredInput } from "#core/measurement/electric.ts";
import type { Extra, Gain } from "#core/measurement/extraReading.ts";
import type { Likely, SameAs } from "#core/measurement/extraResistance.ts";
import {
  type Estimate,
  type FlowUncertainty,
  flowUncertainties,
  measuredFlow,
} from "#core/measurement/instruments.ts";
import type { LineIs, Parting, PumpIs, Whole } from "#core/measurement/judgeTest.ts";
import type { FitInput } from "#core/measurement/pumpOrLine.ts";
import { GOOD_FILL, type Reach } from "#core/measurement/reach.ts";
import type { FlowMeasurement } from "#core/measurement/reading.ts";
import type { Compared, SideBySide } from "#core/measurement/sideBySide.ts";
import { type NextPoint, SHUT_SECONDS, type Throttling } from "#core/measurement/sweep.ts";
import type { HeadInput } from "#core/measurement/totalHead.ts";
import type { Crossing } from "#core/measurement/trend.ts";
import { gradeApplies, type Pump, toleranceOf } from "#core/pump/pump.ts";
import { ACCEPTANCE, INPUT_NAMES } from "./comparison.ts";
import { itemName } from "./items.ts";

/** A part or a multiple with its doubt, in per cent: "85.2 ± 1.9 %". */
export function doubtfulPercent({ value, standardUncertainty }: Estimate): string {
  const spread = 100 * COVERAGE * standardUncertainty;
  const decimals = spread > 0 ? Math.min(Math.max(1 - Math.floor(Math.log10(spread)), 0), 3) : 1;
  return `${withUncertainty(100 * value, spread, decimals)} %`;
}

const times = ({ value, standardUncertainty }: Estimate) => {
  const spread = COVERAGE * standardUncertainty;
  const decimals = Math.min(Math.max(1 - Math.floor(Math.log10(Math.max(spread, 1e-3))), 1), 3);
  return `${withUncertainty(value, spread, decimals)} times`;
};

/** All readings of a pump together against its curve. */
export function wholeWords(whole: Whole, count: number, pump: Pump, system: UnitSystem) {
  const { acceptance, headFactor: strength, scatter, speed } = whole;
  const { head, flow } = toleranceOf(pump);
  const limit = pump.limits
    ? `Agreed: ${formatPercent(flow, 1)} of flow or ${formatPercent(head, 1)} of head may be missing.`
    : gradeApplies(pump)
      ? `${formatPercent(flow)} of flow or ${formatPercent(head)} of head may be missing by its ISO 9906 tolerance, from memory.`
      : `Under 1 kW no ISO grade applies: ${formatPercent(flow)} of flow or ${formatPercent(head)} of head is taken until the parties agree on limits of their own.`;
  const short = strength.value < 1 - COVERAGE * strength.standardUncertainty;
  return {
    title: ACCEPTANCE[acceptance],
    sentences: [
      `By ${count} readings together it makes ${doubtfulPercent(strength)} of its published heads.`,
      ...(short && speed
        ? [
            `That is as if it turned at ${format(speed.value * pump.ratedSpeedRpm, "speed", system)} where ${format(pump.ratedSpeedRpm, "speed", system)} is on its plate.`,
          ]
        : []),
      ...(scatter > 1
        ? [
            `The readings scatter ${scatter.toFixed(1)} times as much as their instruments explain; the doubt is widened by that.`,
          ]
        : []),
      limit,
    ],
  };
}

/** Pump or line, and what is known of each. */
export function partingWords(
  parting: Parting,
  path: JobDocument["path"],
  shutAllowed: boolean,
  system: UnitSystem,
): { title: string; pump?: string; sentences: string[]; next?: string } | undefined {
  switch (parting.kind) {
    case "nothing":
      return undefined;
    case "pump-only":
      return {
        title: PUMP_TITLES[parting.pump.is],
        pump: `${PUMP_SAYS[parting.pump.is]}: ${doubtfulPercent(parting.pump)} of its published heads.`,
        sentences: [
          "Of the line past the gauge these readings say nothing: read once with the valve as it is left, and the gauge before most of the line.",
        ],
        ...nextOf(parting.gains, parting.pump, shutAllowed),
      };
    case "either": {
      const { pump, line, at, extra, sameAs } = parting;
      const flow = format(at, "flow", system);
      return {
        title: "Pump or line: a flow alone cannot part them",
        sentences: [
          `If the line is as worked out, the pump makes ${doubtfulPercent(pump)} of its published heads.`,
          ...(line && extra
            ? [
                `If the pump is as published, the line takes ${times(line)} the head worked out at ${flow}${sameAs ? `: ${sameAsWords(sameAs, path, system)}` : ""}.`,
              ]
            : []),
        ],
        ...nextOf(parting.gains, pump, shutAllowed),
      };
    }
    case "parted": {
      const { pump, line, at, extra, sameAs, gains } = parting;
      const flow = format(at, "flow", system);
      const more = formatUncertain(
        Math.abs(extra.value),
        COVERAGE * extra.standardUncertainty,
        "head",
        system,
      );
      const unsure = pump.is === "unclear" ? pump : line;
      return {
        title: PARTED[pump.is][line.is],
        pump: `${PUMP_SAYS[pump.is]}: ${doubtfulPercent(pump)} of its published heads.`,
        sentences: [
          `${LINE_SAYS[line.is]}: ${times(line)} the head worked out past the gauge at ${flow}${line.is === "as-worked-out" ? "" : `, ${more} ${extra.value < 0 ? "less" : "more"}`}.`,
          ...(sameAs ? [`That is like ${sameAsWords(sameAs, path, system)}.`] : []),
          ...(line.is === "tight"
            ? ["Look for a valve not fully open, a kink, silt or a blocked outlet before the pump."]
            : []),
        ],
        ...nextOf(gains, unsure, shutAllowed),
      };
    }
  }
}

const PUMP_TITLES: Record<PumpIs, string> = {
  weak: "The pump is short",
  sound: "The pump is sound",
  strong: "The pump makes more than published",
  unclear: "Cannot tell whether the pump is short",
};

const PUMP_SAYS: Record<PumpIs, string> = {
  weak: "The pump is short",
  sound: "The pump is sound",
  strong: "The pump makes more than published; check the gauge, the speed and which pump this is",
  unclear: "Of the pump it cannot be told",
};

const LINE_SAYS: Record<LineIs, string> = {
  tight: "The line takes more than worked out",
  "as-worked-out": "The line is as worked out",
  free: "The line takes less than worked out; check its lengths and sizes",
  unclear: "Of the line it cannot be told",
};

const PARTED: Record<PumpIs, Record<LineIs, string>> = {
  weak: {
    tight: "Pump and line are both short",
    "as-worked-out": "The pump is short, not the line",
    free: "The pump is short; the line takes less than worked out",
    unclear: "The pump is short; of the line it cannot be told",
  },
  sound: {
    tight: "The line is short, not the pump",
    "as-worked-out": "Neither pump nor line is short",
    free: "Neither is short: the line takes less than worked out",
    unclear: "The pump is sound; of the line it cannot be told",
  },
  strong: {
    tight: "The line is short; the pump makes more than published",
    "as-worked-out": "The pump makes more than published",
    free: "Pump and line are both better than worked out: check the readings",
    unclear: "The pump makes more than published",
  },
  unclear: {
    tight: "The line is short; of the pump it cannot be told",
    "as-worked-out": "The line is sound; of the pump it cannot be told",
    free: "The line takes less than worked out; of the pump it cannot be told",
    unclear: "Neither can be told yet",
  },
};

/** What one reading more would do to the doubt, where it does something worth the walk. */
function nextOf(gains: readonly Gain[], now: Estimate, shutAllowed: boolean): { next?: string } {
  const best = gains.find(({ extra }) => extra !== "shut" || shutAllowed);
  if (!best || best.after > WORTH_IT * now.standardUncertainty) return {};
  return {
    next: `${EXTRA[best.extra]}: the doubt then is ± ${formatPercent(COVERAGE * best.after, 1)}.`,
  };
}
/** Part of the doubt that has to go for another reading to be worth taking. */
const WORTH_IT = 0.8;

const EXTRA: Record<Extra, string> = {
  "gauge-at-pump": "One gauge at the pump’s port tells them apart",
  open: "One reading with the valve open tells most",
  throttled: "One more reading with the valve half shut tells most",
  shut: "One reading with the valve shut tells most",
  level: "The water’s level by tape tells most",
};

/** Resistance as a fitter may find it. */
function sameAsWords(
  { itemId, length, bore, valve }: SameAs,
  path: JobDocument["path"],
  system: UnitSystem,
): string {
  const range = ({ low, high }: Likely, say: (value: number) => string) => {
    const [a, b] = [say(low), say(high)];
    return a === b ? a : `${a} to ${b}`;
  };
  const main = itemName(path, itemId, system);
  const of = valve.itemId
    ? `${itemName(path, valve.itemId, system)} standing`
    : `a ${(findFitting(valve.fitting)?.label ?? "valve").toLowerCase()} standing`;
  const parts = [
    `${range(length, (m) => format(m, "length", system))} more pipe than ${main}`,
    ...(bore
      ? [`that run narrowed to ${range(bore, (m) => formatSize(m, system, "nearest"))}`]
      : []),
    `${of} ${range(valve.opening, (part) => formatPercent(part))} open`,
  ];
  return `${parts.slice(0, -1).join(", ")}, or ${parts.at(-1)}`;
}

/** The water's level, told by the pump. */
export function levelWords({ value, standardUncertainty }: Estimate, system: UnitSystem): string {
  const spread = COVERAGE * standardUncertainty;
  const published = "If the pump does what is published, the water stands";
  const said = (metres: number) => format(metres, "length", system);
  return Math.abs(value) < spread
    ? `${published} between ${said(spread - value)} below and ${said(spread + value)} above the job’s usual level.`
    : `${published} ${formatUncertain(Math.abs(value), spread, "length", system)} ${value < 0 ? "below" : "above"} the job’s usual level.`;
}

const DOUBT_NAMES: Record<FlowUncertainty | "pump" | "line", string> = {
  volume: "The bucket’s mark",
  timing: "The timing",
  meter: "The flow meter",
  area: "The area of the water",
  fall: "The measured fall",
  inflow: "The inflow",
  pump: "What is taken of the pump",
  line: "What is taken of the line",
};

export const uncertaintyName = (of: FitInput): string =>
  of in INPUT_NAMES ? INPUT_NAMES[of as HeadInput] : DOUBT_NAMES[of as FlowUncertainty];

/** A budget with the flow told by what it is made of, the largest first. */
export function parted(
  budget: readonly { name: HeadInput; share: number }[],
  flow: FlowMeasurement,
): { of: FitInput; share: number }[] {
  const { doubts } = flowUncertainties(flow);
  const all = doubts.reduce((sum, { standardUncertainty }) => sum + standardUncertainty ** 2, 0);
  return budget
    .flatMap(({ name, share }): { of: FitInput; share: number }[] =>
      name !== "flow" || all === 0
        ? [{ of: name, share }]
        : doubts.map(({ of, standardUncertainty: u }) => ({ of, share: (share * u ** 2) / all })),
    )
    .toSorted((a, b) => b.share - a.share);
}

type Instruments = NonNullable<FirmDocument["instruments"]>;

/** The largest part of a doubt and what would shrink it, with what the firm owns where that is better. */
export function shrinkWords(
  budget: readonly { of: FitInput; share: number }[],
  reading: {
    flow: FlowMeasurement;
    discharge?: { fullScale: number; accuracyClass: number } | undefined;
  },
  instruments: Instruments,
  reach: Reach = {},
): string | undefined {
  const [first] = budget;
  if (!first || first.share < WORTH_NAMING) return undefined;
  const { of, share } = first;
  return `${uncertaintyName(of)} is ${formatPercent(share)} of the doubt: ${better(of, reading, instruments, reach) ?? SHRINK[of]}.`;
}
/** Share of the doubt from which one cause is worth naming alone. */
const WORTH_NAMING = 0.3;

function better(
  of: FitInput,
  { flow, discharge }: Parameters<typeof shrinkWords>[1],
  instruments: Instruments,
  reach: Reach,
): string | undefined {
  const runs = measuredFlow(flow).value;
  const [best] = instruments
    .filter((own) => {
      if ((of === "timing" || of === "volume") && own.kind === "bucket" && "volume" in flow) {
        const { volume = 0, tolerance = 1 } = own;
        if (volume < GOOD_FILL * runs) return false;
        return of === "timing" ? volume > 1.5 * flow.volume : tolerance < flow.volumeTolerance;
      }
      if (of === "discharge-gauge" && own.kind === "gauge" && discharge) {
        const { fullScale, tolerance = 1 } = own;
        // Where nobody knows what the pump makes shut off, no smaller dial is named.
        const least = reach.gauge?.strongest ?? discharge.fullScale;
        if (fullScale === undefined || fullScale < least) return false;
        return fullScale * tolerance < 0.8 * discharge.fullScale * discharge.accuracyClass;
      }
      if (of === "meter" && own.kind === "flow-meter" && "tolerance" in flow) {
        if (own.greatestFlow !== undefined && own.greatestFlow < runs) return false;
        return (own.tolerance ?? 1) < flow.tolerance;
      }
      return false;
    })
    .toSorted(
      (a, b) => (b.volume ?? 0) - (a.volume ?? 0) || (a.tolerance ?? 1) - (b.tolerance ?? 1),
    );
  return best && `use “${best.name}”`;
}

const SHRINK: Record<FitInput, string> = {
  flow: "measure the flow better",
  volume: "use a bucket whose mark is better known",
  timing: "use a larger bucket, or time more fills",
  meter: "use a better meter, or a bucket and watch",
  area: "measure the water’s surface again",
  fall: "let it fall further",
  inflow: "find the inflow again with the pump off",
  "discharge-gauge":
    "use a gauge of a finer class, still reading over what the pump makes with the line shut",
  "discharge-height": "measure the height of the discharge gauge with a tape",
  "suction-gauge":
    "use a suction gauge of a finer class, or a compound gauge that ends nearer to what it reads",
  "suction-height": "measure the height of the suction gauge with a tape",
  "water-level": "measure the water level while the pump runs",
  "line-between": "move the gauge to the pump’s port",
  holes: "plug the holes for the test, or measure what they let go with a jug",
  speed: "read the speed again, or with a better tachometer",
  curve: "get the maker’s table or chart: the sticker alone is too rough",
  pump: "put a gauge at the pump’s port",
  line: "measure what is in doubt about the line",
};

/** What to do for the next point of a sweep, and what to mind. `needle`: Pa the gauge will show there, where that is known. */
export function nextPointWords(
  next: NextPoint,
  allowed: Throttling,
  path: JobDocument["path"],
  needle: number | undefined,
  system: UnitSystem,
): { title: string; sentence: string; caution?: string } {
  const limit = throttlingWords(allowed, path, system);
  const minded = limit ? { caution: limit } : {};
  switch (next.kind) {
    case "open":
      return {
        title: "First with the valve open",
        sentence: "Open the discharge as it is to be left, let it run a minute, and read.",
        ...minded,
      };
    case "throttle":
      return {
        title:
          needle === undefined
            ? `Throttle to about ${format(next.flow, "flow", system)}`
            : `Throttle until the gauge shows about ${format(needle, "pressure", system)}`,
        sentence: `By its curve that is ${format(next.flow, "flow", system)} at ${format(next.head, "head", system)}. Close slowly; anything within ten per cent of it will do.`,
        ...minded,
      };
    case "shut":
      return {
        title: "Last with the valve shut",
        sentence:
          `Close it slowly, read at once, and open again within ${SHUT_SECONDS} s. ${needle === undefined ? "" : `The gauge should show about ${format(needle, "pressure", system)}.`}`.trim(),
        caution:
          "Shut off, the water in the pump heats and can scald and burst it: stay at the valve, and never leave it shut.",
      };
    case "done":
      return {
        title: allowed.kind === "never" ? "No sweep for this pump" : "The sweep is complete",
        sentence:
          allowed.kind === "never"
            ? "Read it with the discharge open only."
            : "Open the valve as it is to be left. More readings still make the answer surer.",
        ...minded,
      };
  }
}

/** How far the discharge may be throttled, where that is not all the way. */
function throttlingWords(
  allowed: Throttling,
  path: JobDocument["path"],
  system: UnitSystem,
): string | undefined {
  switch (allowed.kind) {
    case "to-shut":
      return undefined;
    case "never":
      return "A positive-displacement pump must not be throttled: the pressure builds up until something gives.";
    case "unknown":
      return allowed.why === "rating"
        ? `Nobody has said what ${itemName(path, allowed.itemId, system)} bears: stay above half of the open flow.`
        : "What it makes shut off is not published: stay above half of the open flow.";
    case "down-to":
      return `Never past ${format(allowed.atPort, "pressure", system)} at the pump’s port: ${itemName(path, allowed.itemId, system)} bears ${format(allowed.rating, "pressure", system)}, and shut off it would feel ${format(allowed.pressure, "pressure", system)}.`;
  }
}

/** What the supply gave, what the pump set made of it, and what is wrong with it. */
export function electricWords(
  input: MeasuredInput,
  efficiency: Estimate | undefined,
  system: UnitSystem,
  published?: number,
): string[] {
  const { power, current, ofPlate, unbalance, voltsOff } = input;
  const said: string[] = [];
  if (power) {
    const watts = formatUncertain(
      power.value,
      COVERAGE * power.standardUncertainty,
      "power",
      system,
    );
    const assumed =
      power.from === "usual-power-factor"
        ? ", with a usual power factor, which nobody measured"
        : "";
    said.push(
      `It takes ${watts}${assumed}.${efficiency ? ` Wire to water that is ${doubtfulPercent(efficiency)}.` : ""}`,
    );
  }
  if (power && published) {
    const off = power.value / published - 1;
    const doubt = (COVERAGE * power.standardUncertainty) / published;
    said.push(
      `Its curve publishes ${format(published, "power", system)} at that flow, at the shaft or at the terminals as its maker says: ${Math.abs(off) <= doubt ? "no difference that these instruments could show" : `it takes ${formatPercent(Math.abs(off))} ${off > 0 ? "more" : "less"}`}.`,
    );
  }
  if (current && ofPlate !== undefined) {
    said.push(
      ofPlate > 1 + PLATE_SLACK
        ? `${current.value.toFixed(1)} A is ${formatPercent(ofPlate - 1)} over its plate: throttle it, and have a licensed electrician look before it is left running.`
        : `${current.value.toFixed(1)} A is ${formatPercent(ofPlate)} of its plate.`,
    );
  }
  if (unbalance !== undefined && unbalance > UNBALANCED) {
    said.push(
      `One phase is ${formatPercent(unbalance)} off the mean: have a licensed electrician look at supply and terminals.`,
    );
  }
  if (voltsOff !== undefined && Math.abs(voltsOff) > VOLTS_SLACK) {
    said.push(
      `The voltage is ${formatPercent(Math.abs(voltsOff))} ${voltsOff < 0 ? "under" : "over"} its plate: that alone changes speed and current.`,
    );
  }
  return said;
}
/** Parts of the plate's, or of the mean. Common practice, no source. */
const PLATE_SLACK = 0.02;
const UNBALANCED = 0.05;
const VOLTS_SLACK = 0.1;

/** The month of a day counted from 1970. */
const month = (day: number) => new Date(86_400_000 * day).toISOString().slice(0, 7);

/** Where the strength of a pump is going, by so many visits that tell it. */
export function crossingWords(
  told: number,
  limit: number,
  trend: { slope: Estimate; crossing: Crossing } | undefined,
): string {
  if (!trend) {
    return told === 0
      ? "No visit tells its strength yet: a gauge is needed."
      : `${told === 1 ? "One visit tells" : `${told} visits tell`} its strength. From three on, over more than a day, it can be said where it is going.`;
  }
  const { slope, crossing } = trend;
  const year = 365.25;
  const [moved, spread] = [slope.value, COVERAGE * slope.standardUncertainty].map(
    (part) => 100 * year * part,
  ) as [number, number];
  const fall = `${withUncertainty(Math.abs(moved), spread, 1)} %`;
  const bound = formatPercent(limit);
  switch (crossing.kind) {
    case "not-falling":
      return moved > spread
        ? `It rises by ${fall} a year: look at the readings, for no pump mends itself.`
        : `It does not fall by more than the readings may be off: ${(spread - moved).toFixed(1)} % a year at most.`;
    case "below":
      return `It stands below ${bound} already, ${Math.abs(moved) < spread ? "and whether it goes on falling these visits cannot say" : `and ${moved < 0 ? "falls" : "rises"} by ${fall} a year`}.`;
    case "too-far":
      return `It falls by ${fall} a year. When it comes to ${bound} is further off than these visits can say.`;
    case "crosses":
      return `It falls by ${fall} a year and comes to ${bound} about ${month(crossing.on)}: not before ${month(crossing.earliest)}${crossing.latest ? `, by ${month(crossing.latest)} at the latest` : ", and how late cannot be said"}.`;
  }
}

/** What is seen to when a pump is measured. */
export const SAFETY_CHECKLIST_WORDS: Record<SafetyItem, string> = {
  isolated: "Supply isolated and locked off before hands went near pump or water",
  lifting: "Pump lifted by rope or handle, never by its cable",
  exhaust: "Engine in the open, its exhaust away from pit and intake",
  pressure: "Pressure let off before a joint was opened",
  outlet: "Outlet tied down, people clear of it",
  valve: "Valve stayed with while shut, and left as it is to be left",
};

/** The cautions that bear on a pump. */
export const safetyChecklistFor = (drive: Pump["drive"] | undefined): SafetyItem[] =>
  SAFETY_CHECKLIST.filter((caution) => caution !== "exhaust" || drive === "engine");

export const RATIO_OF: Record<Compared, string> = {
  flow: "Flow",
  pressure: "Pressure at the gauge",
  throw: "Throw",
};

/** What the second of two set-ups is of the first, and whether that is what the model says. */
export function ratioWords(
  { of, ratio, differs, model }: SideBySide & { model?: number },
  second: string,
): string {
  const measured = `${RATIO_OF[of]}: ${second} has ${times(ratio)} as much`;
  const plain = differs
    ? `${measured}.`
    : `${measured}: no difference that these readings could show.`;
  if (model === undefined) return plain;
  const off = Math.abs(ratio.value - model) > COVERAGE * ratio.standardUncertainty;
  return `${plain} The model says ${model.toFixed(2)} times${off ? ": more or other things than that were changed, or the line is not as it was typed" : ", and so it is"}.`;
}
