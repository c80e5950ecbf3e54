import type { Severity } from "../check/check.ts";
import {
  checkContext,
  type Judgement,
  judge,
  SEVERITY_ORDER,
  worstSeverity,
} from "../check/registry.ts";
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
  worst: Severity;
  judgements: Judgement[];
}

/**
 * Every pump tried on the line, the fitting ones first: by the worst judgement, then by the power taken
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
    const judgements = judge(checkContext(result.solution, { ...line, path }, wantedFlow));
    const flow = settledDuty(outcome) && running?.state.delivered;
    return [
      {
        pump,
        outcome,
        ...(flow !== undefined && { flow }),
        ...(running?.power !== undefined && { power: running.power }),
        worst: worstSeverity(judgements),
        judgements,
      },
    ];
  });
  return candidates.sort(
    (a, b) =>
      SEVERITY_ORDER[a.worst] - SEVERITY_ORDER[b.worst] ||
      workPerVolume(a) - workPerVolume(b) ||
      (b.flow ?? 0) - (a.flow ?? 0),
  );
}

/** J per m³; pumps without published power come after those with. */
function workPerVolume({ flow, power }: Candidate): number {
  return flow && power ? power / flow : Number.MAX_VALUE;
}
