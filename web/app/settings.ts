import { create } from "zustand";
import { persist } from "zustand/middleware";
import type { UnitSystem } from "#contract/units/units.ts";

export type Theme = "light" | "dark";

interface Settings {
  units: UnitSystem;
  theme: Theme;
  /** how the ends of runs are typed */
  heights: "rises" | "elevations";
  toggleUnits(): void;
  toggleTheme(): void;
  toggleHeights(): void;
}

/** What a person prefers on this device; it never changes a job. */
export const useSettings = create<Settings>()(
  persist(
    (set) => ({
      units: navigator.language === "en-US" ? "us" : "metric",
      theme: matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light",
      heights: "rises",
      toggleHeights: () =>
        set((s) => ({ heights: s.heights === "rises" ? "elevations" : "rises" })),
      toggleUnits: () => set((s) => ({ units: s.units === "us" ? "metric" : "us" })),
      toggleTheme: () => set((s) => ({ theme: s.theme === "light" ? "dark" : "light" })),
    }),
    { name: "upright-gusher-settings" },
  ),
);

export const useUnits = () => useSettings((s) => s.units);
