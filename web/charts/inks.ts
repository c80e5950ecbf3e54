type Inks = Record<"paper" | "ink" | "soft" | "rule" | "water" | "pump" | "signal", string>;

/** The page's colours, as its theme has them. */
export function inks(): Inks {
  const style = getComputedStyle(document.documentElement);
  const read = (name: string) => style.getPropertyValue(`--${name}`).trim();
  return {
    paper: read("paper"),
    ink: read("ink"),
    soft: read("soft"),
    rule: read("rule"),
    water: read("water"),
    pump: read("pump"),
    signal: read("signal"),
  };
}

export type { Inks };
