import { later } from "../../lib/later.ts";
import type { WholeStage } from "../../openJob/stage.ts";

export const MEASURE: WholeStage = {
  id: "measure",
  name: "Measure",
  frame: "whole",
  called: "the watch",
  appliesTo: () => true,
  places: [{ name: "Measure" }],
  ...later(() => import("./MeasurePane.tsx")),
};
