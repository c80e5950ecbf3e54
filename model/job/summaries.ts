import type { JobLine } from "#contract/api/api.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { everyItem } from "#core/line/path.ts";
import { lineKnown } from "./assumed.ts";
import { smallSection } from "./smallSection.ts";
import { solveJob } from "./solveJob.ts";

/** What a list shows of a job that it says itself: nothing is worked out. */
export function outlineJob({ name, place = "", customer, kind, path, pumps }: JobDocument) {
  const on = new Set(everyItem(path).flatMap((item) => (item.kind === "pump" ? [item.pump] : [])));
  return {
    ...{ name, place, customer: customer?.name ?? "" },
    ...(kind && { kind }),
    pumps: pumps.filter(({ id }) => on.has(id)).map(({ maker, model }) => `${maker} ${model}`),
  };
}

/** What a list shows of a job, with what follows from it. */
export function summariseJob(job: JobDocument): JobLine {
  const line = outlineJob(job);
  const solved = solveJob(job);
  const section = lineKnown(job) ? smallSection(solved) : undefined;
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
      ? { duty: { flow: brief(running.state.delivered), head: brief(running.duty.head) } }
      : { missing: "duty" as const }),
    ...{ stops, ...drawn },
  };
}

/** A number for a list, to what is shown and a little more. */
const brief = (si: number) => Number(si.toPrecision(5));
