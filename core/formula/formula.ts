import type { Quantity } from "../quantity/quantity.ts";

/** A quantity of an equation: how it is written in LaTeX, what it is called, what it measures. */
export interface Sign {
  symbol: string;
  name: string;
  quantity: Quantity;
}

/**
 * An equation and the function that works it out, as one object: the function is the one the solver itself
 * calls, so that what a person is shown is what was reckoned.
 */
export interface Formula<Args extends readonly number[] = readonly number[]> {
  title: string;
  /** LaTeX */
  equation: string;
  given: { readonly [K in keyof Args]: Sign };
  result: Sign;
  source: string;
  /** where it holds */
  range?: string;
  assumed?: readonly string[];
  of: (...args: Args) => number;
}

/** The same with any number of values of one kind, such as a sum; the signs come with the values. */
export interface OpenFormula extends Omit<Formula, "given" | "of"> {
  of: (...values: number[]) => number;
}

/** A sign with its value, SI. */
export interface Term extends Sign {
  value: number;
}

/** One equation with the values put in. */
export interface DerivationStep {
  title: string;
  equation: string;
  given: Term[];
  result: Term;
  source: string;
  range?: string;
  assumed: string[];
}

/** How a number comes about; the last step ends with it. */
export type Derivation = DerivationStep[];

export function sign(symbol: string, name: string, quantity: Quantity): Sign {
  return { symbol, name, quantity };
}

/** Lets the compiler hold the signs to the function's parameters. */
export function formula<Args extends readonly number[]>(own: Formula<Args>): Formula<Args> {
  return own;
}

interface Notes {
  /** said beside what the formula itself takes for granted */
  assumed?: readonly string[];
  source?: string;
  title?: string;
  /** other names for some of the values, by their place */
  names?: Record<number, string>;
}

/** A formula with values put in: what it shows is what it was worked out from. */
export function derive<Args extends readonly number[]>(
  own: Formula<Args>,
  args: Args,
  notes: Notes = {},
): DerivationStep {
  const signs = own.given as readonly Sign[];
  const given = args.map((value, i): Term => {
    const known = signs[i] as Sign;
    return { ...known, name: notes.names?.[i] ?? known.name, value };
  });
  return step(own, given, own.of(...args), notes);
}

/** An open formula over terms of any number. */
export function deriveOver(
  own: OpenFormula,
  given: readonly Term[],
  notes: Notes = {},
): DerivationStep {
  return step(own, [...given], own.of(...given.map(({ value }) => value)), notes);
}

function step(
  own: Omit<Formula, "given" | "of">,
  given: Term[],
  value: number,
  notes: Notes,
): DerivationStep {
  const done: DerivationStep = {
    title: notes.title ?? own.title,
    equation: own.equation,
    given,
    result: { ...own.result, value },
    source: notes.source ?? own.source,
    assumed: [...(own.assumed ?? []), ...(notes.assumed ?? [])],
  };
  if (own.range) done.range = own.range;
  return done;
}

export function term(known: Sign, value: number): Term {
  return { ...known, value };
}

/** The number a derivation ends with. */
export function resultOf(derivation: Derivation): number {
  return derivation.at(-1)?.result.value ?? Number.NaN;
}
