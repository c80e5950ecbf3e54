/** A number in a working, in the SI unit named. `symbol` is how the equation writes it, in LaTeX. */
export interface Term {
  symbol: string;
  name: string;
  value: number;
  /** empty for a plain number */
  unit: string;
}

/** One equation with the numbers put in. */
export interface WorkStep {
  title: string;
  /** LaTeX */
  equation: string;
  given: Term[];
  result: Term;
  source: string;
  /** what was taken for granted */
  assumed: string[];
}

interface Description {
  title: string;
  equation: string;
  given: Term[];
  result: Omit<Term, "value">;
  source: string;
  assumed?: string[];
}

/** A step whose result is worked out from the very numbers it shows. */
export function step(description: Description, by: (...given: number[]) => number): WorkStep {
  const { given, result, assumed = [], ...rest } = description;
  const value = by(...given.map((term) => term.value));
  return { ...rest, given, result: { ...result, value }, assumed };
}

export function term(symbol: string, name: string, value: number, unit = ""): Term {
  return { symbol, name, value, unit };
}

/** A result taken on into the next step. */
export function onward({ result }: WorkStep): Term {
  return result;
}
