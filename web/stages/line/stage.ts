import { createElement } from "react";
import { type Later, later } from "../../lib/later.ts";
import { CHANGES, CURVE, LEDGER, TIME } from "../../lineViews/views.ts";
import type { LineStage, PartProps } from "../../openJob/stage.ts";
import { SIZES } from "./views.ts";

const rows = later(() => import("./LinePart.tsx"));
const ofSide = (side: "suction" | "discharge"): Later<PartProps> => ({
  load: rows.load,
  Shown: (props) => createElement(rows.Shown, { ...props, side }),
});

export const LINE: LineStage = {
  id: "line",
  name: "Line",
  frame: "line",
  appliesTo: () => true,
  places: [
    { name: "Suction line", search: "part=suction" },
    { name: "Discharge line", search: "part=discharge" },
    { name: "Outlet", search: "part=outlet" },
    { name: "Compare sizes", search: "view=sizes" },
    { name: "Claim check and cheapest next change", search: "view=changes" },
  ],
  parts: [
    { part: "suction", name: "Suction", called: "the line", ...ofSide("suction") },
    { part: "discharge", name: "Discharge", called: "the line", ...ofSide("discharge") },
    {
      part: "outlet",
      name: "Outlet",
      called: "the outlet",
      ...later(() => import("./OutletPart.tsx")),
    },
  ],
  begins: "discharge",
  views: [LEDGER, SIZES, CURVE, CHANGES, TIME],
  first: () => LEDGER,
};
