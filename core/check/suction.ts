import type {
  CaseSolution,
  PumpAtWork,
  PumpOnLine,
  Running,
  Solution,
} from "../hydraulics/solveLine.ts";
import { minimumSubmergence } from "../hydraulics/submergence.ts";
import type { CompiledLine } from "../line/compiledLine.ts";
import { LEVEL_CASES, type LevelCase, type Line } from "../line/path.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import type { Pump } from "../pump/pump.ts";
import { type Level, LIMITS, PRACTICE, type Verdict, type VerdictCode } from "./verdict.ts";

/** How the water reaches each pump. */
export function suctionVerdicts(
  solution: Solution,
  { levelCase }: CaseSolution,
  running: Running,
): Verdict[] {
  return running.pumps.flatMap((atWork, i) => {
    const { pump } = solution.pumps[i] as PumpOnLine;
    return pumpSuction(pump, atWork, levelCase);
  });
}

function pumpSuction(pump: Pump, atWork: PumpAtWork, levelCase: LevelCase): Verdict[] {
  const { itemId, suction, npshRequired } = atWork;
  const verdicts: Verdict[] = [];
  const judgeLift = (code: VerdictCode, limit: number, source: string): Verdict => ({
    code,
    level: liftLevel(suction.dynamicLift, limit),
    levelCase,
    itemId,
    quantity: "head",
    value: suction.dynamicLift,
    limit,
    extra: { staticLift: suction.staticLift, friction: suction.friction },
    source,
  });
  if (pump.submersible) {
    if (suction.staticLift > 0) {
      verdicts.push({
        code: "pump-not-under-water",
        level: "stop",
        levelCase,
        itemId,
        quantity: "head",
        value: suction.staticLift,
        limit: 0,
        source: PRACTICE,
      });
    }
  } else if (suction.dynamicLift > 0) {
    verdicts.push(
      judgeLift(
        "suction-lift-barometric",
        suction.barometricLimit,
        "Barometric limit: ISO 2533 air pressure, IAPWS vapour pressure",
      ),
    );
    if (suction.ownLimit !== undefined) {
      verdicts.push(
        judgeLift(
          "suction-lift-pump",
          suction.ownLimit,
          "Maker's suction lift, corrected for altitude and water temperature",
        ),
      );
    }
  }
  const floor = -suction.barometricLimit;
  if (suction.lowest && suction.lowest.pressureHead < floor) {
    verdicts.push({
      code: "suction-boils",
      level: "stop",
      levelCase,
      itemId: suction.lowest.itemId,
      quantity: "head",
      value: suction.lowest.pressureHead,
      limit: floor,
      source: "IAPWS vapour pressure",
    });
  }
  if (npshRequired !== undefined) {
    const margin = suction.npshAvailable - npshRequired;
    const comfortable =
      margin >= LIMITS.npshMetres && suction.npshAvailable >= LIMITS.npshRatio * npshRequired;
    verdicts.push({
      code: "npsh-margin",
      level: margin < 0 ? "stop" : comfortable ? "good" : "watch",
      levelCase,
      itemId,
      quantity: "head",
      value: suction.npshAvailable,
      limit: npshRequired,
      source: "ANSI/HI 9.6.1 suggests a ratio of 1.1–1.3 (from memory)",
    });
  }
  return verdicts;
}

function liftLevel(lift: number, limit: number): Level {
  if (lift >= limit) return "stop";
  return lift > LIMITS.suctionReserve * limit ? "watch" : "good";
}
/** The ways into the line that start in the water, with where each begins. */
function intakes({ stretches, segments }: CompiledLine) {
  return stretches.flatMap(({ from, start, end }) => {
    const first = segments[start];
    if (from !== 0 || !first || start === end) return [];
    // What floats goes up and down with the water, and keeps itself covered.
    const floats = segments.slice(start, end).some(({ fitting }) => fitting?.floats);
    return [{ first, index: start, floats }];
  });
}

/** Depth of water over every intake against what keeps a vortex from drawing air. */
export function submergenceVerdicts(
  { line }: Solution,
  { levelCase }: CaseSolution,
  running: Running,
): Verdict[] {
  // Without a suction line the pump's own inlet decides, and its maker says how deep.
  return intakes(line).flatMap(({ first, index, floats }): Verdict[] => {
    const depth = line.source.level[levelCase] - first.startElevation;
    if (depth <= 0 || floats) return [];
    const flow = Math.abs(running.flows.bySegment[index] as number);
    const limit = minimumSubmergence(first.bore, meanVelocity(flow, first.bore));
    return [
      {
        code: "submergence",
        level: depth < limit ? "watch" : "good",
        levelCase,
        itemId: first.itemId,
        quantity: "head",
        value: depth,
        limit,
        source: "ANSI/HI 9.8, S = D (1 + 2.3 V/√(gD)) (from memory)",
      },
    ];
  });
}

/** An intake that some level leaves above the water draws air. */
export function intakeVerdicts({ line }: Solution, { source }: Line): Verdict[] {
  const { level, intake } = source;
  const starts = intakes(line);
  const places = starts.length > 0 ? starts : [{ first: undefined, floats: false }];
  return places.flatMap(({ first, floats }): Verdict[] => {
    const value = first?.startElevation ?? intake;
    const levelCase = LEVEL_CASES.find((name) => value > level[name]);
    if (!levelCase || floats) return [];
    return [
      {
        code: "intake-uncovered",
        level: "stop",
        levelCase,
        ...(starts.length > 1 && first && { itemId: first.itemId }),
        quantity: "head",
        value,
        limit: level[levelCase],
        source: PRACTICE,
      },
    ];
  });
}
