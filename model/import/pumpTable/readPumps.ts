import { fieldIssues } from "#contract/documents/issues.ts";
import { type PumpDocument, pumpSchema, pumpVersions } from "#contract/documents/pump.ts";
import { isBareNumber, parseQuantity } from "#contract/units/parse.ts";
import { type Quantity, toUnit, UNITS, type UnitSystem } from "#contract/units/units.ts";
import { fromSticker, fromThreePoints, STICKER_UNCERTAINTY } from "#core/pump/curveFrom.ts";
import { csvOf } from "../csv.ts";
import type { Column, Table } from "../table.ts";
import { CURVE_COLUMNS, type CurveColumn } from "./columns.ts";
import { PLATE_FIELDS, type PlateField, valueAt, withValue } from "./fields.ts";

/** One row as it would be imported, or every reason why it cannot be. */
export type ReadPump =
  | { kind: "pump"; row: number; pump: PumpDocument }
  | { kind: "refused"; row: number; name: string; reasons: string[] };

/** What a pump is taken to be where a table does not say. */
const USUAL = {
  kind: "transfer",
  drive: "electric",
  submersible: "no",
  tolerance: "small",
  ratedSpeedRpm: 2900,
};
/** Kinds that stand in the water, and those an engine drives. */
const WET: ReadonlySet<string> = new Set(["sump", "effluent", "puddle", "battery", "well"]);

/**
 * Every row as a pump or as the reasons why it is none. Cells without a unit take their heading's, else that of
 * `system`. A row with the id of a pump that is known changes what its columns tell, and keeps the rest of it.
 * @param idFor makes the id of a row that has none
 * @param progress hears now and then how much is done, 0 to 1
 */
export function pumpsFrom(
  { columns, rows, firstRow }: Table,
  system: UnitSystem,
  idFor: (row: number) => string,
  known: ReadonlyMap<string, PumpDocument> = new Map(),
  progress: (done: number) => void = () => undefined,
): ReadPump[] {
  const read = rows.map((cells, i) => {
    if (i % 500 === 0) progress(i / rows.length);
    return readRow(columns, cells, firstRow + i, system, idFor(i), known);
  });
  // Two rows under one id would be one pump.
  const seen = new Map<string, number>();
  return read.map((own): ReadPump => {
    if (own.kind !== "pump") return own;
    const before = seen.get(own.pump.id);
    seen.set(own.pump.id, before ?? own.row);
    if (before === undefined) return own;
    const reasons = [`It has the same id as row ${before}.`];
    return { kind: "refused", row: own.row, name: nameOf(own.pump), reasons };
  });
}

const nameOf = ({ maker, model }: { maker?: unknown; model?: unknown }) =>
  [maker, model].filter((part) => typeof part === "string" && part !== "").join(" ");

function readRow(
  columns: readonly Column[],
  cells: readonly string[],
  row: number,
  system: UnitSystem,
  fresh: string,
  known: ReadonlyMap<string, PumpDocument>,
): ReadPump {
  const reasons: string[] = [];
  const cellOf = (path: string): [text: string, column: Column] | undefined => {
    const at = columns.findIndex((column) => column.holds === path);
    const text = cells[at] ?? "";
    return at >= 0 && text !== "" ? [text, columns[at] as Column] : undefined;
  };
  const number = (path: string, quantity: Quantity): number | undefined => {
    const found = cellOf(path);
    if (!found) return undefined;
    const [text, { heading, units }] = found;
    const parsed = inUnit(text, units[0], quantity, system);
    if (parsed.ok) return parsed.value;
    reasons.push(`${heading}: ${parsed.message}`);
    return undefined;
  };
  const id = cellOf("id")?.[0] ?? fresh;
  const before = known.get(id);
  let document: Record<string, unknown> = {
    ...before,
    ...{ format: pumpVersions.format, version: pumpVersions.version, id },
  };
  for (const field of PLATE_FIELDS) {
    const found = cellOf(field.path);
    const value =
      field.kind.is === "quantity"
        ? number(field.path, field.kind.quantity)
        : found && fromCell(field, found[0], found[1].heading, reasons);
    if (value !== undefined) document = withValue(document, field.path, value);
  }
  const kind = (document.kind as string | undefined) ?? USUAL.kind;
  document = {
    ...{ kind, drive: kind.startsWith("engine") ? "engine" : USUAL.drive },
    ...{ submersible: WET.has(kind), tolerance: USUAL.tolerance },
    ratedSpeedRpm: kind.startsWith("engine") ? 3600 : USUAL.ratedSpeedRpm,
    // Left empty they are asked for by name.
    ...{ maker: "", model: "" },
    ...document,
  };
  if (!before || CURVE_COLUMNS.some(({ path }) => path !== "id" && cellOf(path))) {
    const told = curveOf(cellOf, number, system, reasons);
    // The curve it has already keeps what it was got from.
    if (!before || !samePoints(before.points, told.points)) {
      const { curveDoubt: _doubt, otherLines: _lines, ...plate } = document;
      document = { ...plate, ...told };
    }
  }
  const parsed = pumpSchema.safeParse(document);
  if (!parsed.success) {
    for (const { path, message } of fieldIssues(parsed.error)) {
      // What a cell was refused for already is not missing as well.
      if (path === "points" && reasons.length > 0) continue;
      const field = PLATE_FIELDS.find((own) => own.path === path);
      const point = /^points\.(\d+)/.exec(path);
      const where =
        field?.name ??
        (point ? `Point ${Number(point[1]) + 1}` : path === "points" ? "Curve" : path);
      reasons.push(`${where}: ${message}`);
    }
  }
  return parsed.success && reasons.length === 0
    ? { kind: "pump", row, pump: parsed.data as PumpDocument }
    : { kind: "refused", row, name: nameOf(document), reasons };
}

