import { type DerivationStep, derive, deriveOver, sign, term } from "../formula/formula.ts";
import { STATIC_PRESSURE } from "../formula/laws.ts";
import { pressureHeadBefore } from "../hydraulics/headLine.ts";
import { narrowestTo } from "../line/casing.ts";
import {
  type CompiledLine,
  drawsItself,
  type PlacedPump,
  suctionOf,
} from "../line/compiledLine.ts";
import { levelsOf, type Supply, type WaterKind } from "../line/path.ts";
import { gunOf } from "../outlet/outlets.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import type { Quantity } from "../quantity/quantity.ts";
import { CLEARANCE } from "../well/setting.ts";
import {
  type CheckContext,
  check,
  type Found,
  lessIsWorse,
  moreIsWorse,
  NO_FACTS,
  type NoFacts,
  PRACTICE,
  whileRunning,
} from "./check.ts";
import { sleeveOf } from "./intake.ts";
import { OVER_PUMP } from "./suction.ts";

/** Where a pump may not stand, whatever it could move there: looked at before any pump is ranked. */

export type Misplacement =
  | "engine-unplaced"
  | "dry-pump-under-water"
  | "dry-pump-in-casing"
  | "engine-in-pit"
  | "engine-indoors"
  | "submersible-behind-suction"
  | "no-such-supply"
  | "no-battery"
  | "mains-on-battery"
  | "supply-unknown";

/** Where a pump of its kind may not stand, as far as the job tells. */
export const pumpPlacement = check<{ why: Misplacement }>({
  quantity: "head",
  each: "item",
  find: ({ solution: { line, pumps }, line: { site, overTime } }) => {
    const levels = levelsOf(line.source);
    return line.pumps.flatMap((placed, i): Found<{ why: Misplacement }>[] => {
      const pump = pumps[i]?.pump;
      if (!pump) return [];
      const found: Misplacement[] = [];
      const under = levels.high - placed.elevation;
      if (drawsItself(line, placed)) {
        const piped = drawsThroughPipe(line, placed);
        const inWater = under > 0 && !piped;
        const inWell = line.source.kind === "well" && under > 0;
        if (pump.drive === "engine") {
          if (site.standsAt === "indoors") found.push("engine-indoors");
          else if (inWater || inWell || CLOSED_IN.has(site.standsAt ?? ""))
            found.push("engine-in-pit");
          else if (site.standsAt === undefined) found.push("engine-unplaced");
        } else if (!pump.submersible) {
          if (inWell || site.standsAt === "casing") found.push("dry-pump-in-casing");
          else if (inWater || (under > 0 && site.standsAt === "pit")) {
            found.push("dry-pump-under-water");
          }
        }
        const sleeve = sleeveOf(suctionOf(line, placed));
        if (pump.submersible && piped && pump.suctionPort === undefined && !sleeve) {
          found.push("submersible-behind-suction");
        }
      }
      const { direct = false, volts } = pump.electric ?? {};
      const unit = overTime?.battery;
      if (pump.drive === "electric" && unit?.pumps?.includes(placed.item.id) && !direct) {
        // What a battery is said to feed has to be made for it; volts alone, where they are a battery's, do not tell.
        const battery = volts !== undefined && volts < LEAST_MAINS;
        found.push(battery ? "supply-unknown" : "mains-on-battery");
      } else if (pump.drive === "electric" && (site.supplies || direct)) {
        // A battery unit of the job is a supply beside the mains.
        const supplies: Supply[] = [
          ...(site.supplies ?? []),
          ...(unit ? [{ volts: unit.volts, direct: true }] : []),
        ];
        const answers = supplies.map((supply) => feeds(supply, pump));
        // Where nobody says what power there is, it is not a battery.
        if (!site.supplies && !unit) found.push("no-battery");
        else if (!answers.includes(true)) {
          found.push(answers.includes(undefined) ? "supply-unknown" : "no-such-supply");
        }
      }
      return found.map((why) => ({
        severity: why === "engine-unplaced" || why === "supply-unknown" ? "unknown" : "stop",
        at: "high",
        itemId: placed.item.id,
        value: under,
        source: PRACTICE,
        facts: { why },
      }));
    });
  },
  rank: moreIsWorse,
  derive: overPump,
});

const CLOSED_IN: ReadonlySet<string> = new Set(["pit", "crawl-space", "casing"]);

/** V: no mains has less. Common practice, no source. */
const LEAST_MAINS = 90;

