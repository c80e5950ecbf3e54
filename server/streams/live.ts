import type { KeptSample } from "./store.ts";

/** Tells whoever listens to a stream of every new sample. */
export interface Live {
  publish: (id: string, samples: readonly KeptSample[]) => void;
  /** returns a function that stops */
  listen: (id: string, hear: (samples: readonly KeptSample[]) => void) => () => void;
  listeners: (id: string) => number;
}

export function live(): Live {
  const hearers = new Map<string, Set<(samples: readonly KeptSample[]) => void>>();
  return {
    publish: (id, samples) => {
      if (samples.length > 0) for (const hear of hearers.get(id) ?? []) hear(samples);
    },
    listen: (id, hear) => {
      const own = hearers.get(id) ?? new Set();
      hearers.set(id, own);
      own.add(hear);
      return () => {
        own.delete(hear);
        if (own.size === 0) hearers.delete(id);
      };
    },
    listeners: (id) => hearers.get(id)?.size ?? 0,
  };
}
