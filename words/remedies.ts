import { format, formatSize } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { findPipeStock } from "#core/catalogue/pipes.ts";
import { findConductor } from "#core/driving/conductor.ts";
import type { RemedyDoes } from "#model/whatif/remedies.ts";
import { litres } from "./well.ts";

/** What a tap on it does. */
export function remedyWords(remedy: RemedyDoes, system: UnitSystem): string {
  switch (remedy.does) {
    case "lay-size":
      return `Lay it in ${findPipeStock(remedy.stock)?.nominal ?? remedy.stock}`;
    case "raise-float":
      return `Raise the float by ${formatSize(remedy.by, system, "nearest")}`;
    case "hang-alarm":
      return `Hang an alarm at ${format(remedy.at, "length", system)}`;
    case "take-cable":
      return `Take ${findConductor(remedy.conductor)?.label ?? remedy.conductor}`;
    case "set-air":
      return `Set the air to ${format(remedy.pressure, "pressure", system)}`;
    case "take-tank":
      return `Take a tank of ${litres(remedy.volume, system)}`;
  }
}
