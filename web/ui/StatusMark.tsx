import type { Severity } from "#core/check/check.ts";
import { CircleCheck, CircleQuestionMark, OctagonX, TriangleAlert } from "./icons.ts";

const MARKS = {
  stop: { Icon: OctagonX, word: "Stop", colour: "text-signal" },
  watch: { Icon: TriangleAlert, word: "Watch", colour: "text-ink" },
  unknown: { Icon: CircleQuestionMark, word: "Not known", colour: "text-ink" },
  good: { Icon: CircleCheck, word: "Good", colour: "text-soft" },
} as const;

/** Status by shape and word, with colour only on top. */
export function StatusMark({ severity, size = 18 }: { severity: Severity; size?: number }) {
  const { Icon, word, colour } = MARKS[severity];
  return (
    <span className={`inline-flex shrink-0 items-center gap-1 ${colour}`}>
      <Icon size={size} strokeWidth={2.4} aria-hidden />
      <span className="plate text-[15px]">{word}</span>
    </span>
  );
}
