import { useCallback, useMemo, useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobKindId } from "#contract/documents/jobKinds.ts";
import { outOfRange } from "#contract/documents/ranges.ts";
import { parseQuantity } from "#contract/units/parse.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { bareUnit, type Demand, MEASURES, type Measure, type Values } from "#model/kinds/kind.ts";
import { KINDS, type Sketch } from "#model/kinds/kinds.ts";
import { useStepUnits, useUnits } from "../state/settings.ts";

/** What was typed, as it was typed, and the units it was typed under. */
interface Typed {
  text: string;
  units: UnitSystem;
}

interface Draft {
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

/** A sketch being filled in. It is kept for as long as this tab lives, whatever happens to the page. */
export function useSketch(kind: JobKindId) {
  const units = useUnits();
  const own = useStepUnits();
  const [draft, setDraft] = useState<Draft>(() => kept(kind));
  const change = useCallback(
    (patch: Partial<Draft>) =>
      setDraft((before) => {
        const next = { ...before, ...patch };
        remember(kind, next);
        return next;
      }),
    [kind],
  );
  const { demand, typed, place, customer, site } = draft;
  const entries = useMemo(() => {
    const read = (measure: Measure): Entry => {
      const { quantity, range } = MEASURES[measure];
      const { text = "", units: under = units } = typed[measure] ?? {};
      if (text.trim() === "") return { text };
      // A bare number keeps the unit it was typed in.
      const isBare = !NAMES_A_UNIT.test(text);
      const whole = isBare ? `${text} ${bareUnit(measure, under)}` : text;
      const shown = isBare && under !== units ? whole : text;
      const parsed = parseQuantity(whole, quantity, under, quantity === "length" ? own : []);
      if (!parsed.ok) return { text: shown, problem: parsed.message };
      const outside = outOfRange(parsed.value, quantity, range);
      return outside ? { text: shown, problem: outside } : { text: shown, value: parsed.value };
    };
    return Object.fromEntries(
      (Object.keys(MEASURES) as Measure[]).map((measure) => [measure, read(measure)]),
    ) as Record<Measure, Entry>;
  }, [typed, units, own]);
  const sketch = useMemo((): Sketch => {
    const { asks, offers } = KINDS[kind];
    const values: Values = {};
    for (const measure of [...asks(demand), ...offers(demand)]) {
      const { value } = entries[measure];
      if (value !== undefined) values[measure] = value;
    }
    return { kind, demand, typed: values, place, customer, site };
  }, [kind, demand, entries, place, customer, site]);
  const type = (measure: Measure, text: string) =>
    change({ typed: { ...typed, [measure]: { text, units } } });
  const forget = () => remember(kind, undefined);
  const clear = () => {
    forget();
    setDraft(kept(kind));
  };
  return { draft, change, type, entries, sketch, forget, clear };
}

/** Anything but a number, its marks and a fraction. */
export const NAMES_A_UNIT = /[^\d\s./,+−–-]/;

const keyOf = (kind: JobKindId) => `upright-gusher-sketch-${kind}`;

function kept(kind: JobKindId): Draft {
  const [demand] = KINDS[kind].demands;
  const empty: Draft = { demand, typed: {}, place: "", customer: "", site: {} };
  try {
    return { ...empty, ...JSON.parse(sessionStorage.getItem(keyOf(kind)) ?? "{}") };
  } catch {
    return empty;
  }
}

/** Whether something was typed on it in this tab. */
export function isBegun(kind: string): boolean {
  try {
    return sessionStorage.getItem(keyOf(kind as JobKindId)) !== null;
  } catch {
    return false;
  }
}

function remember(kind: JobKindId, draft: Draft | undefined): void {
  try {
    if (draft) sessionStorage.setItem(keyOf(kind), JSON.stringify(draft));
    else sessionStorage.removeItem(keyOf(kind));
  } catch {
    // A browser that keeps nothing still has what is on the page.
  }
}
