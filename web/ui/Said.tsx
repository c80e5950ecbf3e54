import type { Severity } from "#core/check/check.ts";
import { StatusMark } from "./StatusMark.tsx";

/** A sentence with how much it matters. */
export function Said({ severity, sentence }: { severity: Severity; sentence: string }) {
  return (
    <p className="flex gap-2">
      <StatusMark severity={severity} />
      <span>{sentence}</span>
    </p>
  );
}
