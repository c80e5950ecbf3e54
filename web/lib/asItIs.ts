import type { StateCreator, StoreMutatorIdentifier } from "zustand";

/**
 * A store that is shown as it is from the first drawing on. React asks for the state that a page drawn beforehand had,
 * and a store would answer with the one it was made with, whatever was put into it since.
 */
export const asItIs =
  <T, Mutators extends [StoreMutatorIdentifier, unknown][]>(
    make: StateCreator<T, [], Mutators>,
  ): StateCreator<T, [], Mutators> =>
  (set, get, store) => {
    const state = make(set, get, store);
    store.getInitialState = get;
    return state;
  };
