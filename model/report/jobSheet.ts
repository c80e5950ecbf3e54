import type { JobDocument } from "#contract/documents/job.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { settledDuty } from "#core/hydraulics/operatingPoint.ts";
import { levelsOf, WATER_LEVELS } from "#core/line/path.ts";
import { checkWords } from "#words/checks.ts";
import { diagnosticSentence } from "#words/diagnostics.ts";
import { itemName, WATER } from "#words/items.ts";
import { ledgerName } from "#words/ledger.ts";
import { derivationOf, type JobSolution, mended, normalLedger } from "../solveJob.ts";
import { type Block, left, right } from "./blocks.ts";

/** The job on one sheet: levels, line, duty, what to watch, where the head goes and how the flow was found. */
export function jobSheet(job: JobDocument, solved: JobSolution, system: UnitSystem): Block[] {
  const head = (si: number) => format(si, "head", system);
  const flow = (si: number) => format(si, "flow", system);
  const blocks: Block[] = [{ kind: "heading", level: 1, text: job.name }];
  for (const text of [job.place, job.note]) if (text) blocks.push({ kind: "paragraph", text });
  const levels = levelsOf(job.source);
  blocks.push(
    { kind: "heading", level: 2, text: "Water and line" },
    {
      kind: "table",
      caption: `Levels${job.datum ? `, measured from: ${job.datum}` : ""}`,
      columns: [left("At"), right("Level")],
      rows: WATER_LEVELS.map((at) => [WATER[at], format(levels[at], "length", system)]),
    },
  );
  if (solved.kind === "refused") {
    blocks.push(
      { kind: "heading", level: 2, text: "No duty yet" },
      ...solved.diagnostics.map((diagnostic): Block => {
        const { itemId } = diagnostic;
        const where = itemId === undefined ? "" : `${itemName(job.path, itemId, system)}: `;
        return { kind: "paragraph", text: `${where}${diagnosticSentence(diagnostic)}` };
      }),
    );
    return blocks;
  }
  const { solution } = solved;
  const judgements = mended(job, solved);
  const asked = solved.kind === "asked";
  blocks.push({
    ...{ kind: "heading", level: 2 },
    text: asked ? "What the line asks of a pump still to be chosen" : "Duty",
  });
  for (const { pump, itemId } of solution.pumps) {
    const known = job.pumps.find(({ id }) => id === pump.id);
    const which = solution.pumps.length > 1 ? `${itemName(job.path, itemId, system)}: ` : "";
    if (known) blocks.push({ kind: "paragraph", text: `${which}${known.maker} ${known.model}` });
  }
  blocks.push({
    kind: "table",
    caption: "What the line does",
    columns: [left("At"), right("Static head"), right("Total head"), right("At the outlets")],
    rows: WATER_LEVELS.map((at) => {
      const { staticHead, outcome, running } = solution.cases[at];
      const duty = settledDuty(outcome);
      return [
        WATER[at],
        head(staticHead),
        duty ? head(duty.head) : "–",
        duty && running ? flow(running.state.delivered) : "no duty",
      ];
    }),
  });
  for (const judgement of judgements) {
    const { severity } = judgement;
    if (severity === "good") continue;
    const { title, sentence, mend } = checkWords(judgement, job.path, system);
    blocks.push({ kind: "finding", severity, title, text: sentence, ...(mend && { mend }) });
  }
  const good = judgements.filter(({ severity }) => severity === "good").length;
  blocks.push({ kind: "paragraph", text: `${good} ${good === 1 ? "check" : "checks"} good.` });
  const ledger = normalLedger(solution);
  if (ledger.length > 0) {
    blocks.push(
      { kind: "heading", level: 2, text: "Where the head goes" },
      {
        kind: "table",
        caption: "At normal water",
        columns: [left("Item"), right("Takes"), right("Share")],
        rows: ledger.map((entry) => [
          ledgerName(entry, job, system),
          entry.lost === undefined ? head(entry.head) : `loses ${flow(entry.lost)}`,
          entry.lost === undefined ? formatPercent(entry.share) : "",
        ]),
      },
      {
        kind: "derivation",
        title: asked ? "How the head was found" : "How the flow was found",
        steps: derivationOf({ kind: asked ? "head" : "flow", at: "normal" }, solution, job),
      },
    );
  }
  blocks.push({
    kind: "caution",
    text: "Worked out from what was typed, not measured. Isolate and lock off before work near water; never lift a pump by its cable. Electrical work, wells, drinking water and discharge belong to licensed people and local codes.",
  });
  return blocks;
}
