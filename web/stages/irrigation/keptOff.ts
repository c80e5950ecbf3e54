import type { FieldDocument } from "#contract/documents/job.ts";

export type KeepOffs = NonNullable<FieldDocument["keepOff"]>;
export type KeepOff = KeepOffs[number];

/** What is kept dry, as it is called. */
export const KEPT_OFF: Record<KeepOff["what"], string> = {
  hedge: "Hedge",
  road: "Road",
  building: "Building",
  water: "Pond or ditch",
  other: "Something else",
};

export const keepOffName = ({ name, what }: KeepOff) => name || KEPT_OFF[what];
