import type { JobDocument } from "#contract/documents/job.ts";
import { format, formatNumber, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { Band } from "#core/condition/uncertainty.ts";
import type { Context, Finding } from "#core/finding/registry.ts";
import { WATER_LEVELS } from "#core/fluid/levels.ts";
import { settledDuty } from "#core/hydraulics/operatingPoint.ts";
import { levelsOf } from "#core/line/path.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import { lineKnown } from "#model/job/assumed.ts";
import { derivationOf, type JobSolution, normalLedger, withRemedies } from "#model/job/solveJob.ts";
import type { RunResult } from "#model/simulation/result.ts";
import type { WellResult } from "#model/well/well.ts";
import { assumedName } from "#words/assumed.ts";
import { checkWords } from "#words/checks.ts";
import { diagnosticSentence } from "#words/diagnostics.ts";
import { itemName, waterOf } from "#words/items.ts";
import { ledgerName } from "#words/ledger.ts";
import { type Block, customerWords, left, right } from "./blocks.ts";
import { stopBlocks } from "./findingBlocks.ts";
import { irrigationBlocks } from "./irrigationBlocks.ts";
import { partsOfLine } from "./partsOfLine.ts";
import { permissionBlocks, simulationBlocks } from "./simulationBlocks.ts";
import { wellBlocks } from "./wellBlocks.ts";

/** Pictures kept with the job itself. */
const picturesOf = ({ attachments = [] }: JobDocument): Block[] =>
  attachments.length === 0
    ? []
    : [
        {
          ...{ kind: "pictures", caption: "Pictures" },
          pictures: attachments.map((id, i) => ({ id, name: `Picture ${i + 1}` })),
        },
      ];

/** A job on paper. */
export interface JobSheet {
  /** what goes to the pit and to the customer: pump, promise, parts, what to watch and what can hurt */
  sheet: Block[];
  /** where the head goes and how the number was found, for whoever asks */
  working: Block[];
}

/** What follows from a job beside its line. */
export interface KnownOfJob {
  /** where the duty likely lies */
  band?: Band | undefined;
  run?: RunResult | undefined;
  watering?: IrrigationResult | undefined;
  well?: WellResult | undefined;
  /** everything that was found beside the line */
  beside?: readonly Finding[] | undefined;
}

/** Contexts that have no part of their own on the sheet. */
const UNTOLD: ReadonlySet<Context> = new Set(["motor", "engine", "yard-run", "draws", "tap"]);

/**
 * The job on one sheet, and its working beside.
 * @param known what else follows from it, as far as it is there and known
 */
export function jobSheet(
  job: JobDocument,
  solved: JobSolution,
  system: UnitSystem,
  { band, run, watering, well, beside = [] }: KnownOfJob = {},
): JobSheet {
  const head = (si: number) => format(si, "head", system);
  const flow = (si: number) => format(si, "flow", system);
  const sheet: Block[] = [{ kind: "heading", level: 1, text: job.name }];
  const customer = customerWords(job);
  const whose = customer && `For ${customer}`;
  for (const text of [whose, job.place, job.note]) {
    if (text) sheet.push({ kind: "paragraph", text });
  }
  const levels = levelsOf(job.source);
  const water = waterOf(job.source);
  const level = (at: (typeof WATER_LEVELS)[number]) => format(levels[at], "length", system);
  const datum = job.datum
    ? `Levels measured from: ${job.datum}`
    : "Levels above the job’s own datum";
  const parts: Block[] = [
    { kind: "heading", level: 2, text: "Parts of the line" },
    {
      ...{ kind: "table", caption: "All of each together" },
      columns: [left("What"), right("How much")],
      rows: partsOfLine(job.path, system),
    },
  ];
  const caution: Block = {
    kind: "caution",
    text: "Worked out from what was typed, not measured. Isolate and lock off before work near water; never lift a pump by its cable. Electrical work, wells, drinking water and discharge belong to licensed people and local codes.",
  };
  const { assumed = [] } = job;
  const unmeasured: Block[] =
    assumed.length === 0
      ? []
      : [
          {
            kind: "paragraph",
            text: `Assumed, not measured: ${assumed.map((field) => assumedName(job, field, system)).join("; ")}.`,
          },
        ];
  if (!lineKnown(job)) {
    for (const { maker, model } of job.pumps) {
      sheet.push({ kind: "paragraph", text: `Pump: ${maker} ${model}` });
    }
    sheet.push(
      { kind: "heading", level: 2, text: "No line is known" },
      { kind: "paragraph", text: diagnosticSentence({ code: "line-unknown" }) },
      ...picturesOf(job),
      caution,
    );
    return { sheet, working: [] };
  }
  if (solved.kind === "refused") {
    sheet.push(
      {
        ...{ kind: "table", caption: datum },
        columns: [left("At"), right("Level")],
        rows: WATER_LEVELS.map((at) => [water[at], level(at)]),
      },
      { kind: "heading", level: 2, text: "No duty yet" },
      ...solved.diagnostics.map((diagnostic): Block => {
        const { itemId } = diagnostic;
        const where = itemId === undefined ? "" : `${itemName(job.path, itemId, system)}: `;
        return { kind: "paragraph", text: `${where}${diagnosticSentence(diagnostic)}` };
      }),
      ...parts,
      ...unmeasured,
      caution,
    );
    return { sheet, working: [] };
  }
  const { solution } = solved;
  const judgements = withRemedies(job, solved);
  const asked = solved.kind === "asked";
  sheet.push({
    ...{ kind: "heading", level: 2 },
    text: asked ? "What the line asks of a pump still to be chosen" : "Pump and promise",
  });
  for (const { pump, itemId } of solution.pumps) {
    const known = job.pumps.find(({ id }) => id === pump.id);
    const which = solution.pumps.length > 1 ? `${itemName(job.path, itemId, system)}: ` : "";
    if (known) sheet.push({ kind: "paragraph", text: `${which}${known.maker} ${known.model}` });
  }
  const delivered = solution.cases.normal.running?.state.delivered;
  if (!asked && delivered !== undefined && settledDuty(solution.cases.normal.outcome)) {
    const likely = band
      ? `; likely ${formatNumber(band.flow.low, "flow", system)} to ${flow(band.flow.high)}`
      : "";
    sheet.push({
      kind: "paragraph",
      text: `Promised at the outlet at ${water.normal}: ${flow(delivered)}${likely}.`,
    });
  }
  sheet.push({
    ...{ kind: "table", caption: datum },
    columns: [
      ...[left("At"), right("Level"), right("Static head")],
      ...[right("Total head"), right("At the outlets")],
    ],
    rows: WATER_LEVELS.map((at) => {
      const { staticHead, outcome, running } = solution.cases[at];
      const duty = settledDuty(outcome);
      return [
        ...[water[at], level(at), head(staticHead)],
        duty ? head(duty.head) : "–",
        duty && running ? flow(running.state.delivered) : "no duty",
      ];
    }),
  });
  for (const judgement of judgements) {
    const { severity } = judgement;
    if (severity === "good") continue;
    const { title, sentence, advice } = checkWords(judgement, job, system);
    sheet.push({ kind: "finding", severity, title, text: sentence, ...(advice && { advice }) });
  }
  const good = judgements.filter(({ severity }) => severity === "good").length;
  sheet.push(
    { kind: "paragraph", text: `${good} ${good === 1 ? "check" : "checks"} good.` },
    ...stopBlocks(
      beside.filter(({ context }) => UNTOLD.has(context)),
      { system },
    ),
    ...(run ? simulationBlocks(job, run, system) : []),
    ...(well ? wellBlocks(job, well, system) : []),
    ...(watering ? irrigationBlocks(job, watering, system) : []),
    ...permissionBlocks(job),
    ...parts,
    ...unmeasured,
    ...picturesOf(job),
    caution,
  );
  const ledger = normalLedger(solution);
  if (ledger.length === 0) return { sheet, working: [] };
  const working: Block[] = [
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
  ];
  return { sheet, working };
}
