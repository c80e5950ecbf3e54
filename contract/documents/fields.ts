import * as z from "zod";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";

/** Fields that several documents have. */

export const idSchema = z
  .string()
  .regex(/^[a-z0-9][a-z0-9-]{0,63}$/, "An id is 1 to 64 small letters, digits and hyphens.");

/** Whether a text can name anything kept. */
export const isId = (text: string): boolean => idSchema.safeParse(text).success;

export const text = (most: number) => z.string().max(most, `At most ${most} characters.`);

export const day = z.iso.date({ error: "Give the day as YYYY-MM-DD." });
export const moment = z.iso.datetime({ error: "Give the time as YYYY-MM-DDThh:mm:ssZ." });

/** A fraction such as a tolerance, 0 to 0.5. */
export const fraction = (what: string) =>
  z
    .number({ error: `${what} must be a number.` })
    .min(0, `${what} cannot be negative.`)
    .max(0.5, `${what} cannot be more than 50 %.`);

/** A part of a whole, 0 to 1. */
export const part = (what: string) =>
  z
    .number({ error: `${what} must be a number.` })
    .min(0, `${what} cannot be negative.`)
    .max(1, `${what} cannot be more than all of it.`);

/** A plain number of no unit that cannot be negative. */
export const amount = (what: string, most: number) =>
  z
    .number({ error: `${what} must be a number.` })
    .min(0, `${what} cannot be negative.`)
    .max(most, `${what} cannot be more than ${most}.`);

const elevation = quantity("length", RANGES.elevation);
export const levelsSchema = z.looseObject({ low: elevation, normal: elevation, high: elevation });

/** Ids of attachments. */
export const attachmentsSchema = z.array(idSchema).max(200, "At most 200 attachments.");

export const phases = z.union([z.literal(1), z.literal(3)], { error: "One phase or three." });
