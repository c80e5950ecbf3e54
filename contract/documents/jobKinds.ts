/** What a job may be begun as, in the order it is offered. */
export const JOB_KINDS = [
  "sump-riser",
  "emptying",
  "yard-drain",
  "tank-to-tank",
  "well-to-tank",
  "pond-to-field",
  "plain-line",
  "measuring",
] as const;
export type JobKindId = (typeof JOB_KINDS)[number];
