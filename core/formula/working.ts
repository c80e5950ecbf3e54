import type { Verdict } from "../check/verdict.ts";
import { otherSchools, type Solution, solveLine } from "../hydraulics/solveLine.ts";
import type { LevelCase, Line } from "../line/path.ts";
import { GRAVITY } from "../quantity/constants.ts";
import {
  deliveredWorking,
  efficiencyWorking,
  flowWorking,
  headWorking,
  lostWorking,
  powerWorking,
  staticWorking,
} from "./duty.ts";
import { holeWorking, lossWorking } from "./headLoss.ts";
import { step, term, type WorkStep } from "./step.ts";
import { verdictWorking } from "./verdict.ts";

/** A number a person may ask about. */
export type Subject =
  | {
      kind: "flow" | "delivered" | "lost" | "head" | "static" | "power" | "efficiency";
      levelCase: LevelCase;
    }
  /** the flow at normal water by the other school of friction, or of fittings */
  | { kind: "other-friction" | "other-fittings" }
  /** an entry of the normal level's ledger */
  | { kind: "ledger"; index: number }
  | { kind: "verdict"; verdict: Verdict };

/**
 * How a number comes about: equations with the numbers of this very solution put in. The last step ends
 * with the number that is shown. Empty where a number is typed or counted and nothing was worked out.
 */
export function workingOf(subject: Subject, solution: Solution, line: Line): WorkStep[] {
  switch (subject.kind) {
    case "flow":
      return flowWorking(solution, subject.levelCase);
    case "lost":
      return lostWorking(solution, subject.levelCase);
    case "delivered":
      return deliveredWorking(solution, subject.levelCase);
    case "head":
      return headWorking(solution, subject.levelCase);
    case "static":
      return [staticWorking(solution, subject.levelCase)];
    case "power":
      return powerWorking(solution, subject.levelCase);
    case "efficiency":
      return efficiencyWorking(solution, subject.levelCase);
    case "other-friction":
    case "other-fittings":
      return otherWorking(
        subject.kind === "other-friction" ? "friction" : "fittings",
        solution,
        line,
      );
    case "verdict":
      return verdictWorking(subject.verdict, solution, line);
    case "ledger":
      return ledgerWorking(subject.index, solution, line);
  }
}

/** The same line solved once more by the other school. */
function otherWorking(
  school: "friction" | "fittings",
  { pumps }: Solution,
  line: Line,
): WorkStep[] {
  const method = { ...line.method, [school]: otherSchools(line.method)[school] };
  const all = pumps.map(({ pump }) => pump);
  const result = solveLine({ ...line, method }, all);
  return result.kind === "solved" ? flowWorking(result.solution, "normal") : [];
}

function ledgerWorking(index: number, solution: Solution, line: Line): WorkStep[] {
  const { running } = solution.cases.normal;
  const entry = running?.ledger[index];
  if (!running || !entry) return [];
  const { flows } = running;
  if (
    entry.kind === "lift" ||
    entry.kind === "outlet-pressure" ||
    entry.kind === "source-pressure"
  ) {
    return [levelStep(entry.kind, entry.head, solution)];
  }
  if (entry.kind === "hole") {
    const hole = solution.line.holes.find(({ itemId }) => itemId === entry.itemId);
    return hole ? holeWorking(hole, flows.nodeHeads[hole.node] as number) : [];
  }
  // The ledger lists lifts, pressures and holes among the segments; what is left is in their order.
  const before = running.ledger.slice(0, index).filter(({ kind }) => !NO_SEGMENT.has(kind)).length;
  const segment = solution.line.segments[before];
  if (!segment) return [];
  const context = { water: solution.water, friction: line.method.friction };
  return lossWorking(segment, Math.abs(flows.bySegment[before] as number), context);
}

const NO_SEGMENT: ReadonlySet<string> = new Set([
  "lift",
  "outlet-pressure",
  "source-pressure",
  "hole",
]);

function levelStep(
  kind: "lift" | "outlet-pressure" | "source-pressure",
  head: number,
  { line, water }: Solution,
): WorkStep {
  const surface = line.source.level.normal;
  if (kind === "lift") {
    return step(
      {
        title: "Lift",
        equation: "h = z_2 - z_1",
        given: [
          term("z_2", "outlet, or the surface it empties into", surface + head, "m"),
          term("z_1", "normal water at the source", surface, "m"),
        ],
        result: { symbol: "h", name: "lift", unit: "m" },
        source: "Levels of the job",
      },
      (z2 = 0, z1 = 0) => z2 - z1,
    );
  }
  return step(
    {
      title: "Pressure as head",
      equation: "h = \\frac{p}{\\rho g}",
      given: [
        term("p", "pressure typed for it", head * water.density * GRAVITY, "Pa"),
        term("\\rho", "density of the water", water.density, "kg/m³"),
        term("g", "standard gravity", GRAVITY, "m/s²"),
      ],
      result: { symbol: "h", name: "head", unit: "m" },
      source: "Hydrostatics",
    },
    (p = 0, rho = 1, gravity = 1) => p / (rho * gravity),
  );
}
