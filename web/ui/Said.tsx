import type { Severity } from "#core/check/check.ts";
import { StatusMark } from "./StatusMark.tsx";

/** A sentence with how much it matters, under a title where it has one. */
export function Said({
  severity,
  title,
  sentence,
}: {
  severity: Severity;
  title?: string;
  sentence: string;
}) {
  return (
    <p className="flex gap-2">
      <StatusMark severity={severity} />
      <span>
        {title && <span className="block font-medium">{title}</span>}
        {sentence}
      </span>
    </p>
  );
}