/** How far a supply's voltage may lie from the plate's, as a fraction. Common practice, no source. */
const VOLTAGE_APART = 0.1;

/** Whether a supply feeds a plate; nothing where one of them does not say. */
export function feeds(supply: Supply, { electric = {} }: Pump): boolean | undefined {
  const { volts, phase, direct = false } = electric;
  if ((supply.direct ?? false) !== direct) return false;
  // One phase can be had of three, never three of one.
  if (supply.phase !== undefined && phase !== undefined && phase > supply.phase) return false;
  if (supply.volts === undefined || volts === undefined) return undefined;
  return Math.abs(supply.volts / volts - 1) <= VOLTAGE_APART;
}

/** Every pump on the line with where it stands. */
function each(
  { solution: { line, pumps } }: CheckContext,
  find: (pump: Pump, placed: PlacedPump) => Omit<Found<NoFacts>, "itemId" | "facts"> | undefined,
): Found<NoFacts>[] {
  return line.pumps.flatMap((placed, i) => {
    const pump = pumps[i]?.pump;
    const found = pump && find(pump, placed);
    return found ? [{ ...found, itemId: placed.item.id, facts: NO_FACTS }] : [];
  });
}

/** A number that is read off a plate or typed, and not worked out. */
function given(name: string, quantity: Quantity, value: number): DerivationStep {
  const known = sign("x", name, quantity);
  return deriveOver(
    { title: name, equation: "x", result: known, source: "As given", of: (x = 0) => x },
    [term(known, value)],
  );
}

/** The least passage in m that water asks of a pump. Common practice, no source. */
export const LEAST_PASSAGE: Partial<Record<WaterKind, number>> = {
  gritty: 0.006,
  stringy: 0.02,
  foul: 0.04,
};

/** Water that may not be let go just anywhere. */
export const waterUnfit = check<{ kind: "foul" | "chlorinated" }>({
  quantity: "flow",
  each: "line",
  find: (context) => {
    const { water = [] } = context.line.site;
    const kind = (["foul", "chlorinated"] as const).find((each) => water.includes(each));
    if (!kind) return [];
    return whileRunning(context, ({ state }, { at }) => [
      {
        severity: "watch" as const,
        at,
        value: state.delivered,
        source: PRACTICE,
        facts: { kind },
      },
    ]);
  },
  rank: moreIsWorse,
  derive: ({ value }) => [given("What leaves", "flow", value)],
});

export const pumpPassage = check<NoFacts>({
  quantity: "diameter",
  each: "item",
  find: (context) => {
    const water = context.line.site.water ?? [];
    const limit = Math.max(0, ...water.map((kind) => LEAST_PASSAGE[kind] ?? 0));
    if (limit === 0) return [];
    return each(context, ({ solids }) => ({
      severity: solids === undefined ? "unknown" : solids < limit ? "stop" : "good",
      ...{ at: "normal", value: solids ?? limit, limit, source: PRACTICE },
    }));
  },
  rank: lessIsWorse,
  derive: ({ value }) => [given("Passage of the pump", "diameter", value)],
});

/** Down the narrowest casing on its way, or through the hatch. */
export const pumpWidth = check<NoFacts>({
  quantity: "diameter",
  each: "item",
  find: (context) => {
    const { site, well } = context.line;
    const inCasing = context.line.source.kind === "well" || site.standsAt === "casing";
    const casings = inCasing ? (well?.casings ?? []) : [];
    return each(context, ({ diameter }, placed) => {
      const depth = (well?.top ?? 0) - placed.elevation;
      const narrowest = narrowestTo(casings, Math.max(depth, 0.01))?.bore;
      const limit = Math.min(narrowest ?? Infinity, site.access?.hatch ?? Infinity);
      if (!Number.isFinite(limit)) return undefined;
      const room = diameter === undefined ? undefined : limit - diameter;
      const tight = inCasing ? 2 * CLEARANCE.easy : 0;
      return {
        severity:
          room === undefined ? "unknown" : room <= 0 ? "stop" : room < tight ? "watch" : "good",
        ...{ at: "normal", value: diameter ?? limit, limit, source: "The pump's plate" },
      };
    });
  },
  rank: moreIsWorse,
  derive: ({ value }) => [given("Width of the pump", "diameter", value)],
});

/** m of water under which any pump is expected to be told what it needs, and over which what it bears. */
const SHALLOW = 0.3;
const DEEP = 5;

