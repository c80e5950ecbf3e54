import type { Solution } from "../hydraulics/solveLine.ts";
import { LEVEL_CASES, type Line } from "../line/path.ts";
import { bestEfficiencyFlow } from "../pump/curve.ts";
import {
  dischargePressureVerdict,
  floodedOutletVerdicts,
  pressureVerdicts,
  surgeVerdicts,
  velocityVerdicts,
} from "./discharge.ts";
import {
  branchVerdicts,
  hazenWilliamsVerdict,
  holeVerdicts,
  outcomeVerdicts,
  regionVerdicts,
  schoolsVerdict,
  wantedVerdict,
} from "./outcome.ts";
import { trappedAirVerdicts, waterHeldVerdicts } from "./standstill.ts";
import { intakeVerdicts, submergenceVerdicts, suctionVerdicts } from "./suction.ts";
import type { Level, Verdict, VerdictCode, Wanted } from "./verdict.ts";

const SEVERITY: Record<Level, number> = { good: 0, watch: 1, stop: 2 };

/** Every verdict on a solution, the worst first. */
export function verdictsOn(solution: Solution, line: Line, wanted: Wanted): Verdict[] {
  const best = solution.pumps.map(({ curve }) => bestEfficiencyFlow(curve));
  const all = LEVEL_CASES.flatMap((levelCase) => {
    const solved = solution.cases[levelCase];
    const { running } = solved;
    const outcome = outcomeVerdicts(solution, solved);
    if (!running) return outcome;
    return [
      ...outcome,
      ...wantedVerdict(solved, wanted),
      ...holeVerdicts(solution, solved, running),
      ...branchVerdicts(solution, solved, running),
      ...suctionVerdicts(solution, solved, running),
      ...submergenceVerdicts(solution, solved, running),
      ...velocityVerdicts(solution, solved, running),
      ...surgeVerdicts(solution, line, solved, running),
      ...dischargePressureVerdict(solved, running),
      ...regionVerdicts(best, solved, running),
      ...hazenWilliamsVerdict(solution, line, solved, running),
    ];
  });
  all.push(
    ...intakeVerdicts(solution, line),
    ...waterHeldVerdicts(solution),
    ...trappedAirVerdicts(solution),
    ...pressureVerdicts(solution, line),
    ...floodedOutletVerdicts(solution),
    ...schoolsVerdict(solution),
  );
  const kept = worstOfEach(all);
  const outside = kept.some(({ code }) => OUTSIDE_WINDOW.has(code));
  const said = outside ? kept.filter(({ code }) => code !== "discharge-velocity") : kept;
  return said.sort((a, b) => SEVERITY[b.level] - SEVERITY[a.level]);
}

/** The worst level among verdicts; good where there are none. */
export function worstLevel(verdicts: readonly Verdict[]): Level {
  return verdicts.reduce<Level>(
    (worst, { level }) => (SEVERITY[level] > SEVERITY[worst] ? level : worst),
    "good",
  );
}

/** Tells verdicts apart: those on a pump or a hump stand for each of them, the rest once for the line. */
export function verdictKey({ code, itemId }: Pick<Verdict, "code" | "itemId">): string {
  return EACH_HAS_ITS_OWN.has(code) && itemId !== undefined ? `${code} ${itemId}` : code;
}

const EACH_HAS_ITS_OWN = new Set<VerdictCode>([
  "cannot-lift",
  "below-curve",
  "beyond-curve",
  "two-crossings",
  "pump-held-shut",
  "backflow-unguarded",
  "pump-not-under-water",
  "suction-lift-barometric",
  "suction-lift-pump",
  "npsh-margin",
  "operating-region",
  "loses-prime",
  "intake-uncovered",
  "traps-air",
  "outlet-floods",
]);

function worstOfEach(verdicts: readonly Verdict[]): Verdict[] {
  const kept = new Map<string, Verdict>();
  for (const verdict of verdicts) {
    const key = verdictKey(verdict);
    const held = kept.get(key);
    if (!held || isWorse(verdict, held)) kept.set(key, verdict);
  }
  return [...kept.values()];
}

/** More severe, or as severe and further past the limit in either direction. */
function isWorse(a: Verdict, b: Verdict): boolean {
  const severity = SEVERITY[a.level] - SEVERITY[b.level];
  if (severity !== 0) return severity > 0;
  if (a.limit === undefined || b.limit === undefined) return false;
  const direction = HIGHER_IS_BETTER.has(a.code) ? -1 : 1;
  return direction * (a.value / a.limit - b.value / b.limit) > 1e-12;
}

/** Either of these at one level takes the place of "inside the window" at another. */
const OUTSIDE_WINDOW = new Set<VerdictCode>(["discharge-velocity-high", "discharge-velocity-low"]);

const HIGHER_IS_BETTER = new Set<VerdictCode>([
  "wanted-flow",
  "npsh-margin",
  "discharge-velocity-low",
  "check-valve-flutters",
  "submergence",
  "outlets-uneven",
]);
