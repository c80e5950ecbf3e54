import { useMemo } from "react";
import { create } from "zustand";
import { persist } from "zustand/middleware";
import { SETTINGS_COOKIE } from "#contract/api/pages.ts";
import { type Steps, stepUnits, type UnitSystem, USUAL_STEPS } from "#contract/units/units.ts";
import { WEIGHINGS, type Weighing } from "#core/selection/weights.ts";
import { asItIs } from "../lib/asItIs.ts";

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

/** The units of someone whose browser speaks a language. */
const unitsOf = (language: string): UnitSystem => (language === "en-US" ? "us" : "metric");

/** What a person prefers on this device; it never changes a job. */
export const useSettings = create<Settings>()(
  asItIs(
    persist(
      (set) => ({
        units: unitsOf(navigator.language),
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
  ),
);

/** What of it moves a page: the same text for the same preferences. */
export function saidSettings(): string {
  const { units, theme, heights, steps, sectionFolded, weighing } = useSettings.getState();
  return JSON.stringify({ units, theme, heights, steps, sectionFolded, weighing });
}

/** Tells the server, with every page asked for, what is preferred here: it draws the page by it. */
export function tellSettings(): void {
  const tell = () => {
    // biome-ignore lint/suspicious/noDocumentCookie: the store that could be used instead is not in every browser
    document.cookie = `${SETTINGS_COOKIE}=${encodeURIComponent(saidSettings())}; path=/; max-age=31536000; samesite=lax`;
  };
  tell();
  useSettings.subscribe(tell);
}

/**
 * Prefers what a browser told, or what its languages let expect where it told nothing.
 * @param said as `saidSettings` says it
 */
export function takeSettings(said: string, languages: string): void {
  const told = readSaid(said);
  const [language = ""] = languages.split(/[,;]/);
  const { units = unitsOf(language.trim()), steps, weighing } = told;
  useSettings.setState({
    units: units === "us" ? "us" : "metric",
    theme: told.theme === "dark" ? "dark" : "light",
    heights: told.heights === "elevations" ? "elevations" : "rises",
    steps: {
      pace: Number(steps?.pace ?? USUAL_STEPS.pace),
      brick: Number(steps?.brick ?? USUAL_STEPS.brick),
    },
    sectionFolded: told.sectionFolded === true,
    weighing: weighing && weighing in WEIGHINGS ? weighing : "balanced",
  });
}

function readSaid(said: string): Partial<Settings> {
  try {
    const told: unknown = JSON.parse(said);
    return typeof told === "object" && told !== null ? told : {};
  } catch {
    return {};
  }
}

export const useUnits = () => useSettings((s) => s.units);

/** What this person may type a length in beside units: "23 paces". */
export const useStepUnits = () => {
  const steps = useSettings((s) => s.steps);
  return useMemo(() => stepUnits(steps), [steps]);
};