/** Whether the points of a table are those of a pump, to as many figures as are written. */
function samePoints(before: PumpDocument["points"], told: unknown): boolean {
  const points = told as PumpDocument["points"] | undefined;
  const alike = (a = Number.NaN, b = Number.NaN) =>
    Object.is(a, b) || Math.abs(a - b) <= 1e-9 * Math.abs(a);
  return (
    points?.length === before.length &&
    before.every((own, i) => POINT_PARTS.every(({ key }) => alike(own[key], points[i]?.[key])))
  );
}

const inUnit = (text: string, unit: string | undefined, quantity: Quantity, system: UnitSystem) => {
  // A unit of another quantity in the heading is not this cell's.
  const own = unit && UNITS[quantity].some(({ symbol }) => symbol === unit) ? ` ${unit}` : "";
  return parseQuantity(isBareNumber(text) ? `${text}${own}` : text, quantity, system);
};

const YES = /^(y|yes|true|1|x|ja|oui|si)$/i;
const NO = /^(n|no|false|0|-)$/i;

function fromCell(
  { kind, name }: PlateField,
  text: string,
  heading: string,
  reasons: string[],
): unknown {
  switch (kind.is) {
    case "text":
      return text;
    case "number": {
      const value = Number(text.replace(/\s/g, ""));
      if (Number.isFinite(value)) return value;
      reasons.push(`${heading}: “${text}” is not a number.`);
      return undefined;
    }
    case "yes-no":
      if (YES.test(text)) return true;
      if (NO.test(text)) return false;
      reasons.push(`${heading}: “${text}” is neither yes nor no.`);
      return undefined;
    case "choice": {
      const said = text.toLowerCase().replace(/[\s,]+/g, "-");
      const found = kind.of.find((own) => own.toLowerCase() === said);
      if (found === undefined) {
        reasons.push(`${heading}: “${text}” is none of ${kind.of.join(", ")}.`);
        return undefined;
      }
      return name === "Phases" ? Number(found) : found;
    }
    default:
      return undefined;
  }
}

/** A curve from whichever columns tell it: all points, three of them, or a sticker's two numbers. */
function curveOf(
  cellOf: (path: CurveColumn) => [string, Column] | undefined,
  number: (path: CurveColumn, quantity: Quantity) => number | undefined,
  system: UnitSystem,
  reasons: string[],
): Record<string, unknown> {
  const whole = cellOf("curve");
  if (whole) return { points: pointsIn(...whole, system, reasons), curve: { from: "table" } };
  const three = {
    shutOff: number("shutOff", "head"),
    best: { flow: number("bestFlow", "flow"), head: number("bestHead", "head") },
    last: { flow: number("lastFlow", "flow"), head: number("lastHead", "head") },
  };
  const known = (point: { flow: number | undefined; head: number | undefined }) =>
    point.flow !== undefined && point.head !== undefined;
  if (three.shutOff !== undefined && known(three.best) && known(three.last)) {
    type Point = { flow: number; head: number };
    const found = fromThreePoints(three.shutOff, three.best as Point, three.last as Point);
    if (found.kind === "drawn") return { points: found.points, curve: { from: "three-points" } };
    reasons.push(
      found.kind === "not-falling"
        ? "Curve: the head has to fall from shut-off to the best point and on to the last."
        : "Curve: no plain curve passes these three points.",
    );
    return {};
  }
  const [flow, head] = [number("mostFlow", "flow"), number("mostHead", "head")];
  if (flow !== undefined && head !== undefined && flow > 0 && head > 0) {
    return {
      points: fromSticker(flow, head),
      curveDoubt: STICKER_UNCERTAINTY,
      curve: { from: "sticker" },
    };
  }
  reasons.push(
    "Curve: give its points in one cell, or shut-off, best and last, or the most flow and head of its sticker.",
  );
  return {};
}

