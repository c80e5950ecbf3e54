import { FAMILIES } from "../catalogue/pipes.ts";
import { atmosphericPressure } from "../fluid/atmosphere.ts";
import { type DerivationStep, derive, deriveOver, formula, sign } from "../formula/formula.ts";
import { PIPE_VOLUME } from "../formula/laws.ts";
import { volumeTerms } from "../formula/losses.ts";
import { PAST_THE_MOTOR } from "../formula/well.ts";
import { AIR_PART, type AirToMove, airToMove } from "../hydraulics/priming.ts";
import { boreAt } from "../line/casing.ts";
import { drawsItself, type PlacedPump, type Segment, suctionOf } from "../line/compiledLine.ts";
import { levelsOf } from "../line/path.ts";
import { pipeVolume } from "../line/profile.ts";
import { annulus, annulusVelocity, coolingVelocity, sleeveFor } from "../well/cooling.ts";
import { isSlotted } from "../well/setting.ts";
import {
  type CheckContext,
  check,
  eachPump,
  type Found,
  lessIsWorse,
  moreIsWorse,
  NO_FACTS,
  type NoFacts,
  PRACTICE,
  pumpOf,
} from "./check.ts";

/** How water is got to a pump that does not simply stand in it: priming, floating intakes, sleeves. */

/** s after which a pump that primes itself should have water. Common practice, no source. */
const LONG_PRIMING = 300;

/** How long a pump that stands above the water takes to draw it, each time nothing held it. */
export const primingTime = check<{ air: number; least: number; most: number }>({
  quantity: "time",
  each: "item",
  find: (context) => {
    const { line, pumps } = context.solution;
    return line.pumps.flatMap((placed, i) => {
      const on = pumps[i];
      if (!on || on.pump.submersible) return [];
      const found = airOf(context, placed);
      if (!found) return [];
      const at = (part: number) => found.moved / (part * on.curve.lastFlow);
      const value = at(AIR_PART.usual);
      const itemId = placed.item.id;
      return [
        {
          severity: value > LONG_PRIMING ? "watch" : "good",
          ...{ at: "low", itemId, value, limit: LONG_PRIMING, source: PRACTICE },
          facts: { air: found.air, least: at(AIR_PART.most), most: at(AIR_PART.least) },
        } as const,
      ];
    });
  },
  rank: moreIsWorse,
  derive: ({ itemId }, context) => {
    const { line, pumps } = context.solution;
    const i = Math.max(
      line.pumps.findIndex(({ item }) => item.id === itemId),
      0,
    );
    const found = airOf(context, line.pumps[i] as PlacedPump);
    if (!found) return [];
    const flow = pumps[i]?.curve.lastFlow ?? 0;
    const held = deriveOver(PIPE_VOLUME, volumeTerms(found.pipes), { title: "Air in the suction" });
    return [held, derive(PRIMING, [held.result.value, found.times, AIR_PART.usual, flow])];
  },
});

/** The air a pump has to move, where no foot valve keeps the water; `air` in m³ and `moved` in m³ as the pump meets it. */
function airOf(
  { solution: { line, water }, line: { site } }: CheckContext,
  placed: PlacedPump,
): (AirToMove & { air: number; moved: number }) | undefined {
  const suction = suctionOf(line, placed);
  const { low } = levelsOf(line.source);
  if (!drawsItself(line, placed) || placed.elevation <= low) return undefined;
  if (suction.some(({ fitting }) => fitting?.group === "check")) return undefined;
  const found = airToMove(suction, low, atmosphericPressure(site.altitude), water.density);
  if (!found || found.pipes.length === 0) return undefined;
  const air = pipeVolume(found.pipes);
  return { ...found, air, moved: air * found.times };
}

const PRIMING = formula({
  title: "Time to prime",
  equation: "t = \\frac{x\\,V}{a\\,Q_{max}}",
  given: [
    sign("V", "air in the suction", "volume"),
    sign("x", "times it has to be moved, as it thins", "ratio"),
    sign("a", "part of its greatest flow it moves as air", "ratio"),
    sign("Q_{max}", "greatest published flow", "flow"),
  ],
  result: sign("t", "time to prime", "time"),
  source: "d(pV)/dt = −p q at one temperature; the part moved as air: common practice, no source",
  assumed: ["The pump is one that primes itself, full of water, and every joint is air-tight"],
  of: (volume: number, times: number, part: number, flow: number) =>
    (times * volume) / (part * flow),
});

interface Cooled {
  /** what the water passes the motor in: a sleeve, or the well's casing itself */
  within: "sleeve" | "casing";
  /** m across; null where it is not known */
  bore: number | null;
  motor: number | null;
  /** m³/s that would cool it; none where it does not go in */
  needs: number | null;
  /** m, the widest sleeve that would mend it in this casing; null where none would, or none is needed */
  sleeve: number | null;
  /** water may come in above the motor and never pass it */
  slotted: boolean;
  /** m³/s its plate asks for; that decides where it is stated */
  plate: number | null;
}

