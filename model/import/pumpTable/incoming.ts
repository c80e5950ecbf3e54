import type { PumpDocument } from "#contract/documents/pump.ts";
import { sameDocument } from "#contract/documents/same.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { asSaid, type Column, readTable, type Said } from "../table.ts";
import { PUMP_COLUMNS } from "./columns.ts";
import { pumpsFrom, type ReadPump, readPumpFile } from "./readPumps.ts";

/** What taking in a text of pumps would do. */
export interface IncomingPumps {
  /** of a table; a file in the pumps' own format has none */
  columns: Column[] | undefined;
  pumps: PumpDocument[];
  /** each pump's: a new one, one that stands there changed, or nothing to do */
  becomes: ("new" | "changes" | "same")[];
  refused: Extract<ReadPump, { kind: "refused" }>[];
}

/**
 * Reads a table or a file of pumps.
 * @param said what its columns hold where that was said otherwise than their headings do
 * @param ids begins the id of every row that has none, so that a row keeps it while its columns are being said
 * @param known pumps that are there already
 * @param progress hears now and then how much is done, 0 to 1
 */
export function readIncoming(
  text: string,
  said: Readonly<Record<number, Said>>,
  system: UnitSystem,
  ids: string,
  known: readonly PumpDocument[],
  progress: (done: number) => void,
): IncomingPumps {
  const stored = new Map(known.map((pump) => [pump.id, pump]));
  const file = /^\s*[[{]/.test(text) ? readPumpFile(text) : undefined;
  const table = asSaid(readTable(file ? "" : text, PUMP_COLUMNS), said);
  const all =
    file ??
    (text.trim() === ""
      ? []
      : pumpsFrom(table, system, (row) => `${ids}-${row}`, stored, progress));
  const pumps = all.flatMap((own) => (own.kind === "pump" ? [own.pump] : []));
  return {
    columns: file ? undefined : table.columns,
    pumps,
    becomes: pumps.map((pump) => {
      const before = stored.get(pump.id);
      return !before ? "new" : sameDocument(before, pump) ? "same" : "changes";
    }),
    refused: all.flatMap((own) => (own.kind === "refused" ? [own] : [])),
  };
}
