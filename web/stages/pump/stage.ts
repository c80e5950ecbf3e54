import { later } from "../../lib/later.ts";
import { CHANGES, CURVE, LEDGER, TIME } from "../../lineViews/views.ts";
import type { LineStage, LineView } from "../../openJob/stage.ts";

const DRIVING: LineView = {
  value: "driving",
  name: "Driving",
  key: "d",
  called: "the drive",
  ...later(() => import("./DrivingPane.tsx")),
};

const TOGETHER: LineView = {
  value: "together",
  name: "With pipe",
  key: "p",
  called: "pump and pipe",
  ...later(() => import("./TogetherPane.tsx")),
};

export const PUMP: LineStage = {
  id: "pump",
  name: "Pump",
  frame: "line",
  appliesTo: () => true,
  places: [{ name: "Choose the pump" }, { name: "Curve sheet", search: "view=curve" }],
  parts: [
    { part: "pump", name: "Pump", called: "the pumps", ...later(() => import("./PumpPart.tsx")) },
  ],
  views: [LEDGER, CURVE, DRIVING, TOGETHER, CHANGES, TIME],
  first: () => CURVE,
  // The pumps to choose from come after what is said of the one chosen.
  verdictFirst: true,
};
