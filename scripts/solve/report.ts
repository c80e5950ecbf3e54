import type { FieldIssue } from "#contract/documents/issues.ts";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { WATER_LEVELS } from "#core/fluid/levels.ts";
import { settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { SolvedCase } from "#core/hydraulics/solveLine.ts";
import type { Look } from "#model/results/graph.ts";
import { checkWords } from "#words/checks.ts";
import { diagnosticSentence } from "#words/diagnostics.ts";
import { ledgerName } from "#words/ledger.ts";

type Report = { kind: "solved"; report: object } | { kind: "refused"; problems: FieldIssue[] };

/** What `solve` prints for a job, or why the line cannot be solved, by path of the part. */
export function report(job: JobDocument, look: Look<"solved" | "tried">): Report {
  const solved = look("solved");
  if (solved.kind === "refused") {
    const problems = solved.diagnostics.map((diagnostic) => {
      const path = pathOf(job.path, diagnostic.itemId) ?? "path";
      return { path, message: diagnosticSentence(diagnostic) };
    });
    return { kind: "refused", problems };
  }
  const { solution } = solved;
  const { judgements, sizeUps } = look("tried");
  const normal = solution.cases.normal.running;
  return {
    kind: "solved",
    report: {
      format: "upright-gusher/solution",
      version: 2,
      units: "SI: m, m3/s, Pa, W, m/s; heads in m of water",
      job: job.name,
      ...(solved.kind === "asked"
        ? { asked: solved.asked }
        : { pumps: solution.pumps.map(({ itemId, pump }) => ({ itemId, pump: pump.id })) }),
      duty: Object.fromEntries(WATER_LEVELS.map((name) => [name, duty(solution.cases[name])])),
      crossChecks: solution.crossChecks,
      ledger: (normal?.ledger ?? []).map((entry) => ({
        ...entry,
        name: ledgerName(entry, job, "metric"),
      })),
      oneSizeLarger: sizeUps.map(({ larger, ...rest }) => ({ ...rest, stock: larger.id })),
      checks: judgements.map((judgement) => ({
        ...judgement,
        ...checkWords(judgement, job, "metric"),
      })),
    },
  };
}

/** Where in the document an item stands: "path.3", or "path.3.branches.0.2" inside a split. */
function pathOf(
  items: readonly JobPathItem[],
  itemId: string | undefined,
  at = "path",
): string | undefined {
  for (const [i, item] of items.entries()) {
    if (item.id === itemId) return `${at}.${i}`;
    if (item.kind !== "split") continue;
    for (const [b, branch] of item.branches.entries()) {
      const found = pathOf(branch, itemId, `${at}.${i}.branches.${b}`);
      if (found) return found;
    }
  }
  return undefined;
}

function duty({ staticHead, outcome, siphonFlow, running }: SolvedCase) {
  const settled = settledDuty(outcome);
  return {
    outcome: outcome.kind,
    staticHead,
    ...(settled && { flow: settled.flow, totalDynamicHead: settled.head }),
    ...(outcome.kind !== "runs" && { detail: outcome }),
    ...(siphonFlow !== undefined && { siphonFlow }),
    ...(running && {
      hydraulicPower: running.hydraulicPower,
      power: running.power,
      efficiency: running.efficiency,
      delivered: running.state.delivered,
      pumps: running.pumps.map(({ itemId, duty: own, suction, npshRequired }) => ({
        itemId,
        flow: own.flow,
        head: own.head,
        npshAvailable: suction.npshAvailable,
        npshRequired,
      })),
    }),
  };
}
