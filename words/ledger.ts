import { format } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { LedgerEntry } from "#core/hydraulics/headLedger.ts";
import { everyItem, type Line } from "#core/line/path.ts";
import { itemName } from "./items.ts";

/** What an entry of the head ledger is called. */
export function ledgerName(
  entry: LedgerEntry,
  { path, source }: Pick<Line, "path" | "source">,
  system: UnitSystem,
): string {
  const item = entry.itemId ? itemName(path, entry.itemId, system) : "";
  /** " 2" for the second of several outlets */
  const number = () => {
    const outlets = everyItem(path).filter(({ kind }) => kind === "outlet");
    const index = outlets.findIndex(({ id }) => id === entry.itemId);
    return outlets.length > 1 && index >= 0 ? ` ${index + 1}` : "";
  };
  switch (entry.kind) {
    case "lift":
      return `${entry.head < 0 ? "Fall" : "Lift"} from water to outlet${number()}`;
    case "source-pressure":
      return "Pressure on the source";
    case "outlet-pressure":
      return `Pressure kept at the outlet${number()}`;
    case "supply":
      return source.kind === "well" ? "Drawdown of the well" : "Pressure the main gives up";
    case "bore-change":
      return `Change of bore into ${item}`;
    case "exit":
      return `Speed of the water leaving${number()}`;
    case "emitter":
      return `Pressure the ${item.toLowerCase()}${number()} uses`;
    case "nozzle":
      return `Jet of the ${item.toLowerCase()}${number()}`;
    default:
      return item;
  }
}

/** The same with what it takes: "6.00 m of 2 in suction hose: takes 0.49 m". */
export function ledgerSentence(
  entry: LedgerEntry,
  line: Pick<Line, "path" | "source">,
  system: UnitSystem,
): string {
  const name = ledgerName(entry, line, system);
  return entry.lost !== undefined
    ? `${name}: loses ${format(entry.lost, "flow", system)}`
    : `${name}: takes ${format(entry.head, "head", system)}`;
}