/** Water passing the motor of a pump in a sleeve, or in the casing of a well. */
export const motorCooling = check<Cooled>({
  quantity: "velocity",
  each: "item",
  find: (context) => {
    const { well } = context.line;
    const inWell = context.solution.line.source.kind === "well";
    return eachPump(
      context,
      ({ atWork: { itemId, duty }, on: { pump }, placed, running, solved }): Found<Cooled>[] => {
        const fitted = sleeveOf(suctionOf(context.solution.line, placed))?.bore;
        if (!pump.submersible || (fitted === undefined && !inWell)) return [];
        const sleeve = fitted ?? well?.sleeve;
        const depth = (well?.top ?? 0) - placed.elevation;
        const casing = inWell ? boreAt(well?.casings ?? [], depth) : undefined;
        const bore = sleeve ?? casing;
        const { diameter } = pump;
        const limit = coolingVelocity(diameter);
        const pumping = (well?.top ?? 0) - (running.state.nodeHeads[placed.inlet] as number);
        const facts: Cooled = {
          within: sleeve === undefined ? "casing" : "sleeve",
          ...{ bore: bore ?? null, motor: diameter ?? null, needs: null, sleeve: null },
          slotted: inWell && sleeve === undefined && isSlotted(well?.screen?.from, pumping),
          plate: pump.leastFlow ?? null,
        };
        const base = { at: solved.at, itemId, limit, source: PRACTICE };
        // The slowest it may be: past a motor of no width at all.
        const least = bore === undefined ? 0 : annulusVelocity(duty.flow, bore, 0);
        const stated = pump.leastFlow;
        const apart = bore !== undefined && diameter !== undefined && diameter < bore;
        if (stated !== undefined && (apart || bore === undefined || diameter === undefined)) {
          // A minimum flow on the plate is what cools the motor, whatever stands round it.
          const past = (flow: number) =>
            bore === undefined ? 0 : annulusVelocity(flow, bore, apart ? diameter : 0);
          const short = duty.flow < stated;
          return [
            {
              ...{
                ...base,
                limit: past(stated),
                value: past(duty.flow),
                source: "The pump's plate",
              },
              severity: short ? "stop" : facts.slotted ? "watch" : "good",
              facts: { ...facts, needs: stated },
            },
          ];
        }
        if (bore === undefined || diameter === undefined) {
          return [{ ...base, severity: "unknown", value: least, facts }];
        }
        const fits = diameter < bore;
        const value = fits ? annulusVelocity(duty.flow, bore, diameter) : 0;
        const mends = sleeve === undefined ? sleeveFor(duty.flow, diameter, bore) : undefined;
        return [
          {
            ...base,
            severity: value < limit ? "stop" : facts.slotted ? "watch" : "good",
            value,
            facts: {
              ...facts,
              needs: fits ? limit * annulus(bore, diameter) : null,
              sleeve: mends ?? null,
            },
          },
        ];
      },
    );
  },
  // Of two states the one with less water past it.
  rank: (found) => (found.limit === 0 ? 0 : lessIsWorse(found)),
  derive: (found, context) => {
    const { bore, motor } = found.facts;
    if (bore !== null && motor !== null && motor >= bore) return [derive(NO_ROOM, [bore, motor])];
    const flow = pumpOf(context, found)?.atWork.duty.flow ?? 0;
    // Where the bore is not known nothing can be told of the water: the least there can be.
    if (bore === null) return [derive(NO_BORE, [flow])];
    return [derive(PAST_THE_MOTOR, [flow, bore, motor ?? 0])];
  },
});

export function sleeveOf(suction: readonly Segment[]): Segment | undefined {
  return suction.find(({ fitting }) => fitting?.sleeve);
}

const NO_BORE = formula({
  title: "No casing is told",
  equation: "v \\ge 0",
  given: [sign("Q", "flow of the pump", "flow")],
  result: sign("v", "past the motor", "velocity"),
  source: "Geometry",
  of: (_flow: number) => 0,
});

const NO_ROOM = formula({
  title: "No water past the motor",
  equation: "v = 0 \\quad (d \\ge D)",
  given: [sign("D", "bore round it", "diameter"), sign("d", "width of the motor", "diameter")],
  result: sign("v", "past the motor", "velocity"),
  source: "Geometry",
  of: (_sleeve: number, _motor: number) => 0,
});

/** m of water a floating intake needs under it. Common practice, no source. */
export const FLOATS_IN = 0.3;
/** m of flexible hose behind a floating intake, so that it can go down with the water: 4 ft. Common practice, no source. */
const FLOATING_HOSE = 1.2192;

/** The hose that lets a floating intake follow the water. */
export const floatingHose = check<NoFacts>({
  quantity: "length",
  each: "item",
  find: ({ solution: { line } }): Found<NoFacts>[] =>
    line.segments.flatMap(({ fitting, itemId, side }, i) => {
      if (!fitting?.floats || side !== "suction") return [];
      const value = hoseFrom(line.segments, i + 1);
      const limit = FLOATING_HOSE;
      // A few millimetres short of four feet are four feet.
      const severity = value < limit - 0.02 ? "watch" : "good";
      return [{ severity, at: "low", itemId, value, limit, source: PRACTICE, facts: NO_FACTS }];
    }),
  rank: lessIsWorse,
  derive: ({ itemId }, { solution: { line } }) => {
    const at = line.segments.findIndex((own) => own.itemId === itemId);
    return [hoseStep(hoseFrom(line.segments, at + 1))];
  },
});

/** m of hose before anything stiff. */
function hoseFrom(segments: readonly Segment[], start: number): number {
  let length = 0;
  for (const { kind, stock, run, side } of segments.slice(start)) {
    if (side !== "suction") break;
    if (kind !== "pipe") continue;
    if (!stock || !run || !FAMILIES[stock.family].flexible) break;
    length += run.length;
  }
  return length;
}

const HOSE = formula({
  title: "Flexible hose behind the intake",
  equation: "L",
  given: [sign("L", "hose before anything stiff", "length")],
  result: sign("L", "flexible hose behind the intake", "length"),
  source: "As given",
  of: (length: number) => length,
});

const hoseStep = (length: number): DerivationStep => derive(HOSE, [length]);
