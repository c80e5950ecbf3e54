import type { JobKindId } from "#contract/documents/jobKinds.ts";

/** A kind of job: what the customer says of it, and what it is called in a list. */
export const JOB_KIND_NAMES: Record<JobKindId, { says: string; name: string }> = {
  "sump-riser": { says: "Keep a pit dry", name: "Pit" },
  emptying: { says: "Empty a room or pool", name: "Emptying" },
  "yard-drain": { says: "Drain a yard", name: "Yard" },
  "tank-to-tank": { says: "Move water between tanks", name: "Transfer" },
  "well-to-tank": { says: "Draw from a well", name: "Well" },
  "pond-to-field": { says: "Water ground", name: "Watering" },
  "plain-line": { says: "Just a line", name: "Line" },
  measuring: { says: "Just measure", name: "Measuring" },
};

/** A job's name until somebody gives it another: "Pit, Tallow Mill, 25 Nov 2026". */
export function nameFor(kind: JobKindId, place: string | undefined, on: Date): string {
  const day = on.toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
  return [JOB_KIND_NAMES[kind].name, place?.trim(), day].filter(Boolean).join(", ").slice(0, 120);
}
