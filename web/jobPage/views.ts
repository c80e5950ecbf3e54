import type { JobDocument } from "#contract/documents/job.ts";
import type { Stage } from "../openJob/part.ts";

/** What is shown of the line beside the part in hand; a pane is fetched when it is first looked at. */
interface LineView {
  name: string;
  /** the stages it belongs to; all, where it says none */
  stages?: readonly Stage[];
  /** what its pane is in */
  load: () => Promise<unknown>;
}

export const whatIf = () => import("../whatif/WhatIfPane.tsx");

export const VIEWS = {
  ledger: { name: "Head ledger", load: async () => undefined },
  sizes: {
    name: "Sizes",
    stages: ["need", "line"],
    load: () => import("../stages/line/SizeSheet.tsx"),
  },
  curve: { name: "Curve sheet", load: () => import("../stages/pump/CurveSheet.tsx") },
  driving: {
    name: "Driving",
    stages: ["pump"],
    load: () => import("../stages/pump/DrivingPane.tsx"),
  },
  together: {
    name: "With pipe",
    stages: ["pump"],
    load: () => import("../stages/pump/TogetherPane.tsx"),
  },
  changes: { name: "Changes", load: () => import("../whatif/ChangesSheet.tsx") },
  time: { name: "Over time", load: () => import("../simulation/TimePane.tsx") },
} satisfies Record<string, LineView>;
export type View = keyof typeof VIEWS;

/** The views of a stage. Where nothing fills or empties only the need is looked at over time. */
export function viewsAt(
  stage: Stage,
  { bodies }: Pick<JobDocument, "bodies">,
): { value: View; name: string }[] {
  return (Object.entries(VIEWS) as [View, LineView][]).flatMap(([value, { name, stages }]) =>
    (stages?.includes(stage) ?? true) && (value !== "time" || stage === "need" || bodies)
      ? [{ value, name }]
      : [],
  );
}

/** The view that an address names; where it names none of this stage, what is looked at there first. */
export function viewAt(
  stage: Stage,
  job: Pick<JobDocument, "bodies">,
  asked: URLSearchParams,
): View {
  const named = viewsAt(stage, job).find(({ value }) => value === asked.get("view"));
  if (named) return named.value;
  if (stage === "pump") return "curve";
  return stage === "need" && job.bodies && job.bodies.length > 0 ? "time" : "ledger";
}

/** Has what a view is made of fetched. */
export const loadView = (view: View): Promise<unknown> =>
  view === "changes" ? Promise.all([VIEWS.changes.load(), whatIf()]) : VIEWS[view].load();
