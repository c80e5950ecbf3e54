import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { testsOf } from "../../api/queries.ts";
import type { Owner } from "../../openJob/owner.ts";
import { useHeld } from "../../outbox/useHeld.ts";
import { besides } from "./besides.ts";
import { withHeld } from "./fileReading.ts";
import type { ReadingDraft } from "./reading/readingDraft.ts";
import { testOfToday } from "./todaysTest.ts";
import { useVisit } from "./useVisit.ts";
import { newestFirst } from "./Visits.tsx";

/** The visits to a job, or the tests of a pump on the stand: all of them, today's, and the one in view. */
export function useVisits(
  job: JobDocument,
  owner: Owner,
  { configuration, about }: Pick<ReadingDraft, "configuration" | "about">,
) {
  const { id } = owner;
  const tests = useQuery(testsOf(id, owner.of));
  const held = useHeld(id);
  const [picked, setPicked] = useState<string>();
  // Of a pump on the stand what was read on a job is no part of this.
  const all = withHeld(tests.data ?? [], held).filter(
    ({ document }) => owner.of === "jobs" || document.configuration === "shop-stand",
  );
  const today = testOfToday(owner, all, configuration, about);
  const todays = all.find((test) => test.id === today.id);
  // Of the visits the one begun last is in view, until another is asked for.
  const shown = all.find((test) => test.id === (picked ?? todays?.id)) ?? newestFirst(all)[0];
  const inView = useVisit(job, shown);
  const { readings } = inView;
  const compared = useMemo(
    () => besides(job, shown, all, readings),
    // What the visits are made of is known by the readings of the one in view.
    [job, shown?.id, shown?.revision, readings],
  );
  return { tests, held, all, today, todays, shown, show: setPicked, compared, ...inView };
}
export type VisitsInHand = ReturnType<typeof useVisits>;
