import { hasWell } from "#model/well/settle.ts";
import { later } from "../../lib/later.ts";
import { ownStage } from "../../openJob/stage.ts";
import { WELL_VIEWS } from "./views.ts";

export const WELL = ownStage({
  id: "well",
  name: "Well",
  called: "the well",
  appliesTo: hasWell,
  places: [{ name: "Well: hole, pipe, cable and tank" }],
  views: WELL_VIEWS,
  first: "hole",
  panel: later(() => import("./WellPane.tsx")),
});
