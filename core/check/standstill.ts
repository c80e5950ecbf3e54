import { derive, deriveOver, sign, term } from "../formula/formula.ts";
import { PIPE_VOLUME, SUM_OF_HEADS } from "../formula/laws.ts";
import { volumeTerms } from "../formula/losses.ts";
import type { PumpOnLine } from "../hydraulics/solveLine.ts";
import { drawsItself, type PlacedPump, type Segment, suctionOf } from "../line/compiledLine.ts";
import { levelsOf } from "../line/path.ts";
import {
  airHeldUnderCheck,
  drainingPipes,
  highPoints,
  pipesOf,
  pipeVolume,
  unguardedFromOutlet,
  unguardedOutlets,
  type WetPipe,
} from "../line/profile.ts";
import { receivingWater } from "../outlet/outlets.ts";
import {
  type CheckContext,
  check,
  type Found,
  LIMITS,
  moreIsWorse,
  NO_FACTS,
  type NoFacts,
  PRACTICE,
} from "./check.ts";
import { OVER_PUMP } from "./suction.ts";

/** What runs back, runs dry or gathers air while a pump stands. */

/** Every pump with its plate. */
function standing<F>(
  { solution: { line, pumps } }: CheckContext,
  find: (placed: PlacedPump, on: PumpOnLine) => Found<F>[],
): Found<F>[] {
  return line.pumps.flatMap((placed, i) => find(placed, pumps[i] as PumpOnLine));
}

function hasFootValve(segments: readonly Segment[]): boolean {
  return segments.some(({ fitting }) => fitting?.group === "check");
}

const placedOf = ({ solution: { line } }: CheckContext, itemId: string | undefined) =>
  line.pumps.find(({ item }) => item.id === itemId) ?? (line.pumps[0] as PlacedPump);

/** m³; a value that every volume check stands on and shows */
const volumeStep = (pipes: readonly WetPipe[]) => [deriveOver(PIPE_VOLUME, volumeTerms(pipes))];

/** Air a pump has to clear before it draws. */
export const losesPrime = check<NoFacts>({
  quantity: "volume",
  each: "item",
  find: (context) =>
    standing(context, (placed, { pump }): Found<NoFacts>[] => {
      const { line } = context.solution;
      const suction = suctionOf(line, placed);
      const { low } = levelsOf(line.source);
      const draws = drawsItself(line, placed) && !pump.submersible && placed.elevation > low;
      if (!draws || suction.length === 0) return [];
      return [
        {
          severity: hasFootValve(suction) ? "good" : "watch",
          at: "low",
          itemId: placed.item.id,
          value: pipeVolume(pipesOf(suction)),
          source: PRACTICE,
          facts: NO_FACTS,
        },
      ];
    }),
  rank: moreIsWorse,
  derive: ({ itemId }, context) =>
    volumeStep(pipesOf(suctionOf(context.solution.line, placedOf(context, itemId)))),
});

/** Water that falls back through a pump nothing holds it from. */
export const drainsBack = check<{ fromTank: boolean }>({
  quantity: "volume",
  each: "item",
  find: (context) =>
    standing(context, (placed): Found<{ fromTank: boolean }>[] => {
      const { line } = context.solution;
      if (!drawsItself(line, placed) || line.pumps.length > 1) return [];
      if (hasFootValve(suctionOf(line, placed))) return [];
      const value = pipeVolume(drainingPipes(line, placed, levelsOf(line.source).low));
      const ways = unguardedOutlets(line, placed);
      if (value <= 0 || ways.size === 0) return [];
      // A mouth under water lets the whole of that water follow what is in the pipe.
      const fromTank = line.outlets.some(
        ({ node, item: { outlet }, elevation }) =>
          ways.has(node) && (receivingWater(outlet)?.high ?? elevation) > elevation,
      );
      const itemId = placed.item.id;
      return [
        { severity: "watch", at: "low", itemId, value, source: PRACTICE, facts: { fromTank } },
      ];
    }),
  rank: moreIsWorse,
  derive: drainBackSteps,
});

