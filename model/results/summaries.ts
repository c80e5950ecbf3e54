import type { JobLine } from "#contract/api/api.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { countOf } from "#core/finding/count.ts";
import { lineKnown } from "../job/assumed.ts";
import { outlineJob } from "../job/outline.ts";
import { smallSection } from "../job/smallSection.ts";
import { resultsOf } from "./computations.ts";

/** What a list shows of a job, with what follows from it. */
export function summariseJob(job: JobDocument): JobLine {
  const look = resultsOf(job);
  const solved = look("solved");
  const section = lineKnown(job) ? smallSection(solved) : undefined;
  const drawn = section && { section };
  const line = { ...outlineJob(job), stops: countOf(look("findings"), "stop"), ...drawn };
  if (solved.kind === "refused") {
    const pumpOnly = solved.diagnostics.every(({ code }) => code === "pump-not-chosen");
    return { ...line, missing: pumpOnly ? "flow" : "line" };
  }
  const { running } = solved.solution.cases.normal;
  return {
    ...line,
    ...(running
      ? { duty: { flow: brief(running.state.delivered), head: brief(running.duty.head) } }
      : { missing: "duty" as const }),
  };
}

/** A number for a list, to what is shown and a little more. */
const brief = (si: number) => Number(si.toPrecision(5));
