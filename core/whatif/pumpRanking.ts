import type { Verdict } from "../check/verdict.ts";
import { verdictsOn, worstLevel } from "../check/verdicts.ts";
import type { Outcome } from "../hydraulics/operatingPoint.ts";
import { settledDuty } from "../hydraulics/operatingPoint.ts";
import { solveLine } from "../hydraulics/solveLine.ts";
import { changeItems, type Line } from "../line/path.ts";
import type { Pump } from "../pump/pump.ts";

/** How one pump would do on a line, at the normal level. */
export interface Candidate {
  pump: Pump;
  outcome: Outcome;
  flow?: number;
  power?: number;
  worst: Verdict["level"];
  verdicts: Verdict[];
}

/**
 * Every pump tried on the line, the fitting ones first: by the worst verdict, then by the power taken
 * for each unit of water, then by flow. Pumps that cannot be solved are left out. Each is tried in every
 * place of the line, or in the one named, with the others as they are.
 */
export function rankPumps(
  line: Line,
  pumps: readonly Pump[],
  wantedFlow: number | undefined,
  place?: { itemId: string; others: readonly Pump[] },
): Candidate[] {
  const candidates = pumps.flatMap((pump): Candidate[] => {
    const path = changeItems(line.path, (item) =>
      item.kind === "pump" && (!place || item.id === place.itemId)
        ? { ...item, pump: pump.id }
        : item,
    );
    const result = solveLine({ ...line, path }, [pump, ...(place?.others ?? [])]);
    if (result.kind === "refused") return [];
    const { outcome, running } = result.solution.cases.normal;
    const verdicts = verdictsOn(result.solution, { ...line, path }, { wantedFlow });
    const flow = settledDuty(outcome) && running?.flows.delivered;
    return [
      {
        pump,
        outcome,
        ...(flow !== undefined && { flow }),
        ...(running?.power !== undefined && { power: running.power }),
        worst: worstLevel(verdicts),
        verdicts,
      },
    ];
  });
  return candidates.sort(
    (a, b) =>
      SEVERITY[a.worst] - SEVERITY[b.worst] ||
      workPerVolume(a) - workPerVolume(b) ||
      (b.flow ?? 0) - (a.flow ?? 0),
  );
}

const SEVERITY: Record<Verdict["level"], number> = { good: 0, watch: 1, stop: 2 };

/** J per m³; pumps without published power come after those with. */
function workPerVolume({ flow, power }: Candidate): number {
  return flow && power ? power / flow : Number.MAX_VALUE;
}