/** A pump beside others with no check valve of its own. */
export const backflowUnguarded = check<NoFacts>({
  quantity: "volume",
  each: "item",
  find: (context) =>
    standing(context, (placed): Found<NoFacts>[] => {
      const { line } = context.solution;
      if (placed.fed || hasFootValve(suctionOf(line, placed)) || line.pumps.length < 2) return [];
      if (!unguardedFromOutlet(line, placed)) return [];
      const value = pipeVolume(drainingPipes(line, placed, levelsOf(line.source).low));
      const itemId = placed.item.id;
      return [{ severity: "stop", at: "low", itemId, value, source: PRACTICE, facts: NO_FACTS }];
    }),
  rank: moreIsWorse,
  derive: drainBackSteps,
});

function drainBackSteps({ itemId }: Found<unknown>, context: CheckContext) {
  const { line } = context.solution;
  return volumeStep(drainingPipes(line, placedOf(context, itemId), levelsOf(line.source).low));
}

/**
 * A pump in a pit, a basin or a tank whose water may fall below its top between runs takes in air; under a check valve,
 * with no hole to leave by, the air stays and the pump hums and moves nothing. A well, and a pump that surely stays
 * under water, do not have it. A pump still to be chosen that stands in the water is taken to be one of these.
 */
export const airLock = check<NoFacts>({
  quantity: "head",
  each: "item",
  find: (context) =>
    standing(context, (placed, { pump }): Found<NoFacts>[] => {
      const { line, asked } = context.solution;
      const { kind } = line.source;
      if ((kind !== "open" && kind !== "tank") || placed.fed) return [];
      if (suctionOf(line, placed).length > 0 || !airHeldUnderCheck(line, placed)) return [];
      const lowest = lowestStanding(context);
      if (!pump.submersible && !(asked && placed.elevation < levelsOf(line.source).high)) return [];
      const value = lowest - placed.elevation;
      const limit = LIMITS.waterOverPump;
      if (value >= limit) return [];
      const itemId = placed.item.id;
      return [
        { severity: "watch", at: "low", itemId, value, limit, source: PRACTICE, facts: NO_FACTS },
      ];
    }),
  rank: ({ value }) => -value,
  derive: ({ itemId }, context) => [
    derive(OVER_PUMP, [lowestStanding(context), placedOf(context, itemId).elevation]),
  ],
});

/** m above datum: the lowest its water stands between runs, where a float stops the pump or at low water. */
function lowestStanding({ solution: { line }, line: { overTime, source } }: CheckContext): number {
  const body = "body" in source ? source.body : undefined;
  const stops = (overTime?.controls ?? []).flatMap((own) =>
    own.kind === "float" && own.body === body && own.off !== undefined ? [own.off] : [],
  );
  return Math.min(levelsOf(line.source).low, ...stops);
}

/** Humps where air gathers. */
export const trapsAir = check<{ suction: boolean }>({
  quantity: "head",
  each: "item",
  find: ({ solution: { line } }) =>
    highPoints(line).map(({ itemId, elevation, side }) => ({
      severity: "watch",
      at: "normal",
      itemId,
      value: elevation,
      source: PRACTICE,
      facts: { suction: side === "suction" },
    })),
  rank: moreIsWorse,
  derive: ({ itemId, value }, { solution: { line } }) => {
    const start = line.places.get(itemId ?? "")?.elevation ?? line.source.intake;
    return [
      deriveOver(HEIGHT, [
        term(sign("z", "where the run begins", "length"), start),
        term(sign("r", "it rises from there", "length"), value - start),
      ]),
    ];
  },
});

const HEIGHT = {
  ...SUM_OF_HEADS,
  title: "Height of the hump",
  equation: "z = z_0 + \\sum r_i",
  result: sign("z", "its top", "length"),
  source: "Levels and rises of the job",
};
