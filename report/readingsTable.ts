import type { ReadingDocument } from "#contract/documents/fieldTest.ts";
import { csvOf } from "#model/import/csv.ts";
import type { KeptReading } from "#model/measurement/fieldTests.ts";

/** What stands in the columns of the raw readings, in SI, with its unit in the heading. */
const COLUMNS: readonly [string, (id: string, reading: ReadingDocument) => unknown][] = [
  ["id", (id) => id],
  ["taken at", (_, own) => own.takenAt],
  [
    "valve",
    (_, own) => (own.flow.method === "shut" ? "shut" : own.throttled ? "throttled" : "open"),
  ],
  ["flow method", (_, own) => own.flow.method],
  ["flow m³/s", (_, { flow }) => ("flow" in flow ? flow.flow : undefined)],
  ["volume m³", (_, { flow }) => ("volume" in flow ? flow.volume : undefined)],
  [
    "times s",
    (_, { flow }) =>
      "times" in flow ? flow.times.join(" ") : "time" in flow ? flow.time : undefined,
  ],
  ["counter start m³", (_, { flow }) => ("start" in flow ? flow.start : undefined)],
  ["counter end m³", (_, { flow }) => ("end" in flow ? flow.end : undefined)],
  ["area m²", (_, { flow }) => ("area" in flow ? flow.area : undefined)],
  ["fall m", (_, { flow }) => ("fall" in flow ? flow.fall : undefined)],
  ["inflow m³/s", (_, { flow }) => ("inflow" in flow ? flow.inflow : undefined)],
  ["discharge Pa", (_, own) => own.discharge?.pressure],
  ["discharge dial m", (_, own) => own.discharge?.elevation],
  ["discharge after", (_, own) => own.discharge?.afterItemId],
  ["suction Pa", (_, { suction }) => (suction?.kind === "gauge" ? suction.pressure : undefined)],
  [
    "water level m",
    (_, { suction }) => (suction?.kind === "water-level" ? suction.level : undefined),
  ],
  ["speed ratio", (_, own) => own.speedRatio],
  ["volts V", (_, own) => own.electric?.volts],
  ["currents A", (_, own) => own.electric?.currents?.join(" ")],
  ["power W", (_, own) => own.electric?.power],
  ["power factor", (_, own) => own.electric?.powerFactor],
  ["throw m", (_, own) => own.throwDistance],
  ["left out", (_, own) => own.leftOut],
  ["note", (_, own) => own.note],
];

/** The raw readings of a test as CSV: a row each, in the order they were taken. */
export function readingsCsv(readings: readonly KeptReading[]): string {
  const inTime = readings.toSorted((a, b) => a.document.takenAt.localeCompare(b.document.takenAt));
  return csvOf([
    COLUMNS.map(([name]) => name),
    ...inTime.map(({ id, document }) => COLUMNS.map(([, value]) => value(id, document) ?? "")),
  ]);
}
