import type { FieldIssue } from "#contract/documents/issues.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import type { LedgerEntry } from "#core/hydraulics/headLedger.ts";
import { settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { CaseSolution } from "#core/hydraulics/solveLine.ts";
import { LEVEL_CASES } from "#core/line/path.ts";
import { solveJob } from "#model/solveJob.ts";
import { verdictWords } from "#words/checks.ts";
import { findingSentence } from "#words/diagnostics.ts";
import { itemName } from "#words/items.ts";

type Report = { kind: "solved"; report: object } | { kind: "refused"; problems: FieldIssue[] };

/** What `solve` prints for a job, or why the line cannot be solved, by path of the part. */
export function report(job: JobDocument): Report {
  const solved = solveJob(job);
  if (solved.kind === "refused") {
    const problems = solved.findings.map((finding) => {
      return { path: pathOf(job, finding.itemId), message: findingSentence(finding) };
    });
    return { kind: "refused", problems };
  }
  const { solution, verdicts, sizeUps } = solved;
  const normal = solution.cases.normal.running;
  return {
    kind: "solved",
    report: {
      format: "upright-gusher/solution",
      version: 1,
      units: "SI: m, m3/s, Pa, W, m/s; heads in m of water",
      job: job.name,
      pumps: solution.pumps.map(({ itemId, pump }) => ({ itemId, pump: pump.id })),
      duty: Object.fromEntries(LEVEL_CASES.map((name) => [name, duty(solution.cases[name])])),
      crossChecks: solution.crossChecks,
      ledger: (normal?.ledger ?? []).map((entry) => ({
        ...entry,
        name: ledgerName(entry, job),
      })),
      oneSizeLarger: sizeUps.map(({ larger, ...rest }) => ({ ...rest, stock: larger.id })),
      verdicts: verdicts.map((verdict) => ({
        ...verdict,
        ...verdictWords(verdict, job.path, "metric"),
      })),
    },
  };
}

/** Where in the document an item stands: "path.3", or "path.3.branches.0.2" inside a split. */
function pathOf(job: JobDocument, itemId: string | undefined): string {
  for (const [i, item] of job.path.entries()) {
    if (item.id === itemId) return `path.${i}`;
    if (item.kind !== "split") continue;
    for (const [b, branch] of item.branches.entries()) {
      const k = branch.findIndex((inner) => inner.id === itemId);
      if (k >= 0) return `path.${i}.branches.${b}.${k}`;
    }
  }
  return "path";
}

function ledgerName({ kind, itemId }: LedgerEntry, job: JobDocument): string {
  const item = itemId && itemName(job.path, itemId, "metric");
  if (kind === "lift") return item ? `Lift to ${item}` : "Lift";
  return item ?? "Pressure on the source";
}

function duty({ staticHead, outcome, siphonFlow, running }: CaseSolution) {
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
      delivered: running.flows.delivered,
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
