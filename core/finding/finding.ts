import { PRACTICE, type Severity } from "../check/check.ts";

/** What a check found. Numbers are SI; what its sentence needs besides stands beside them. */
export interface Found {
  severity: Severity;
  /** the number it stands on, and what that is held against */
  value?: number;
  limit?: number;
}

/** A judgement of something that was worked out, declared once: what it is given and what it finds in that. */
export interface FindingCheck<Context extends string, Given, F extends Found> {
  context: Context;
  source: string;
  find: (given: Given) => F[];
}

/** Declares checks of one context: `of((given) => [{ severity: "stop" }])`. */
export const checksIn =
  <Given>() =>
  <Context extends string>(context: Context) =>
  <F extends Found>(
    find: (given: Given) => F[],
    source = PRACTICE,
  ): FindingCheck<Context, Given, F> => ({ context, source, find });

/** One finding where something holds, none otherwise. */
export const when = <F>(holds: boolean, found: F): F[] => (holds ? [found] : []);

/** `stop` past what is most, `watch` past what is good, else `good`. */
export const past = (value: number, good: number, most: number): "stop" | "watch" | "good" =>
  value > most ? "stop" : value > good ? "watch" : "good";
