import type { JobDocument } from "#contract/documents/job.ts";
import type { KeptReading } from "#model/measurement/fieldTests.ts";
import { compareSetups, type SetupsCompared } from "#model/measurement/sideBySide.ts";
import type { TestWithReadings } from "../../api/client.ts";

/** Set-ups of a visit side by side; of a visit as left, what it was found as on the same day. */
export function besides(
  job: JobDocument,
  shown: TestWithReadings | undefined,
  all: readonly TestWithReadings[],
  readings: readonly KeptReading[],
): SetupsCompared[] {
  if (!shown) return [];
  const { configuration, takenOn, setups = [] } = shown.document;
  const own = compareSetups(job, setups, readings);
  const before =
    configuration === "as-left"
      ? all.find(
          ({ document }) => document.configuration === "as-found" && document.takenOn === takenOn,
        )
      : undefined;
  if (!before) return own;
  const named = (setup: string, kept: readonly KeptReading[]) =>
    kept.map(({ id, document }) => ({ id, document: { ...document, setup } }));
  const pair = [
    { id: "as-found", name: "As found" },
    { id: "as-left", name: "As left" },
  ];
  const both = [...named("as-found", before.readings), ...named("as-left", readings)];
  // Nothing of the job was changed in between: the model has nothing to say of it.
  const found = compareSetups(job, pair, both).map((one) => ({
    ...one,
    rows: one.rows.map(({ model: _, ...row }) => row),
  }));
  return [...found, ...own];
}
