import { later } from "../../lib/later.ts";
import type { LineView } from "../../openJob/stage.ts";

export const SIZES: LineView = {
  value: "sizes",
  name: "Sizes",
  key: "s",
  called: "the sizes",
  ...later(() => import("./SizeSheet.tsx")),
};
