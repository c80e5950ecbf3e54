import { useRef, useSyncExternalStore } from "react";
import {
  type Inputs,
  isOnPage,
  isSameKey,
  keyOf,
  type ResultName,
  type Results,
} from "#model/results/results.ts";
import { type Asked, askedFor, onPage, type Standing, WAITING } from "./results.ts";

/** How a result stands. An older value stays in sight, marked as such, while a newer is on its way. */
export interface Result<T> extends Standing<T> {
  /** the value belongs to earlier inputs */
  stale: boolean;
  cancel: () => void;
  again: () => void;
}

/**
 * What follows from a job, by its name: at once where it is worked out on the page, else a moment after each change,
 * beside it. Whoever asks for the same shares it.
 */
export function useResult<N extends ResultName>(name: N, inputs: Inputs): Result<Results[N]> {
  const key = keyOf(name, inputs);
  const before = useRef(key);
  if (!isSameKey(before.current, key)) before.current = key;
  const isHere = isOnPage(name, inputs);
  const asked: Asked<N> | undefined = isHere ? undefined : askedFor(name, inputs, before.current);
  const standing = useSyncExternalStore<Standing<Results[N]>>(
    asked?.subscribe ?? NOBODY,
    () => asked?.standing ?? WAITING,
    () => WAITING,
  );
  const shown = useRef<Results[N] | undefined>(undefined);
  const own = isHere ? onPage.look(inputs)(name) : standing.value;
  const isOwn = isHere || standing.kind === "done" || own !== undefined;
  if (isOwn) shown.current = own;
  return {
    ...standing,
    ...(isHere && DONE),
    value: shown.current,
    // Said at once, before anything is begun anew: no number is shown beside what it does not belong to.
    stale: !isOwn && shown.current !== undefined,
    cancel: asked?.cancel ?? nothing,
    again: asked?.again ?? nothing,
  };
}

const DONE = { kind: "done", progress: 1 } as const;
const nothing = () => undefined;
const NOBODY = () => nothing;
