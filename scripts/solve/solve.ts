import { readFileSync } from "node:fs";
import { fieldIssues } from "#contract/documents/issues.ts";
import { jobSchema } from "#contract/documents/job.ts";
import { withNamedPumps } from "./namedPumps.ts";
import { report } from "./report.ts";

/**
 * npm run --silent solve -- FILE: a job file in, its duty, ledger and checks out as JSON.
 * Bad input ends with exit code 2, the path of the field and a sentence on standard error, and nothing
 * on standard output.
 */
function refuse(path: string, message: string): never {
  process.stderr.write(`${path === "" ? "" : `${path}: `}${message}\n`);
  process.exit(2);
}

const [file, ...rest] = process.argv.slice(2);
if (!file || rest.length > 0) refuse("", "Give one job file, or - to read standard input.");

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

const result = report(parsed.data);
if (result.kind === "refused") {
  for (const { path, message } of result.problems) process.stderr.write(`${path}: ${message}\n`);
  process.exit(2);
}
process.stdout.write(`${JSON.stringify(result.report, null, 2)}\n`);
