import type { FieldTestDocument, ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { FirmDocument } from "#contract/documents/firm.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { format, formatNumber, formatPercent, formatUncertain } from "#contract/units/format.ts";
import { SHOWN, type UnitSystem } from "#contract/units/units.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import { measuredFlow } from "#core/measurement/instruments.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import type { Judged, KeptReading } from "#model/measurement/fieldTests.ts";
import { ACCEPTANCE } from "#words/comparison.ts";
import {
  levelWords,
  partingWords,
  SAFETY_CHECKLIST_WORDS,
  safetyChecklistFor,
  uncertaintyName,
  wholeWords,
} from "#words/fieldTests.ts";
import { instrumentLine } from "#words/instruments.ts";
import { itemName, stockName } from "#words/items.ts";
import { type Block, customerWords, left, right, wallTime } from "./blocks.ts";

/** A test on one page: what was found first, then on what it rests, then who saw to what. */
export function testSheet(
  job: JobDocument,
  solved: JobSolution,
  test: FieldTestDocument,
  readings: readonly KeptReading[],
  judged: readonly Judged[],
  instruments: NonNullable<FirmDocument["instruments"]>,
  system: UnitSystem,
): { head: Block[]; found: Block[]; rest: Block[] } {
  const pumps = solved.kind === "solved" ? solved.solution.pumps : [];
  const head: Block[] = [
    { kind: "heading", level: 1, text: `${test.title}, ${test.takenOn}` },
    {
      kind: "paragraph",
      text: [job.name, job.place, customerWords(job), test.by && `Measured by ${test.by}`]
        .filter(Boolean)
        .join(" · "),
    },
  ];
  const pump = pumps[0]?.pump;
  const plate = job.pumps.find(({ id }) => id === pump?.id);
  if (plate) {
    head.push({ kind: "paragraph", text: `Pump: ${plate.maker} ${plate.model}.` });
  }
  if (test.note) head.push({ kind: "paragraph", text: test.note });

  const found = judged.flatMap(
    ({ at, whole, parting, points, level, mayShut, limits }): Block[] => {
      const own = pumps[at]?.pump;
      const words = partingWords(parting, job.path, mayShut, system);
      const said =
        whole && own && wholeWords(whole, points.length, limits ? { ...own, limits } : own, system);
      const name =
        pumps.length > 1 ? `${itemName(job.path, pumps[at]?.itemId ?? "", system)}: ` : "";
      const blocks: Block[] = [];
      if (said) {
        blocks.push({ kind: "heading", level: 2, text: `${name}${said.title}` });
        blocks.push({ kind: "paragraph", text: said.sentences.join(" ") });
      }
      if (words) {
        blocks.push({ kind: "heading", level: 2, text: `${said ? "" : name}${words.title}` });
        const sentences = [...(said || !words.pump ? [] : [words.pump]), ...words.sentences];
        blocks.push({ kind: "paragraph", text: sentences.join(" ") });
      }
      if (level) blocks.push({ kind: "paragraph", text: levelWords(level, system) });
      return blocks;
    },
  );

  const amps = readings.some(({ document }) => (document.electric?.currents ?? []).length > 0);
  const rows = readings
    .toSorted((a, b) => a.document.takenAt.localeCompare(b.document.takenAt))
    .map(({ id, document }) => readingRow(id, document, judged, system, amps));
  const rest: Block[] = [
    {
      kind: "table",
      caption: `Readings; ± to about 95 %, first order (GUM, JCGM 100)`,
      columns: [
        left("Time"),
        left("Valve"),
        right(`Flow, ${SHOWN[system].flow}`),
        right(`Gauge, ${SHOWN[system].pressure}`),
        right(`Head, ${SHOWN[system].head}`),
        ...(amps ? [right("Amps")] : []),
        right("Of its curve"),
        left("Verdict"),
      ],
      rows,
    },
    ...notesOf(readings),
    ...setUp(job, readings, instruments, system),
    ...budget(judged),
    {
      kind: "ticks",
      caption: "Seen to",
      items: safetyChecklistFor(pump?.drive).map((caution) => ({
        text: SAFETY_CHECKLIST_WORDS[caution],
        done: test.cautions?.includes(caution) ?? false,
      })),
    },
    {
      kind: "caution",
      text: "By ISO 9906 tolerances, from memory, or as the parties agreed; not a test by that standard. Electrical work, wells and drinking water belong to licensed people and local codes.",
    },
  ];
  const pictures = readings.flatMap(({ document: { attachments = [], takenAt } }) =>
    attachments.map((id, i) => ({ id, name: `${wallTime(takenAt)}, picture ${i + 1}` })),
  );
  if (pictures.length > 0) rest.push({ kind: "pictures", caption: "Pictures", pictures });
  return { head, found, rest };
}

/** What was noted at each reading, under its time. */
function notesOf(readings: readonly KeptReading[]): Block[] {
  const noted = readings
    .toSorted((a, b) => a.document.takenAt.localeCompare(b.document.takenAt))
    .flatMap(({ document: { note, takenAt } }) => (note ? [`${wallTime(takenAt)}: ${note}`] : []));
  return noted.length > 0 ? [{ kind: "paragraph", text: `Noted: ${noted.join(" · ")}` }] : [];
}

function readingRow(
  id: string,
  document: ReadingDocument,
  judged: readonly Judged[],
  system: UnitSystem,
  amps: boolean,
): string[] {
  const { flow, discharge, throttled, takenAt, leftOut, electric, judged: then } = document;
  const own = judged.find(({ ids }) => ids.includes(id));
  const number = own?.ids.indexOf(id);
  const comparison = own?.points.find(({ reading }) => reading === number)?.comparison;
  const { value, standardUncertainty } = measuredFlow(flow);
  const bare = (text: string) => text.replace(/ [^\d\s]+$/, "");
  const axis = comparison?.atFlow;
  const outlier = own?.outliers.some(({ reading }) => reading === number);
  const acceptance = comparison?.acceptance ?? then?.acceptance;
  return [
    wallTime(takenAt),
    flow.method === "shut" ? "shut" : throttled ? "throttled" : "open",
    flow.method === "shut"
      ? "0"
      : bare(formatUncertain(value, COVERAGE * standardUncertainty, "flow", system)),
    discharge ? formatNumber(discharge.pressure, "pressure", system) : "",
    comparison
      ? bare(
          formatUncertain(
            comparison.head.value,
            COVERAGE * comparison.head.standardUncertainty,
            "head",
            system,
          ),
        )
      : "",
    ...(amps ? [(electric?.currents ?? []).map((own) => own.toFixed(1)).join(" / ")] : []),
    axis?.kind === "compared" ? formatPercent(1 + axis.value, 1) : "",
    leftOut
      ? `left out: ${leftOut}`
      : `${acceptance ? ACCEPTANCE[acceptance].toLowerCase() : ""}${outlier ? ", lies off the others" : ""}`,
  ];
}

/** Where the gauges sat, what measured, and how good it is. */
function setUp(
  job: JobDocument,
  readings: readonly KeptReading[],
  instruments: NonNullable<FirmDocument["instruments"]>,
  system: UnitSystem,
): Block[] {
  const said = new Set<string>();
  const used = new Set<string>();
  for (const { document } of readings) {
    const { discharge, suction, flow } = document;
    if (discharge) {
      const item = itemName(job.path, discharge.afterItemId, system);
      const place = item.startsWith("Pump") ? "at the pump’s port" : `after ${item}`;
      said.add(
        `Discharge gauge ${place}, dial at ${format(discharge.elevation, "length", system)}, to ${format(discharge.fullScale, "pressure", system)}, class ${(100 * discharge.accuracyClass).toFixed(1)}.`,
      );
    }
    if (suction?.kind === "gauge") {
      said.add(
        `Suction gauge, dial at ${format(suction.elevation, "length", system)}, to ${format(suction.fullScale, "pressure", system)}, class ${(100 * suction.accuracyClass).toFixed(1)}.`,
      );
    }
    if (suction?.kind === "water-level") {
      said.add(
        `Water level by tape: ${formatUncertain(suction.level, suction.tolerance, "length", system)}.`,
      );
    }
    if (discharge && !suction) said.add("Water level not known.");
    if (flow.method !== "shut") said.add(METHODS[flow.method]);
    for (const id of document.instruments ?? []) used.add(id);
  }
  const named = instruments
    .filter(({ id }) => used.has(id))
    .map((own) => instrumentLine(own, system));
  return [
    { kind: "heading", level: 2, text: "Set-up and instruments" },
    { kind: "paragraph", text: [...said].join(" ") },
    ...(named.length > 0
      ? [{ kind: "paragraph" as const, text: `Of the firm’s own: ${named.join("; ")}.` }]
      : []),
    { kind: "paragraph", text: `Line: ${lineWords(job)}.` },
  ];
}

const METHODS = {
  bucket: "Flow by bucket and watch.",
  timed: "Flow by what ran in a set time.",
  meter: "Flow by a meter.",
  counter: "Flow by a counting meter and watch.",
  "draw-down": "Flow by the fall of the water, with the inflow found with the pump off.",
} as const;

const lineWords = ({ path }: JobDocument) =>
  path
    .flatMap((item) => (item.kind === "pipe" ? [stockName(item.stock)] : []))
    .filter((name, i, all) => all.indexOf(name) === i)
    .join(", ");

function budget(judged: readonly Judged[]): Block[] {
  return judged.flatMap(({ whole }): Block[] => {
    if (!whole || whole.budget.length === 0) return [];
    const told = whole.budget
      .filter(({ share }) => share >= 0.01)
      .map(({ of, share }) => `${uncertaintyName(of).toLowerCase()} ${formatPercent(share)}`);
    return [{ kind: "paragraph", text: `The doubt of the whole comes from: ${told.join(", ")}.` }];
  });
}
