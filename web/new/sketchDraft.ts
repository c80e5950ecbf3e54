import { createStore } from "zustand";
import { createJSONStorage, persist, type StateStorage } from "zustand/middleware";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobKindId } from "#contract/documents/jobKinds.ts";
import { outOfRange } from "#contract/documents/ranges.ts";
import { parseQuantity } from "#contract/units/parse.ts";
import type { Unit, UnitSystem } from "#contract/units/units.ts";
import { bareUnit, type Demand, MEASURES, type Measure, type Values } from "#model/kinds/kind.ts";
import { KINDS, type Sketch } from "#model/kinds/kinds.ts";
import { safely } from "../lib/safely.ts";

/** What was typed, as it was typed, and the units it was typed under. */
interface Typed {
  text: string;
  units: UnitSystem;
}

/** A sketch being filled in: a measure is its text, and a value only where the whole text means one. */
export interface SketchDraft {
  demand: Demand;
  typed: Partial<Record<Measure, Typed>>;
  place: string;
  customer: string;
  site: Partial<JobDocument["site"]>;
}

/** A measure as its field shows it. */
export interface Entry {
  text: string;
  /** SI, where it can be read */
  value?: number;
  problem?: string;
}

/** Anything but a number, its marks and a fraction. */
export const NAMES_A_UNIT = /[^\d\s./,+−–-]/;

/**
 * What the text of a measure means.
 * @param units of the reader now; a bare number keeps those it was typed under
 * @param own the reader's own units, such as a pace
 */
export function entryOf(
  measure: Measure,
  { text, units: under }: Typed,
  units: UnitSystem,
  own: readonly Unit[],
): Entry {
  if (text.trim() === "") return { text };
  const { quantity, range } = MEASURES[measure];
  const isBare = !NAMES_A_UNIT.test(text);
  const whole = isBare ? `${text} ${bareUnit(measure, under)}` : text;
  const shown = isBare && under !== units ? whole : text;
  const parsed = parseQuantity(whole, quantity, under, quantity === "length" ? own : []);
  if (!parsed.ok) return { text: shown, problem: parsed.message };
  const outside = outOfRange(parsed.value, quantity, range);
  return outside ? { text: shown, problem: outside } : { text: shown, value: parsed.value };
}

export type Entries = Record<Measure, Entry>;

export const entriesOf = (
  typed: SketchDraft["typed"],
  units: UnitSystem,
  own: readonly Unit[],
): Entries =>
  Object.fromEntries(
    (Object.keys(MEASURES) as Measure[]).map((measure) => [
      measure,
      entryOf(measure, typed[measure] ?? { text: "", units }, units, own),
    ]),
  ) as Entries;

/** The sketch a draft stands for: of its measures those that its kind asks for or offers, as far as they can be read. */
export function sketchOf(
  kind: JobKindId,
  { demand, place, customer, site }: SketchDraft,
  entries: Entries,
): Sketch {
  const { asks, offers } = KINDS[kind];
  const values: Values = {};
  for (const measure of [...asks(demand), ...offers(demand)]) {
    const { value } = entries[measure];
    if (value !== undefined) values[measure] = value;
  }
  return { kind, demand, typed: values, place, customer, site };
}

const keyOf = (kind: string) => `upright-gusher-sketch-${kind}`;

export interface SketchStore {
  draft: SketchDraft;
  change: (by: Partial<SketchDraft>) => void;
  type: (measure: Measure, text: string, units: UnitSystem) => void;
}

/** The sketch of a kind of job, kept for as long as this tab lives, whatever happens to the page. */
export function sketchStore(kind: JobKindId, storage: () => StateStorage = () => sessionStorage) {
  const [demand] = KINDS[kind].demands;
  const empty: SketchDraft = { demand, typed: {}, place: "", customer: "", site: {} };
  const store = createStore<SketchStore>()(
    persist(
      (set) => ({
        draft: empty,
        change: (by) => set(({ draft }) => ({ draft: { ...draft, ...by } })),
        type: (measure, text, units) =>
          set(({ draft }) => ({
            draft: { ...draft, typed: { ...draft.typed, [measure]: { text, units } } },
          })),
      }),
      {
        name: keyOf(kind),
        version: 1,
        storage: createJSONStorage(() => safely(storage)),
        partialize: ({ draft }) => ({ draft }),
        merge: (kept, current) => ({
          ...current,
          draft: { ...empty, ...(kept as Partial<SketchStore> | undefined)?.draft },
        }),
      },
    ),
  );
  const forget = () => store.persist.clearStorage();
  return {
    store,
    forget,
    clear: () => {
      store.setState({ draft: empty });
      forget();
    },
  };
}

/** Whether something was typed on it in this tab. */
export const isBegun = (
  kind: string,
  storage: () => StateStorage = () => sessionStorage,
): boolean => safely(storage).getItem(keyOf(kind)) !== null;
