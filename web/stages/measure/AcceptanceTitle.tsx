import type { Acceptance } from "#core/measurement/acceptance.ts";
import type { Kept } from "#core/measurement/prediction.ts";
import { ACCEPTANCE } from "#words/comparison.ts";
import { CircleCheck, CircleQuestionMark, OctagonX, TriangleAlert } from "../../ui/icons.ts";

const ICONS = {
  meets: CircleCheck,
  "as-promised": CircleCheck,
  "falls-short": OctagonX,
  less: OctagonX,
  "cannot-be": OctagonX,
  more: TriangleAlert,
  "beyond-curve": TriangleAlert,
  "cannot-tell": CircleQuestionMark,
} as const;

/** A verdict by word and shape. */
export function AcceptanceTitle({ acceptance }: { acceptance: Acceptance | Kept }) {
  const Icon = ICONS[acceptance];
  return (
    <p
      className={`plate flex items-center gap-2 text-3xl leading-tight ${Icon === OctagonX ? "text-signal" : ""}`}
    >
      <Icon size={28} strokeWidth={2.4} aria-hidden />
      {ACCEPTANCE[acceptance]}
    </p>
  );
}
