import { later } from "../../lib/later.ts";
import { CHANGES, CURVE, LEDGER, TIME } from "../../lineViews/views.ts";
import type { LineStage } from "../../openJob/stage.ts";
import { SIZES } from "../line/views.ts";

export const NEED: LineStage = {
  id: "need",
  name: "Need",
  frame: "line",
  appliesTo: () => true,
  places: [{ name: "Need: levels and flow" }],
  parts: [
    {
      part: "source",
      name: "Source",
      called: "the need",
      ...later(() => import("./SourcePart.tsx")),
    },
  ],
  // What is wanted may move in time before anything is drawn that does.
  views: [LEDGER, SIZES, CURVE, CHANGES, { ...TIME, appliesTo: () => true }],
  first: ({ bodies }) => (bodies && bodies.length > 0 ? TIME : LEDGER),
};