/** The water round a pump that stands in it, at low water: its motor is cooled by it. */
export const waterTooShallow = check<NoFacts>({
  quantity: "length",
  each: "item",
  find: (context) =>
    each(context, ({ submersible, leastDepth }, placed) => {
      const { line } = context.solution;
      if (!submersible || !standsInWater(context, placed)) return undefined;
      const value = levelsOf(line.source).low - placed.elevation;
      if (leastDepth === undefined && value >= SHALLOW) return undefined;
      const limit = leastDepth ?? SHALLOW;
      const short = value < limit;
      return {
        severity: leastDepth === undefined ? "unknown" : short ? "stop" : "good",
        ...{ at: "low", value, limit, source: "The pump's plate" },
      };
    }),
  rank: lessIsWorse,
  derive: overPump,
});

export const waterTooDeep = check<NoFacts>({
  quantity: "length",
  each: "item",
  find: (context) =>
    each(context, ({ submersible, greatestImmersion }, placed) => {
      const { line } = context.solution;
      if (!submersible || !standsInWater(context, placed)) return undefined;
      const value = levelsOf(line.source).high - placed.elevation;
      if (greatestImmersion === undefined && value <= DEEP) return undefined;
      const limit = greatestImmersion ?? DEEP;
      return {
        severity: greatestImmersion === undefined ? "unknown" : value > limit ? "stop" : "good",
        ...{ at: "high", value, limit, source: "The pump's plate" },
      };
    }),
  rank: moreIsWorse,
  derive: overPump,
});

/** K: water so warm that a plate has to say it may be. Common practice, no source. */
const WARM = 308.15;

export const waterTooWarm = check<NoFacts>({
  quantity: "temperature",
  each: "item",
  find: (context) => {
    const value = context.line.site.waterTemperature;
    return each(context, ({ greatestTemperature }) => {
      if (greatestTemperature === undefined && value <= WARM) return undefined;
      const limit = greatestTemperature ?? WARM;
      return {
        severity: greatestTemperature === undefined ? "unknown" : value > limit ? "stop" : "good",
        ...{ at: "normal", value, limit, source: "The pump's plate" },
      };
    });
  },
  rank: moreIsWorse,
  derive: ({ value }) => [given("Water temperature", "temperature", value)],
});

/** The pressure a gauge at the base of each gun reads, inside the window the gun is made for. */
export const gunPressure = check<{ side: "under" | "over" | "within" }>({
  quantity: "pressure",
  each: "item",
  find: (context) =>
    whileRunning(context, ({ headLine }, { at }) =>
      context.solution.line.outlets.flatMap(
        ({ item }): Found<{ side: "under" | "over" | "within" }>[] => {
          const { leastPressure: least, greatestPressure: most } = gunOf(item.outlet) ?? {};
          if (least === undefined && most === undefined) return [];
          const head = pressureHeadBefore(headLine, item.id);
          if (head === undefined) return [];
          const value = head * context.solution.water.density * GRAVITY;
          const side =
            least !== undefined && value < least
              ? "under"
              : most !== undefined && value > most
                ? "over"
                : "within";
          const limit = side === "under" ? least : (most ?? least);
          return [
            {
              severity: side === "within" ? "good" : "stop",
              ...{ at, itemId: item.id, value, source: "The gun's window" },
              ...(limit !== undefined && { limit }),
              facts: { side },
            },
          ];
        },
      ),
    ),
  rank: ({ value, limit = 0 }) => Math.abs(value - limit),
  derive: ({ value }, { solution }) => {
    const { density } = solution.water;
    return [
      derive(STATIC_PRESSURE, [density, value / (density * GRAVITY), 0], {
        title: "Pressure at the gun",
        names: { 1: "head over its base", 2: "its base" },
      }),
    ];
  },
});

function drawsThroughPipe(line: CompiledLine, placed: PlacedPump): boolean {
  return suctionOf(line, placed).some(({ kind }) => kind === "pipe");
}

function standsInWater({ solution: { line } }: CheckContext, placed: PlacedPump): boolean {
  return drawsItself(line, placed) && !drawsThroughPipe(line, placed);
}

function overPump({ at, itemId }: Found<unknown>, { solution: { line } }: CheckContext) {
  const placed = line.pumps.find(({ item }) => item.id === itemId);
  return [derive(OVER_PUMP, [levelsOf(line.source)[at], placed?.elevation ?? 0])];
}
