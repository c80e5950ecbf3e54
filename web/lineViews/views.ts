import { later } from "../lib/later.ts";
import type { LineView } from "../openJob/stage.ts";
import { LedgerView } from "./LedgerView.tsx";

/** What is shown of a line beside the part in hand, whichever part that is. */
export const LEDGER: LineView = {
  value: "ledger",
  name: "Head ledger",
  key: "l",
  called: "the ledger",
  load: async () => undefined,
  Shown: LedgerView,
};

export const CURVE: LineView = {
  value: "curve",
  name: "Curve sheet",
  key: "c",
  called: "the curve",
  ...later(() => import("./CurveView.tsx")),
};

export const CHANGES: LineView = {
  value: "changes",
  name: "Changes",
  key: "g",
  called: "the columns",
  ...later(() => import("./ChangesView.tsx")),
};

/** Of a line where nothing fills or empties there is nothing to follow. */
export const TIME: LineView = {
  value: "time",
  name: "Over time",
  key: "t",
  called: "the run",
  appliesTo: ({ bodies }) => bodies !== undefined,
  ...later(() => import("../simulation/TimePane.tsx")),
};
