import type { FieldTestDocument, ReadingDocument } from "#contract/documents/fieldTest.ts";
import { api, type TestWithReadings } from "../../api/client.ts";
import { flushInTurn } from "../../outbox/flush.ts";
import { type Entry, entries, keep, TAB, type ToHold } from "../../outbox/outbox.ts";

/** ms for which an answer of the server is waited for before it is said that the reading waits here */
const PATIENCE = 4000;

/** How filing ended: on the server, on this device and going by itself, or refused, with why. */
export type Filed = { kind: "filed" } | { kind: "held" } | { kind: "refused"; message: string };

/** The test that a reading belongs to; the server may not know it yet. */
export interface TestOfReading {
  id: string;
  document: FieldTestDocument;
  stored: boolean;
}

/**
 * Files a reading: first held on this device, then sent. Its id was made with the draft, so that filed again after a
 * lost answer it is the same reading.
 * @throws Error with a sentence, where it can be kept neither here nor on the server
 */
export async function fileReading(
  job: string,
  test: TestOfReading,
  id: string,
  document: ReadingDocument,
): Promise<Filed> {
  const at = new Date().toISOString();
  const waiting = { tab: TAB, base: 0, job, at, state: "waiting" } as const;
  const held: ToHold[] = [{ ...waiting, collection: "readings", id, document }];
  if (!test.stored) {
    held.unshift({ ...waiting, collection: "tests", id: test.id, document: test.document });
  }
  if (!(await keep(...held))) {
    if (!test.stored) await api.save("tests", test.id, 0, test.document);
    await api.save("readings", id, 0, document);
    return { kind: "filed" };
  }
  await Promise.race([flushInTurn(), new Promise((done) => setTimeout(done, PATIENCE))]);
  const left = (await entries()).find((entry) => entry.id === id);
  if (!left) return { kind: "filed" };
  return left.state === "waiting"
    ? { kind: "held" }
    : { kind: "refused", message: left.message ?? "" };
}

/** The tests of a job with what this device holds of them; a document that is here only has revision 0. */
export function withHeld(
  tests: readonly TestWithReadings[],
  held: readonly Entry[],
): TestWithReadings[] {
  const all = tests.map((test) => ({ ...test, readings: [...test.readings] }));
  for (const { collection, id, document, at } of held) {
    const stored = { id, revision: 0, updatedAt: at };
    if (collection === "tests" && !all.some((test) => test.id === id)) {
      all.push({ ...stored, document, readings: [] });
    }
    if (collection === "readings") {
      const test = all.find((each) => each.id === document.testId);
      if (test && !test.readings.some((reading) => reading.id === id)) {
        test.readings.push({ ...stored, document });
      }
    }
  }
  return all;
}
