import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { scaleFor } from "#core/measurement/reach.ts";
import { pitOf } from "#model/demand/pit.ts";
import { needleAt } from "#model/measurement/fieldTests.ts";
import {
  comparePrediction,
  compareReading,
  pointOf,
  reachOfJob,
  standingPumps,
} from "#model/measurement/readings.ts";
import { outletItems } from "../../openJob/jobStore.ts";
import { onPage } from "../../openJob/results.ts";
import type { WholeProps } from "../../openJob/stage.ts";
import { useUnits } from "../../state/settings.ts";
import type { ReadingDraft } from "./reading/readingDraft.ts";
import { knownHeights, readingOf } from "./reading/readingOf.ts";
import { USUAL_SCALE } from "./reading/usual.ts";
import { useSweep } from "./useVisit.ts";
import type { VisitsInHand } from "./useVisits.ts";

const NO_SETUPS: readonly { id: string; name: string }[] = [];

type Given = Pick<WholeProps, "job" | "solved" | "band" | "jobRevision">;

/** What a draft is of, the reading it stands for, and what that says: one reading, judged while it is typed as it is filed. */
export function useReadingInHand(
  { job, solved, band, jobRevision }: Given,
  draft: ReadingDraft,
  { today, todays }: Pick<VisitsInHand, "today" | "todays">,
) {
  const units = useUnits();
  const { pumps, site } = job;
  const placed = useMemo(() => standingPumps({ pumps }, solved), [pumps, solved]);
  // The pump that ran, the first of several, is the one the reading is of.
  const ran = placed.find(({ itemId }) => itemId === draft.running[0]) ?? placed[0];
  const place = ran ? placed.indexOf(ran) : 0;
  const { tap, pump, water } = knownHeights(solved, job, draft);
  const { afterItemId, elevation: dial = tap } = draft.discharge;
  const reach = useMemo(
    () => (ran ? reachOfJob({ site }, solved, ran, place, dial) : {}),
    [site, solved, ran, place, dial],
  );
  const scale = scaleFor(reach, units === "us" ? "psi" : "bar", USUAL_SCALE[units]);
  const { setups = NO_SETUPS, limits } = today.document;
  const pit = usePit(job);
  const severalOutlets = outletItems(job.path).length > 1;
  const pumpId = ran?.pump.id;
  const result = useMemo(
    () =>
      readingOf(
        draft,
        {
          testId: today.id,
          ...{ pumpId, jobRevision, severalOutlets, setups, scale, reach, units, pit },
        },
        { tap, pump, water },
      ),
    [
      ...[draft, today.id, pumpId, jobRevision, severalOutlets, setups],
      ...[scale, reach, units, pit, tap, pump, water],
    ],
  );
  const uncertainty = onPage.look({ job })("uncertainty");
  const prediction = useMemo(
    () =>
      result.kind === "ready"
        ? comparePrediction(solved, result.reading, band, uncertainty)
        : undefined,
    [result, solved, band, uncertainty],
  );
  // More flow than the line can pass makes a gauge's verdict worthless too.
  const believable = prediction?.kept !== "cannot-be";
  const comparison = useMemo(
    () =>
      result.kind === "ready" && believable
        ? compareReading(solved, result.reading, limits)
        : undefined,
    [result, solved, believable, limits],
  );
  const point = useMemo(
    () => comparison && { name: "This reading", ...pointOf(comparison), now: true, place },
    [comparison, place],
  );
  const sweep = useSweep(job, solved, todays, place);
  const needle = useMemo(() => {
    if (solved.kind !== "solved" || !sweep || dial === undefined) return undefined;
    const { next } = sweep;
    if (next.kind !== "throttle" && next.kind !== "shut") return undefined;
    const flow = next.kind === "shut" ? 0 : next.flow;
    return needleAt(solved, place, { flow, head: next.head }, { afterItemId, elevation: dial });
  }, [solved, sweep, place, afterItemId, dial]);
  return {
    ...{ ran, tap, pump, water, reach, scale, setups },
    ...{ result, prediction, comparison, point, sweep, needle },
  };
}
export type ReadingInHand = ReturnType<typeof useReadingInHand>;

/** What the job knows of the water that falls, the same one until that changes. */
function usePit({ source, bodies, need }: JobDocument) {
  return useMemo(
    () => pitOf({ source, ...(bodies && { bodies }), ...(need && { need }) }),
    [source, bodies, need],
  );
}
