import * as z from "zod";
import { parseQuantity } from "../units/parse.ts";
import type { Quantity } from "../units/units.ts";
import { outOfRange, type QuantityRange } from "./ranges.ts";

/**
 * A quantity in a document: a plain number in SI, or text with its unit ("12 m", "3 1/2 in") that is
 * converted on reading. Documents are always written with SI numbers.
 */
export function quantity(kind: Quantity, range: QuantityRange) {
  return z
    .union([z.number(), z.string().max(60)], { error: `${range.what}: give a number.` })
    .describe(`${range.what}: a number in SI, or text with its unit`)
    .transform((given, context) => {
      let value: number;
      if (typeof given === "number") value = given;
      else {
        const parsed = needsUnit(given)
          ? ({ ok: false, message: "Text needs a unit, such as “12 m”." } as const)
          : parseQuantity(given, kind, "metric");
        if (!parsed.ok) {
          context.addIssue({ code: "custom", message: `${range.what}: ${parsed.message}` });
          return z.NEVER;
        }
        value = parsed.value;
      }
      const message = outOfRange(value, kind, range);
      if (message) {
        context.addIssue({ code: "custom", message });
        return z.NEVER;
      }
      return value;
    });
}

function needsUnit(text: string): boolean {
  return /\d\s*$/.test(text);
}
