import { useMemo } from "react";
import { create } from "zustand";
import { persist } from "zustand/middleware";
import { type Steps, stepUnits, type UnitSystem, USUAL_STEPS } from "#contract/units/units.ts";
import type { Weighing } from "#core/choose/weights.ts";

export type Theme = "light" | "dark";

interface Settings {
  units: UnitSystem;
  theme: Theme;
  /** how the ends of runs are typed */
  heights: "rises" | "elevations";
  /** m: what this person's pace and the bricks hereabouts measure */
  steps: Steps;
  /** the section of a job as a strip */
  sectionFolded: boolean;
  /** what counts between pumps */
  weighing: Weighing;
  setWeighing(weighing: Weighing): void;
  toggleUnits(): void;
  toggleTheme(): void;
  toggleHeights(): void;
  toggleSection(): void;
  setStep(step: keyof Steps, length: number): void;
}

/** What a person prefers on this device; it never changes a job. */
export const useSettings = create<Settings>()(
  persist(
    (set) => ({
      units: navigator.language === "en-US" ? "us" : "metric",
      theme: matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light",
      heights: "rises",
      steps: USUAL_STEPS,
      sectionFolded: false,
      weighing: "balanced",
      setWeighing: (weighing) => set({ weighing }),
      toggleSection: () => set((s) => ({ sectionFolded: !s.sectionFolded })),
      setStep: (step, length) => set((s) => ({ steps: { ...s.steps, [step]: length } })),
      toggleHeights: () =>
        set((s) => ({ heights: s.heights === "rises" ? "elevations" : "rises" })),
      toggleUnits: () => set((s) => ({ units: s.units === "us" ? "metric" : "us" })),
      toggleTheme: () => set((s) => ({ theme: s.theme === "light" ? "dark" : "light" })),
    }),
    { name: "upright-gusher-settings" },
  ),
);

export const useUnits = () => useSettings((s) => s.units);

/** What this person may type a length in beside units: "23 paces". */
export const useStepUnits = () => {
  const steps = useSettings((s) => s.steps);
  return useMemo(() => stepUnits(steps), [steps]);
};