const POINT_PARTS = [
  { key: "flow", quantity: "flow" },
  { key: "head", quantity: "head" },
  { key: "power", quantity: "power" },
  { key: "npshRequired", quantity: "head" },
  // In amperes, which no other quantity here is told in.
  { key: "current", quantity: "ratio" },
] as const;

/** Points in one cell: "0 / 23; 25 / 20; 45 / 15", each flow, head, and power and NPSH where they are told. */
function pointsIn(
  text: string,
  { heading, units }: Column,
  system: UnitSystem,
  reasons: string[],
): Record<string, number>[] {
  return text
    .split(/[;|]/)
    .map((point) => point.trim())
    .filter((point) => point !== "")
    .map((point, i) => {
      const parts = point.split(/\s*\/\s*|\s*@\s*|\s+/).filter((part) => part !== "");
      const found: Record<string, number> = {};
      for (const [n, { key, quantity }] of POINT_PARTS.entries()) {
        const part = parts[n];
        if (part === undefined || part === "-") continue;
        const parsed = inUnit(part, units[n], quantity, system);
        if (parsed.ok) found[key] = parsed.value;
        else reasons.push(`${heading}, point ${i + 1}: ${parsed.message}`);
      }
      return found;
    });
}

/** Pumps as text in columns, SI in the units of metric readers, to be read in again as they were. */
export function writePumpTable(pumps: readonly PumpDocument[]): string {
  const fields = PLATE_FIELDS.filter(({ path }) =>
    pumps.some((pump) => valueAt(pump, path) !== undefined),
  );
  const unitOf = ({ kind }: PlateField) =>
    kind.is === "quantity"
      ? UNITS[kind.quantity].find(({ symbol }) => symbol === WRITTEN[kind.quantity])
      : undefined;
  const headings = fields.map((field) => {
    const unit = unitOf(field);
    return unit ? `${field.name} (${unit.symbol})` : field.name;
  });
  const rows = pumps.map((pump) => [
    pump.id,
    ...fields.map((field) => {
      const value = valueAt(pump, field.path);
      if (value === undefined) return "";
      const unit = unitOf(field);
      if (unit) return figures(toUnit(value as number, unit));
      return typeof value === "boolean" ? (value ? "yes" : "no") : String(value);
    }),
    pump.points
      .map(({ flow, head, power, npshRequired, current }) => {
        const more = [power, npshRequired, current];
        const last = more.findLastIndex((value) => value !== undefined);
        const told = more.slice(0, last + 1);
        return [flow * 1e3, head, ...told]
          .map((value) => (value === undefined ? "-" : figures(value)))
          .join(" / ");
      })
      .join("; "),
  ]);
  return csvOf([["id", ...headings, "Curve: L/s / m / W / m / A"], ...rows]);
}

const WRITTEN: Partial<Record<Quantity, string>> = {
  ...{ flow: "L/s", head: "m", length: "m", diameter: "mm", mass: "kg", power: "W" },
  ...{ speed: "rpm", temperature: "°C", volume: "L" },
};

/** Ten figures: what was typed comes back. */
const figures = (value: number): string => String(Number(value.toPrecision(10)));

/** A file of pumps in their own format: one, or a list of them. */
export function readPumpFile(text: string): ReadPump[] | undefined {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return undefined;
  }
  const list = Array.isArray(value) ? value : [value];
  return list.map((own, i): ReadPump => {
    const parsed = pumpSchema.safeParse(own);
    if (parsed.success) return { kind: "pump", row: i + 1, pump: parsed.data as PumpDocument };
    const reasons = fieldIssues(parsed.error).map(({ path, message }) => `${path}: ${message}`);
    return { kind: "refused", row: i + 1, name: nameOf((own ?? {}) as object), reasons };
  });
}
