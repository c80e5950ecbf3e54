import { create } from "zustand";
import { persist } from "zustand/middleware";
import type { UnitSystem } from "#contract/units/units.ts";

export type Theme = "light" | "dark";

interface Settings {
  units: UnitSystem;
  theme: Theme;
  toggleUnits(): void;
  toggleTheme(): void;
}

/** What a person prefers on this device; it never changes a job. */
export const useSettings = create<Settings>()(
  persist(
    (set) => ({
      units: navigator.language === "en-US" ? "us" : "metric",
      theme: matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light",
      toggleUnits: () => set((s) => ({ units: s.units === "us" ? "metric" : "us" })),
      toggleTheme: () => set((s) => ({ theme: s.theme === "light" ? "dark" : "light" })),
    }),
    { name: "upright-gusher-settings" },
  ),
);

export const useUnits = () => useSettings((s) => s.units);
