import type { JobDocument } from "#contract/documents/job.ts";
import type { Part } from "../openJob/part.ts";
import type { LineStage, LineView, OwnStage, Stage } from "../openJob/stage.ts";
import { IRRIGATION } from "../stages/irrigation/stage.ts";
import { LINE } from "../stages/line/stage.ts";
import { MEASURE } from "../stages/measure/stage.ts";
import { NEED } from "../stages/need/stage.ts";
import { PUMP } from "../stages/pump/stage.ts";
import { WELL } from "../stages/well/stage.ts";

/** The stages of a job, in the order of the work. */
export const STAGES: readonly Stage[] = [NEED, WELL, LINE, PUMP, IRRIGATION, MEASURE];

/** The stage a part of the line is in hand in. */
export function stageOf(part: Part): Stage {
  return STAGES.find((stage) => partIn(stage, part) !== undefined) ?? LINE;
}

const partIn = (stage: Stage, part: string | null) =>
  stage.frame === "line" ? stage.parts.find((own) => own.part === part) : undefined;

/** The stage that an address names; of one without a stage, its part says it. */
export function stageAt(step: string | undefined, part: string | null): Stage {
  return (
    STAGES.find(({ id }) => id === step) ?? STAGES.find((stage) => partIn(stage, part)) ?? LINE
  );
}

/** The part in hand that an address names, or the one a stage begins with. */
export function partAt(stage: LineStage, asked: string | null) {
  return partIn(stage, asked) ?? partIn(stage, stage.begins ?? null) ?? stage.parts[0];
}

type Shown = Pick<JobDocument, "bodies">;

/** The views of a line's stage that a job has something for. */
export const viewsAt = ({ views }: LineStage, job: Shown): LineView[] =>
  views.filter(({ appliesTo }) => appliesTo?.(job) ?? true);

/** The view that an address names; where it names none of this stage, what is looked at there first. */
export function viewAt(stage: LineStage, job: Shown, asked: URLSearchParams): LineView {
  return viewsAt(stage, job).find(({ value }) => value === asked.get("view")) ?? stage.first(job);
}

export const ownViewAt = ({ views, first }: OwnStage, asked: URLSearchParams): string =>
  views.find(({ value }) => value === asked.get("view"))?.value ?? first;
