/** The views of a watering, in the order of the work. */
export const IRRIGATION_VIEWS = [
  { value: "guns", name: "Guns" },
  { value: "field", name: "Field" },
  { value: "day", name: "Day" },
  { value: "season", name: "Season" },
  { value: "cans", name: "Catch cans" },
  { value: "drip", name: "Drip" },
  { value: "read", name: "Worked back" },
  { value: "what-if", name: "What if" },
] as const;
export type IrrigationView = (typeof IRRIGATION_VIEWS)[number]["value"];
