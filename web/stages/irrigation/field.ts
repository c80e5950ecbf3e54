import type { FieldDocument } from "#contract/documents/job.ts";
import { without } from "../../lib/without.ts";
import { edit } from "../../openJob/jobStore.ts";

/** Changes what the job on the bench knows of its field. */
export function editField(change: (field: FieldDocument) => FieldDocument): void {
  edit((job) => ({ ...job, field: change(job.field ?? {}) }));
}

/** Puts fields into the field; what is undefined is taken out. */
export function setField(
  patch: { [K in keyof FieldDocument]?: FieldDocument[K] | undefined },
): void {
  editField((field) => without({ ...field, ...patch }));
}

type Group = "day" | "season" | "read";

/** The same inside one of its groups. */
export function setIn<G extends Group>(
  group: G,
  patch: {
    [K in keyof NonNullable<FieldDocument[G]>]?: NonNullable<FieldDocument[G]>[K] | undefined;
  },
): void {
  editField((field) => ({ ...field, [group]: without({ ...field[group], ...patch }) }));
}
