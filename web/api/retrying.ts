import { mayPass } from "./client.ts";

/** ms before the first new try, and the longest between two */
const RETRY = { first: 3000, longest: 30_000 };

/** ms to wait after so many tries in a row: twice as long each time, and not all devices at once. */
export const pauseAfter = (tries: number): number =>
  Math.min(RETRY.first * 2 ** (tries - 1), RETRY.longest) * (0.75 + Math.random() / 2);

/** Whoever waited for it stopped it. */
export class Stopped extends Error {}

/**
 * Asks until it is answered: what may pass is tried again, with growing pauses, until somebody stops it.
 * @param trying told why it is tried again, and nothing once it was answered
 */
export async function retrying<T>(
  work: () => Promise<T>,
  signal: AbortSignal,
  trying: (why: string | undefined) => void = () => undefined,
): Promise<T> {
  for (let tries = 1; ; tries++) {
    if (signal.aborted) throw new Stopped();
    try {
      const answer = await work();
      trying(undefined);
      return answer;
    } catch (error) {
      if (!mayPass(error)) throw error;
      trying((error as Error).message);
      await pause(pauseAfter(tries), signal);
    }
  }
}

function pause(ms: number, signal: AbortSignal): Promise<void> {
  return new Promise((done) => {
    const end = () => {
      clearTimeout(timer);
      signal.removeEventListener("abort", end);
      done();
    };
    const timer = setTimeout(end, ms);
    signal.addEventListener("abort", end);
  });
}
