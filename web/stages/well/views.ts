/** The views of a well, in the order of the work. */
export const WELL_VIEWS = [
  { value: "hole", name: "Well" },
  { value: "pipe", name: "Pump and pipe" },
  { value: "cable", name: "Cable" },
  { value: "tank", name: "Tank" },
  { value: "day", name: "Day" },
  { value: "other", name: "Other pumps" },
  { value: "what-if", name: "What if" },
] as const;
export type WellView = (typeof WELL_VIEWS)[number]["value"];
