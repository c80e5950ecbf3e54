/** How far a long computation is: 0 to 1 of it done, and what is known so far where that is of use already. */
export interface Step<S = never> {
  done: number;
  soFar?: S;
}

/**
 * A long computation in its steps. Between two of them whoever runs it may do something else, or give it up; its
 * result is what it returns.
 */
export type Steps<T, S = never> = Generator<Step<S>, T, void>;

/**
 * Runs every step there is and gives the result.
 * @example
 * finish(countTo(3)); // 3
 */
export function finish<T>(steps: Steps<T, unknown>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}
