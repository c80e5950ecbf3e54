import { JOB_KINDS } from "#contract/documents/jobKinds.ts";
import { CHECKS } from "#core/check/registry.ts";
import { FINDINGS } from "#core/finding/registry.ts";
import * as duty from "#core/formula/duty.ts";
import type { Formula } from "#core/formula/formula.ts";
import * as irrigation from "#core/formula/irrigation.ts";
import * as laws from "#core/formula/laws.ts";
import * as simulation from "#core/formula/simulation.ts";
import * as well from "#core/formula/well.ts";
import { KINDS } from "#model/kinds/kinds.ts";
import { DECLARED, type ResultName } from "#model/results/results.ts";
import { DECISION_NAMES } from "#words/decisions.ts";
import { CONTEXT_NAMES } from "#words/findings.ts";
import { JOB_KIND_NAMES } from "#words/kinds.ts";

type Row = readonly string[];

/** Everything that is declared once, as tables: what judges, what is reckoned by, what follows from a job. */
export function catalogue(): string {
  return [
    "# Catalogue",
    "",
    "Written by `npm run docs` out of the code itself; a test fails while it is behind.",
    "",
    ...table("Kinds of job", ["kind", "begun as", "decided on it"], kindRows()),
    ...table("Checks of the line", ["code", "its number", "said"], checkRows()),
    ...table("Findings beside the line", ["code", "of what", "limit from"], findingRows()),
    ...table("Results", ["name", "worked out", "needs", "reads"], resultRows()),
    ...table("Formulas", ["what", "equation", "source"], formulaRows()),
  ].join("\n");
}

function table(title: string, heads: Row, rows: readonly Row[]): string[] {
  const line = (cells: Row) => `| ${cells.join(" | ")} |`;
  return [
    ...[`## ${title}`, ""],
    ...[line(heads), line(heads.map(() => "---")), ...rows.map(line)],
    "",
  ];
}

const code = (text: string) => `\`${text}\``;

const kindRows = (): Row[] =>
  JOB_KINDS.map((kind) => [
    code(kind),
    JOB_KIND_NAMES[kind].says,
    KINDS[kind].decisions.map((id) => DECISION_NAMES[id].toLowerCase()).join(", "),
  ]);

const checkRows = (): Row[] =>
  Object.entries(CHECKS).map(([name, { quantity, each }]) => [
    ...[code(name), quantity],
    each === "item" ? "of each pump, pipe or outlet" : "once",
  ]);

const findingRows = (): Row[] =>
  Object.entries(FINDINGS).map(([name, { context, source }]) => [
    ...[code(name), CONTEXT_NAMES[context].toLowerCase(), source],
  ]);

const WHERE = {
  page: "on the page",
  worker: "beside it",
  "by-length": "on the page, of a long line beside it",
};

const resultRows = (): Row[] =>
  (Object.keys(DECLARED) as ResultName[]).map((name) => {
    const { reads, needs, where } = DECLARED[name];
    return [
      ...[code(name), WHERE[where], needs.map(code).join(", ")],
      [...new Set<string>(reads)].join(", "),
    ];
  });

function formulaRows(): Row[] {
  const all = [laws, duty, simulation, well, irrigation].flatMap((own) =>
    Object.values(own as Record<string, unknown>).filter(isFormula),
  );
  const inOrder = all.toSorted((a, b) =>
    `${a.title} ${a.equation}` < `${b.title} ${b.equation}` ? -1 : 1,
  );
  return inOrder.map(({ title, equation, source }) => [
    title,
    // A bar would end the cell.
    `$${equation.replaceAll("|", "\\vert ")}$`,
    source,
  ]);
}

const isFormula = (own: unknown): own is Formula =>
  typeof own === "object" && own !== null && "equation" in own && "title" in own && "source" in own;
