import { proxy, type Remote, releaseProxy, wrap } from "comlink";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
// Types alone: the computations themselves are the worker's, and no page waits for them.
import type { ArgumentsOf, CalculationName, ResultOf } from "./calculations.ts";
import type { CalculationsWorker } from "./calculationsWorker.ts";

/** How a computation stands. An older result stays in sight, marked as such, while a newer is on its way. */
export interface Calculation<T> {
  kind: "working" | "done" | "failed" | "cancelled";
  value: T | undefined;
  /** the value belongs to earlier arguments */
  stale: boolean;
  /** 0 to 1 */
  progress: number;
  /** of one that failed */
  error: string | undefined;
  cancel: () => void;
  again: () => void;
}

/** ms after the last change of the arguments before a computation begins: longer than from key to key, for whoever types */
const PAUSE = 450;

/**
 * Works out a computation beside the page and again whenever its arguments change. A worker of its own for each
 * caller: stopping one stops no other.
 * @param here the same computation, where it is small enough to be done at once in the page: its value belongs to
 *   these arguments always
 */
export function useCalculation<N extends CalculationName>(
  name: N,
  args: ArgumentsOf<N>,
  here?: (...args: ArgumentsOf<N>) => ResultOf<N>,
): Calculation<ResultOf<N>> {
  type State = Pick<Calculation<ResultOf<N>>, "kind" | "value" | "progress" | "error"> & {
    /** what the value was worked out from */
    of: ArgumentsOf<N> | undefined;
  };
  const [{ of, ...state }, setState] = useState<State>({
    kind: "working",
    value: undefined,
    progress: 0,
    error: undefined,
    of: undefined,
  });
  const inPlace = here !== undefined;
  const direct = useMemo(() => here?.(...args), [name, here, ...args]);
  const [attempt, setAttempt] = useState(0);
  const desk = useRef<Desk | undefined>(undefined);
  const stop = useRef<() => void>(() => undefined);
  const latest = useRef(args);
  latest.current = args;

  useEffect(() => {
    if (inPlace) return;
    let gone = false;
    const change = (patch: Partial<State>) => {
      if (!gone) setState((before) => ({ ...before, ...patch }));
    };
    setState((before) => ({
      ...before,
      kind: "working",
      progress: 0,
      error: undefined,
    }));
    let running = false;
    const timer = setTimeout(() => {
      running = true;
      const mine = desk.current ?? openDesk();
      desk.current = mine;
      const asked = latest.current;
      const progress = proxy((done: number, soFar?: unknown) =>
        change({
          progress: done,
          // What is known so far belongs to what was asked, and is shown while the rest is on its way.
          ...(soFar !== undefined && { value: soFar as ResultOf<N>, of: asked }),
        }),
      );
      Promise.race([mine.remote.calculate(name, asked, progress), mine.broken])
        .then(
          (value) => change({ kind: "done", value: value as ResultOf<N>, of: asked, progress: 1 }),
          (error: Error) => {
            // What broke once is not asked again.
            if (!gone) drop();
            change({ kind: "failed", error: error.message });
          },
        )
        .finally(() => {
          running = false;
        });
    }, PAUSE);
    const drop = () => {
      desk.current?.close();
      desk.current = undefined;
    };
    stop.current = () => {
      clearTimeout(timer);
      drop();
      change({ kind: "cancelled" });
    };
    return () => {
      clearTimeout(timer);
      // A computation nobody waits for any more is stopped, not heard out.
      if (running) drop();
      gone = true;
    };
  }, [name, attempt, inPlace, ...args]);
  useEffect(
    () => () => {
      desk.current?.close();
      desk.current = undefined;
    },
    [],
  );

  const done = { kind: "done", value: direct, progress: 1, error: undefined } as const;
  return {
    ...(inPlace ? done : state),
    // Said at once, before anything is begun anew: no number is shown beside what it does not belong to.
    stale: !inPlace && state.value !== undefined && !args.every((arg, i) => of?.[i] === arg),
    cancel: useCallback(() => stop.current(), []),
    again: useCallback(() => setAttempt((n) => n + 1), []),
  };
}

interface Desk {
  remote: Remote<CalculationsWorker>;
  /** never answers; fails when the worker itself does, as when its file cannot be loaded */
  broken: Promise<never>;
  close: () => void;
}

function openDesk(): Desk {
  const worker = new Worker(new URL("./calculationsWorker.ts", import.meta.url), {
    type: "module",
  });
  const remote = wrap<CalculationsWorker>(worker);
  const broken = new Promise<never>((_, reject) => {
    const fail = (event: Event) =>
      reject(new Error((event as ErrorEvent).message || "The computation could not be loaded."));
    worker.addEventListener("error", fail);
    worker.addEventListener("messageerror", fail);
  });
  // Someone may no longer be listening when it breaks.
  broken.catch(() => undefined);
  return {
    remote,
    broken,
    close: () => {
      remote[releaseProxy]();
      worker.terminate();
    },
  };
}
