import type { Line } from "#core/line/path.ts";
import type { Steps } from "#core/numeric/steps.ts";
import type { Pump } from "#core/pump/pump.ts";
import {
  frontThatHolds,
  type Money,
  pumpAndPipeInSteps,
  type Together,
  type TogetherAsked,
} from "#core/selection/front.ts";
import { mayStand } from "#core/selection/rankPumps.ts";
import { atRatedSpeed } from "./arrangement.ts";

/** A pump and a size by their ids. */
export interface TogetherFound extends Omit<Together, "pump" | "stock"> {
  pump: string;
  stock: string;
}

export interface TogetherResult {
  /** how many pairs run at every level and move what is wanted */
  tried: number;
  /** those that nothing beats, cheapest first */
  front: TogetherFound[];
  /** the others that have a price, as many as a picture shows */
  beaten: TogetherFound[];
}

/** So many points of a picture can be told apart. */
const SHOWN = 1200;

/** Every pump that may stand there with every size, the front, and what it beats. */
export function* togetherInSteps(
  job: Line,
  library: readonly Pump[],
  asked: TogetherAsked,
  money: Money,
): Steps<TogetherResult> {
  const line = { ...job, path: atRatedSpeed(job.path, asked.place.itemId) };
  const allowed = mayStand(line, library, asked.place, asked.wanted ?? 0);
  const found = yield* pumpAndPipeInSteps(line, allowed, asked);
  const front = frontThatHolds(line, found, money, asked);
  const on = new Set(front);
  const beaten = found.filter((own) => own[money] !== undefined && !on.has(own));
  const step = Math.max(Math.ceil(beaten.length / SHOWN), 1);
  return {
    tried: found.length,
    front: front.map(told),
    beaten: beaten.filter((_, i) => i % step === 0).map(told),
  };
}

const told = ({ pump, stock, ...rest }: Together): TogetherFound => ({
  ...rest,
  pump: pump.id,
  stock: stock.id,
});
