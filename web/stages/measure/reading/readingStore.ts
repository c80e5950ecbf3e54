import * as z from "zod";
import { createStore } from "zustand";
import { createJSONStorage, persist, type StateStorage } from "zustand/middleware";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { everyItem } from "#core/line/path.ts";
import { safely } from "../../../lib/safely.ts";
import { type Change, isUntouched, type ReadingDraft } from "./readingDraft.ts";

export interface ReadingStore {
  draft: ReadingDraft;
  change: (by: Change) => void;
  replace: (draft: ReadingDraft) => void;
}

/**
 * The draft of a job's next reading, kept on this device until it is filed: a phone that sleeps loses nothing. It is
 * written at each change and not after the next drawing, so that a page closed in between neither brings back a reading
 * that was filed nor loses the last fill.
 *
 * @param empty what it is where nothing is kept, and what is not kept of it
 */
export const readingStore = (
  of: string,
  job: JobDocument,
  empty: ReadingDraft,
  storage: () => StateStorage = () => localStorage,
) =>
  createStore<ReadingStore>()(
    persist(
      (set, get) => ({
        draft: empty,
        replace: (draft) => set({ draft }),
        change: (by) => {
          const { draft } = get();
          const patch = typeof by === "function" ? by(draft) : by;
          // A reading is of the time its first number was taken, not of when the page was opened.
          const begins = isUntouched(draft) ? { takenAt: new Date().toISOString() } : {};
          set({ draft: { ...draft, ...begins, ...patch } });
        },
      }),
      {
        name: `upright-gusher-reading-${of}`,
        version: 2,
        storage: createJSONStorage(() => inItsShape(safely(storage))),
        partialize: ({ draft }) => ({ draft }),
        merge: (kept, current) => ({ ...current, draft: restored(kept, current.draft, job) }),
      },
    ),
  );

/** What an earlier version kept is read as this one keeps it. */
const inItsShape = (storage: StateStorage): StateStorage => ({
  ...storage,
  getItem: (name) => {
    const text = storage.getItem(name);
    if (typeof text !== "string") return null;
    try {
      const kept: unknown = JSON.parse(text);
      if (!isRecord(kept) || "state" in kept) return text;
      return JSON.stringify({ state: { draft: ofFlat(kept) }, version: 2 });
    } catch {
      return null;
    }
  },
});

/** A draft of when all its numbers stood beside one another. */
function ofFlat(flat: Record<string, unknown>) {
  const { volumeTolerance, timingTolerance, watchedFor: time, meterTolerance } = flat;
  const { pressure, fullScale, accuracyClass, elevation, afterItemId, pictures, ...rest } = flat;
  return {
    ...rest,
    flows: {
      bucket: { volume: flat.volume, volumeTolerance, times: flat.times, timingTolerance },
      timed: { volume: flat.collected, volumeTolerance, time: flat.setTime, timingTolerance },
      meter: { flow: flat.meterFlow, tolerance: meterTolerance },
      counter: {
        ...{ start: flat.counterStart, end: flat.counterEnd, time },
        ...{ tolerance: meterTolerance, timingTolerance },
      },
      "draw-down": {
        ...{ area: flat.area, areaTolerance: flat.areaTolerance, time, timingTolerance },
        ...{ fall: flat.fall, fallTolerance: flat.fallTolerance },
        ...{ inflow: flat.inflow, inflowTolerance: flat.inflowTolerance },
      },
    },
    discharge: { pressure, fullScale, accuracyClass, elevation, afterItemId },
    suctions: {
      "water-level": { level: flat.level, tolerance: flat.levelTolerance },
      gauge: {
        ...{ pressure: flat.suctionPressure, fullScale: flat.suctionFullScale },
        ...{ accuracyClass: flat.suctionClass, elevation: flat.suctionElevation },
      },
    },
    electric: {
      ...{ volts: flat.volts, currents: flat.currents, power: flat.power },
      ...{ powerFactor: flat.powerFactor, currentTolerance: flat.currentTolerance },
      powerTolerance: flat.powerTolerance,
    },
    attachments: pictures,
  };
}

const keptSchema = z.looseObject({
  draft: z.looseObject({
    id: z.string(),
    method: z.enum(["bucket", "timed", "meter", "counter", "draw-down"]),
    flows: z.looseObject({ bucket: z.looseObject({ times: z.array(z.number()) }) }),
    discharge: z.looseObject({ afterItemId: z.string() }),
  }),
});

/** What was kept, its places as far as the job still has them. */
function restored(kept: unknown, empty: ReadingDraft, job: JobDocument): ReadingDraft {
  const read = keptSchema.safeParse(kept);
  if (!read.success) return empty;
  const draft = filled(read.data.draft, empty) as ReadingDraft;
  const there = new Set(everyItem<JobPathItem>(job.path).map(({ id }) => id));
  const { discharge, outletId, running } = draft;
  return {
    ...draft,
    ...(!there.has(discharge.afterItemId) && {
      discharge: { ...discharge, afterItemId: empty.discharge.afterItemId },
    }),
    outletId: there.has(outletId) ? outletId : empty.outletId,
    running: running.every((id) => there.has(id)) ? running : empty.running,
  };
}

/** What is not known of a kept record is as the empty one has it: what is undefined is not written down. */
function filled(kept: unknown, empty: unknown): unknown {
  // In a list what is not known was written down as nothing.
  if (Array.isArray(kept)) return kept.map((value) => value ?? undefined);
  if (!isRecord(kept) || !isRecord(empty)) return kept === undefined ? empty : kept;
  const names = new Set([...Object.keys(empty), ...Object.keys(kept)]);
  return Object.fromEntries([...names].map((name) => [name, filled(kept[name], empty[name])]));
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);
