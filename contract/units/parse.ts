import { fromUnit, type Quantity, shownUnit, UNITS, type Unit, type UnitSystem } from "./units.ts";

export type Parsed = { ok: true; value: number } | { ok: false; message: string };

/**
 * Reads what a person types for a quantity and gives SI: "120 gpm", "3 1/2 in", "2.4 bar", "3' 6\"",
 * "1,200 ft". A number without a unit is taken in the unit the system shows. `own` are units of the person's own, such
 * as a pace.
 *
 * A comma before exactly three digits could be a decimal or a thousand; it is refused rather than
 * guessed, unless a second mark settles it.
 * @example parseQuantity("3 ft 6 in", "length", "metric") // { ok: true, value: 1.0668 }
 */
export function parseQuantity(
  text: string,
  quantity: Quantity,
  system: UnitSystem,
  own: readonly Unit[] = [],
): Parsed {
  const tidy = text
    .trim()
    .replace(/[−–]/g, "-")
    .replace(/\u00a0/g, " ");
  if (tidy === "") return fail("Type a number.");
  if (quantity === "time" && tidy.includes(":")) return parseClock(tidy);
  const parts = splitParts(tidy);
  if (!parts) return fail(`“${text.trim()}” is not a number with a unit.`);
  const negative = tidy.startsWith("-");
  let total = 0;
  for (const [index, part] of parts.entries()) {
    const number = parseNumber(part.number);
    if (!number.ok) return number;
    const unit =
      part.unit === ""
        ? parts.length === 1
          ? shownUnit(quantity, system)
          : undefined
        : findUnit([...UNITS[quantity], ...own], part.unit);
    if (!unit) return fail(wrongUnit(part.unit, quantity));
    if (parts.length > 1 && unit.offset)
      return fail(`“${text.trim()}” is not a number with a unit.`);
    // "-3 ft 6 in" counts both parts downwards.
    const sign = negative && index > 0 ? -1 : 1;
    total += sign * fromUnit(number.value, unit);
  }
  if (!Number.isFinite(total)) return fail("That number is too large.");
  return { ok: true, value: total };
}

const NUMBER = String.raw`[-+]?(?:\d+\/\d+|\d[\d.,]*(?:[ -]+\d+\/\d+)?|[.,]\d+)(?:e[-+]?\d+)?`;
const PART = new RegExp(
  String.raw`^(${NUMBER})\s*([^\d\s.,+-][^\d]*?(?:3\/(?:hr|h|s)|3)?)?\s*(?=$|[\d.+-])`,
  "i",
);

/** "0:43", "2:05.4" or "1:02:30", as a watch shows a time. */
function parseClock(text: string): Parsed {
  const match = /^(?:(\d+):)?(\d+):([0-5]\d(?:[.,]\d+)?)$/.exec(text);
  const [, hours = "0", minutes = "", seconds = ""] = match ?? [];
  if (!match || (match[1] !== undefined && Number(minutes) > 59)) {
    return fail(`“${text}” is no time: write 0:43 for 43 s, or 1:02:30 with hours.`);
  }
  const whole = 3600 * Number(hours) + 60 * Number(minutes);
  return { ok: true, value: whole + Number(seconds.replace(",", ".")) };
}

/** "3 gal 2 qt 1 cup" */
const MOST_PARTS = 3;

/** "3 ft 6 in" → two parts; undefined when the text is not made of numbers and units. */
function splitParts(text: string): { number: string; unit: string }[] | undefined {
  const parts: { number: string; unit: string }[] = [];
  let rest = text;
  while (rest !== "") {
    const match = PART.exec(rest);
    if (!match?.[1]) return undefined;
    parts.push({ number: match[1], unit: (match[2] ?? "").trim() });
    rest = rest.slice(match[0].length).trim();
    if (parts.length > MOST_PARTS) return undefined;
  }
  return parts;
}

function parseNumber(text: string): Parsed {
  const mixed = /^([-+]?)(?:(\d+)[ -]+)?(\d+)\/(\d+)$/.exec(text);
  if (mixed) {
    const [, sign, whole, top, bottom] = mixed;
    if (Number(bottom) === 0) return fail("A fraction cannot have 0 below the line.");
    const value = Number(whole ?? 0) + Number(top) / Number(bottom);
    return { ok: true, value: sign === "-" ? -value : value };
  }
  let plain = text;
  const commas = (text.match(/,/g) ?? []).length;
  const dots = (text.match(/\./g) ?? []).length;
  if (commas > 0 && dots === 0) {
    const thousands = /^[-+]?\d{1,3}(,\d{3})+$/.test(text);
    if (commas === 1 && thousands) {
      const digits = text.replace(",", "");
      const decimal = text.replace(",", ".");
      return fail(`Write ${digits} or ${decimal}: “${text}” could be either.`);
    }
    plain = thousands ? text.replaceAll(",", "") : text.replace(",", ".");
  } else if (commas > 0) {
    if (!/^[-+]?\d{1,3}(,\d{3})+\.\d+$/.test(text)) return fail(`“${text}” is not a number.`);
    plain = text.replaceAll(",", "");
  }
  const value = Number(plain);
  return Number.isNaN(value) ? fail(`“${text}” is not a number.`) : { ok: true, value };
}

function findUnit(units: readonly Unit[], typed: string): Unit | undefined {
  const lower = typed.toLowerCase().replace(/\s+/g, " ").replace(/\.$/, "");
  return (
    units.find((u) => u.symbol === typed) ??
    units.find((u) => u.symbol.toLowerCase() === lower || u.aliases?.includes(lower))
  );
}

function wrongUnit(typed: string, quantity: Quantity): string {
  const some = UNITS[quantity]
    .slice(0, 4)
    .map((u) => u.symbol)
    .join(", ");
  return typed === ""
    ? `Give a unit for each part: ${some}.`
    : `“${typed}” is not a unit of ${NAMES[quantity]}: use ${some}.`;
}

const NAMES: Record<Quantity, string> = {
  flow: "flow",
  length: "length",
  diameter: "size",
  head: "head",
  pressure: "pressure",
  velocity: "speed",
  volume: "volume",
  power: "power",
  temperature: "temperature",
  time: "time",
  mass: "weight",
  speed: "turning speed",
  density: "density",
  viscosity: "viscosity",
  acceleration: "acceleration",
  modulus: "stiffness",
  energy: "energy",
  area: "an area, such as “40 m²” or “430 ft²”",
  ratio: "a plain number",
};

function fail(message: string): Parsed {
  return { ok: false, message };
}

/** Whether a text is a number alone: its unit then goes by where it stands. */
export const isBareNumber = (text: string): boolean => /^\s*[-+−]?[\d.,\s/]+$/.test(text);
