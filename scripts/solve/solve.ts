import { readFileSync } from "node:fs";
import { parseArgs } from "node:util";
import { fieldIssues } from "#contract/documents/issues.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { parseQuantity } from "#contract/units/parse.ts";

import { waters } from "#model/irrigation/waters.ts";
import { resultsOf } from "#model/results/computations.ts";
import { hasWell } from "#model/well/settle.ts";
import { DECISION_NAMES, decisionWords } from "#words/decisions.ts";
import { findingWords } from "#words/findings.ts";
import { withNamedPumps } from "./namedPumps.ts";
import { report } from "./report.ts";
import { timelineCsv, timelineOf, timelineReport } from "./timeline.ts";

/**
 * npm run --silent solve -- FILE [--until TIME] [--csv]: a job file in, its duty, ledger, checks and timeline out as
 * JSON, or the timeline alone as CSV.
 * Bad input ends with exit code 2, the path of the field and a sentence on standard error, and nothing
 * on standard output.
 */
function refuse(path: string, message: string): never {
  process.stderr.write(`${path === "" ? "" : `${path}: `}${message}\n`);
  process.exit(2);
}

const { values, positionals } = options();
const [file, ...rest] = positionals;
if (!file || rest.length > 0) refuse("", "Give one job file, or - to read standard input.");
const until = values.until === undefined ? undefined : seconds(values.until);

let text: string;
try {
  text = readFileSync(file === "-" ? 0 : file, "utf8");
} catch {
  refuse("", `Cannot read ${file}.`);
}

let given: unknown;
try {
  given = JSON.parse(text);
} catch {
  refuse("", `${file === "-" ? "Standard input" : file} is not valid JSON.`);
}

const parsed = jobSchema.safeParse(withNamedPumps(given));
if (!parsed.success) {
  for (const { path, message } of fieldIssues(parsed.error)) {
    process.stderr.write(`${path === "" ? "" : `${path}: `}${message}\n`);
  }
  process.exit(2);
}

const asRead = parsed.data as JobDocument;
const job =
  until === undefined ? asRead : { ...asRead, overTime: { ...asRead.overTime, span: until } };
const look = resultsOf(job);
const result = report(job, look);
if (result.kind === "refused") refuseAll(result.problems);
// As the stages of ground and well tell it, in SI.
const told = {
  decisions: look("decisions").map((own) => ({
    ...own,
    name: DECISION_NAMES[own.id],
    ...decisionWords(own, job, "metric"),
  })),
  findings: look("findings").beside.map((own) => ({
    ...own,
    ...findingWords(own, { system: "metric", body: (k) => job.bodies?.[k]?.name ?? "" }),
  })),
  ...(waters(job) && { watering: look("irrigation") }),
  ...(hasWell(job) && { well: look("well") }),
};
const timeline = timelineOf(look("run"));
if (timeline.kind === "refused") refuseAll(timeline.problems);
if (timeline.kind === "none") {
  if (values.csv || until !== undefined) {
    refuse("bodies", "Nothing moves in time: give the source, or an outlet, a body of water.");
  }
  process.stdout.write(`${JSON.stringify({ ...result.report, ...told }, null, 2)}\n`);
} else if (values.csv) process.stdout.write(timelineCsv(timeline.run));
else {
  const overTime = timelineReport(job, timeline.run);
  process.stdout.write(`${JSON.stringify({ ...result.report, ...told, overTime }, null, 2)}\n`);
}

function refuseAll(problems: readonly { path: string; message: string }[]): never {
  for (const { path, message } of problems) process.stderr.write(`${path}: ${message}\n`);
  process.exit(2);
}

function options() {
  try {
    return parseArgs({
      allowPositionals: true,
      options: { until: { type: "string" }, csv: { type: "boolean" } },
    });
  } catch (error) {
    refuse("", (error as Error).message);
  }
}

/** A time typed in any unit; a bare number is in seconds. */
function seconds(text: string): number {
  const time = parseQuantity(text, "time", "metric");
  if (!time.ok) refuse("--until", time.message);
  if (!(time.value > 0)) refuse("--until", "The time must be more than 0.");
  return time.value;
}
