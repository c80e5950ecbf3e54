import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { everyItem, levelsOf } from "#core/line/path.ts";
import { itemName, STANDS, stockName, waterOf } from "./items.ts";

/** A part of a job that stands there without having been measured, by the name it has in `assumed`. */
export function assumedName(job: JobDocument, field: string, units: UnitSystem): string {
  const [head, id = "", part] = field.split(".");
  const length = (si: number) => format(si, "length", units);
  const { source, site, path } = job;
  const levels = levelsOf(source);
  switch (head) {
    case "path": {
      if (!id) return "The whole line";
      const item = everyItem(path).find((each) => each.id === id);
      const name = itemName(path, id, units);
      if (item?.kind === "pipe") {
        if (part === "stock") return `Size: ${stockName(item.stock)}`;
        if (part === "length") return `Length of ${stockName(item.stock)}: ${length(item.length)}`;
        if (part === "rise") return `Rise of ${stockName(item.stock)}: ${length(item.rise)}`;
      }
      return name;
    }
    case "source":
      if (id === "level") {
        if (part === "low" || part === "normal" || part === "high") {
          const name = waterOf(source)[part];
          return `${name.charAt(0).toUpperCase()}${name.slice(1)}: ${length(levels[part])}`;
        }
        return `Water: low ${length(levels.low)}, normal ${length(levels.normal)}, high ${length(levels.high)}`;
      }
      if (id === "intake") return `Intake: ${length(source.intake)}`;
      return id === "drawdown" ? "How far pumping draws the well down" : "The water";
    case "site":
      if (id === "altitude") return `Altitude: ${length(site.altitude)}`;
      if (id === "waterTemperature") {
        return `Water temperature: ${format(site.waterTemperature, "temperature", units)}`;
      }
      return site.standsAt && id === "standsAt"
        ? `The pump stands ${STANDS[site.standsAt]}`
        : "Site";
    case "bodies":
      return `Size of the water: ${(job.bodies ?? []).map(({ name, id: own }) => name || own).join(", ")}`;
    case "yard":
      return "Drains to the pit: bore, fall and length";
    case "overTime":
      return `Floats: ${(job.overTime?.controls ?? [])
        .flatMap((own) =>
          own.kind === "float" ? [`on ${length(own.on)}, off ${length(own.off)}`] : [],
        )
        .join("; ")}`;
    case "well":
      return id === "bottom"
        ? `Bottom of the well: ${length(job.well?.bottom ?? 0)}`
        : `Casing: ${format(job.well?.casings?.[0]?.bore ?? 0, "diameter", units)} across`;
    case "pressureTank": {
      const { volume = 0, cutIn = 0, cutOut = 0 } = job.pressureTank ?? {};
      const pressure = (si: number) => format(si, "pressure", units);
      return `Tank: ${format(volume, "volume", units)}, ${pressure(cutIn)} to ${pressure(cutOut)}`;
    }
    default:
      return field;
  }
}

/** What is said under an item of the path while it, or some of it, was not measured. */
export function assumedMark(
  { assumed = [] }: Pick<JobDocument, "assumed">,
  itemId: string,
): string {
  const parts = assumed.flatMap((field) => {
    const [head, id, part] = field.split(".");
    if (head !== "path" || (id !== undefined && id !== itemId)) return [];
    return [part === undefined ? "" : (PARTS[part] ?? part)];
  });
  if (parts.length === 0) return "";
  return parts.includes("") ? "assumed" : `assumed: ${parts.join(", ")}`;
}

const PARTS: Record<string, string> = { stock: "size", length: "length", rise: "rise" };
