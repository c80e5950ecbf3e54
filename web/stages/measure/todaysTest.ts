import { type FieldTestDocument, fieldTestVersions } from "#contract/documents/fieldTest.ts";
import type { TestWithReadings } from "../../api/client.ts";
import { localDay } from "../../lib/clock.ts";
import type { Owner } from "../../openJob/owner.ts";
import type { TestOfReading } from "./fileReading.ts";
import type { AboutVisit, ReadingDraft } from "./reading/readingDraft.ts";
import { said } from "./useAbout.ts";

export const CONFIGURATIONS: Record<ReadingDraft["configuration"], string> = {
  "": "Readings of the day",
  "as-found": "As found",
  "as-left": "As left",
  "shop-stand": "On the shop’s stand",
};

/** The test of today's visit; it is stored with its first reading, under an id that two tries share. */
export function testOfToday(
  { id: ownerId, test: owned }: Owner,
  tests: readonly TestWithReadings[],
  asked: ReadingDraft["configuration"],
  about: AboutVisit,
): TestOfReading {
  const takenOn = localDay(new Date());
  const configuration = owned.configuration ?? asked;
  const found = tests.find(
    ({ document }) =>
      document.takenOn === takenOn && (document.configuration ?? "") === configuration,
  );
  const document: FieldTestDocument = {
    format: "upright-gusher/field-test",
    version: fieldTestVersions.version,
    ...owned,
    title: CONFIGURATIONS[configuration],
    takenOn,
    ...(configuration !== "" && { configuration }),
    ...said(about),
  };
  return found
    ? { id: found.id, document: found.document, stored: found.revision > 0 }
    : {
        id: [takenOn, configuration, ownerId].filter(Boolean).join("-").slice(0, 64),
        document,
        stored: false,
      };
}
