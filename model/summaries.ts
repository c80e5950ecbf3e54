import type { JobLine, JobSummary, Owed } from "#contract/api/api.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { everyItem } from "#core/line/path.ts";
import { smallSection } from "./smallSection.ts";
import { solveJob } from "./solveJob.ts";

/** What a list shows of a document, made when it is saved. */
export function summariseJob(job: JobDocument): JobLine {
  const { name, place = "", customer, kind, path, pumps } = job;
  const on = new Set(everyItem(path).flatMap((item) => (item.kind === "pump" ? [item.pump] : [])));
  const line = {
    ...{ name, place, customer: customer?.name ?? "" },
    ...(kind && { kind }),
    pumps: pumps.filter(({ id }) => on.has(id)).map(({ maker, model }) => `${maker} ${model}`),
  };
  const solved = solveJob(job);
  const section = smallSection(solved);
  const drawn = section && { section };
  if (solved.kind === "refused") {
    const pumpOnly = solved.diagnostics.every(({ code }) => code === "pump-not-chosen");
    return { ...line, missing: pumpOnly ? "flow" : "line", stops: 0, ...drawn };
  }
  const { running } = solved.solution.cases.normal;
  const stops = solved.judgements.filter(({ severity }) => severity === "stop").length;
  return {
    ...line,
    ...(running
      ? { duty: { flow: running.state.delivered, head: running.duty.head } }
      : { missing: "duty" as const }),
    ...{ stops, ...drawn },
  };
}

/** Judgements of a reading after which something has to be mended. */
const SHORT = new Set(["falls-short", "less"]);
/** … and after which it has to be taken again */
const DOUBTED = new Set(["cannot-be", "cannot-tell"]);

/** What a job is owed next: what is missing before what is wrong, and what is wrong before what is unproven. */
export function owedNext({
  kind,
  missing,
  pumps,
  stops,
  readings,
  measured,
}: Omit<JobSummary, "owed">): Owed {
  if (kind === "measuring" && pumps.length === 0) return readings > 0 ? "nothing" : "measure";
  if (missing === "flow" || missing === "line") return "survey";
  if (pumps.length === 0) return "choose";
  if (missing || stops > 0 || (measured && SHORT.has(measured.acceptance))) return "mend";
  return readings === 0 || (measured && DOUBTED.has(measured.acceptance)) ? "measure" : "nothing";
}
