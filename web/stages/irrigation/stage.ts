import { waters } from "#model/irrigation/waters.ts";
import { later } from "../../lib/later.ts";
import { ownStage } from "../../openJob/stage.ts";
import { IRRIGATION_VIEWS } from "./views.ts";

export const IRRIGATION = ownStage({
  id: "ground",
  name: "Ground",
  called: "the ground",
  appliesTo: waters,
  places: [{ name: "Ground: guns, field and day" }],
  views: IRRIGATION_VIEWS,
  first: "field",
  panel: later(() => import("./IrrigationPane.tsx")),
});
