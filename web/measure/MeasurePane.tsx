import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useMemo, useState } from "react";
import { toast } from "sonner";
import {
  type FieldTestDocument,
  fieldTestVersions,
  type ReadingDocument,
} from "#contract/documents/fieldTest.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { formatDoubtful } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { type Acceptance, COVERAGE } from "#core/measurement/acceptance.ts";
import { measuredFlow } from "#core/measurement/instruments.ts";
import type { Kept } from "#core/measurement/promise.ts";
import type { Band } from "#core/whatif/uncertainty.ts";
import {
  comparePromise,
  compareReading,
  type NotOfOne,
  pointOf,
  pumpOfReading,
} from "#model/readings.ts";
import type { JobSolution } from "#model/solveJob.ts";
import { ACCEPTANCE, judgementOf, keptPromise, promiseWords } from "#words/comparison.ts";
import type { TestWithReadings } from "../api/client.ts";
import { testsOf } from "../api/queries.ts";
import { localDay } from "../app/clock.ts";
import { shrinkHeads } from "../app/heads.ts";
import { useUnits } from "../app/settings.ts";
import { outletItems, useJobStore } from "../job/jobStore.ts";
import { useDoubt } from "../job/useBand.ts";
import { useHeld } from "../outbox/useHeld.ts";
import { Button } from "../ui/Button.tsx";
import { TextField } from "../ui/Fields.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { ComparisonCard } from "./ComparisonCard.tsx";
import { fileReading, type TestOfReading, withHeld } from "./fileReading.ts";
import { PromiseCard } from "./PromiseCard.tsx";
import { DischargePart } from "./parts/DischargePart.tsx";
import { FlowPart } from "./parts/FlowPart.tsx";
import { PicturesPart } from "./parts/PicturesPart.tsx";
import { SpeedPart } from "./parts/SpeedPart.tsx";
import { SuctionPart } from "./parts/SuctionPart.tsx";
import { ReadingList } from "./ReadingList.tsx";
import { emptyDraft, knownHeights, nextDraft, readingOf, useReadingDraft } from "./readingDraft.ts";

const CurveSheet = lazy(() => import("../job/CurveSheet.tsx"));

/** Taking a reading at the pit and holding it against the rated curve while it is typed. */
export default function MeasurePane({
  job,
  solved,
  band,
}: {
  job: JobDocument;
  solved: JobSolution;
  /** where the duty likely lies, once that is known */
  band: Band | undefined;
}) {
  const id = useJobStore((s) => s.id);
  // A job with changes on their way is none of its revisions.
  const jobRevision = useJobStore((s) => (s.saved.kind === "saved" ? s.revision : 0));
  const units = useUnits();
  const client = useQueryClient();
  const tests = useQuery(testsOf(id));
  const [filing, setFiling] = useState(false);
  const { draft, change, addFill, replace } = useReadingDraft(id, job, units);
  // Open for a reading that has a gauge already, and from then on as the reader leaves it.
  const [also, setAlso] = useState(draft.pressure !== undefined);
  const placed = solved.kind === "solved" ? solved.solution.pumps : [];
  const heights = knownHeights(solved, job, draft);
  const { tap, pump, water } = heights;
  const held = useHeld(id);
  const all = withHeld(tests.data ?? [], held);
  const today = testOfToday(id, all);
  // The pump that ran, the first of several, is the one the reading is of.
  const ran = placed.find(({ itemId }) => itemId === draft.running[0]) ?? placed[0];
  const pumpId = ran?.pump.id;
  const place = ran ? placed.indexOf(ran) : 0;
  // One reading: what is judged while it is typed is what is filed.
  const severalOutlets = outletItems(job.path).length > 1;
  const result = useMemo(
    () =>
      readingOf(
        draft,
        { testId: today.id, pumpId, jobRevision, severalOutlets },
        { tap, pump, water },
      ),
    [draft, today.id, pumpId, jobRevision, severalOutlets, tap, pump, water],
  );
  const doubt = useDoubt(job);
  const promise = useMemo(
    () =>
      result.kind === "ready" ? comparePromise(solved, result.reading, band, doubt) : undefined,
    [result, solved, band, doubt],
  );
  // More flow than the line can pass makes a gauge's verdict worthless too.
  const believable = promise?.kept !== "cannot-be";
  const comparison = useMemo(
    () =>
      result.kind === "ready" && believable ? compareReading(solved, result.reading) : undefined,
    [result, solved, believable],
  );
  const point = useMemo(
    () => comparison && { name: "This reading", ...pointOf(comparison), now: true, place },
    [comparison, place],
  );

  async function file(): Promise<void> {
    setFiling(true);
    try {
      if (result.kind !== "ready") return;
      const judged = comparison
        ? judgementOf(comparison, draft.takenAt, units)
        : promise && keptPromise(promise, draft.takenAt, units);
      const reading = { ...result.reading, ...(judged && { judged }) };
      const filed = await fileReading(id, today, draft.id, reading);
      replace(nextDraft(draft));
      if (filed.kind === "filed") toast("Reading filed.");
      if (filed.kind === "held") {
        toast("Not on the server yet: the reading is kept on this device and goes by itself.");
      }
      if (filed.kind === "refused") {
        toast.error(`The server did not take it: ${filed.message} It stays on this device.`);
      }
    } catch (error) {
      toast.error(`Not filed: ${(error as Error).message} The reading stays here.`);
    } finally {
      setFiling(false);
      await client.invalidateQueries({ queryKey: testsOf(id).queryKey });
    }
  }

  const rated = ran?.pump;
  const notOfOne =
    solved.kind === "solved" && result.kind === "ready" && result.reading.discharge
      ? pumpOfReading(solved, result.reading)
      : undefined;
  return (
    <div
      onScroll={shrinkHeads}
      className="relative min-h-0 flex-1 max-lg:overflow-y-auto lg:grid lg:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]"
    >
      <section
        aria-label="Reading"
        className="grid content-start gap-4 border-rule p-3 lg:overflow-y-auto lg:border-r"
      >
        <FlowPart {...{ draft, change, addFill, job }} />
        <details open={also} onToggle={(event) => setAlso(event.currentTarget.open)}>
          <summary className="plate min-h-11 content-center text-xl">
            I also have a gauge{rated?.drive === "engine" ? ", a tachometer" : ""} …
          </summary>
          <div className="grid gap-4 pt-1">
            <DischargePart {...{ draft, change, job, solved, tap }} />
            <SuctionPart {...{ draft, change, pump, water }} />
            {rated?.drive === "engine" && (
              <SpeedPart {...{ draft, change }} rated={rated.ratedSpeedRpm} />
            )}
          </div>
        </details>
        <TextField
          label="Note"
          value={draft.note}
          maxLength={1000}
          onChange={(note) => change({ note })}
        />
        <PicturesPart {...{ draft, change }} jobId={id} />
        <div className="flex flex-wrap gap-2">
          <Button
            look="strong"
            disabled={filing || result.kind !== "ready"}
            onClick={() => void file()}
          >
            File this reading
          </Button>
          <Button onClick={() => replace(emptyDraft(job, units))}>Clear</Button>
        </div>
      </section>
      <section
        aria-label="Measured against rated"
        className="flex flex-col lg:min-h-0 lg:overflow-y-auto"
      >
        <div className="p-3 lg:min-h-58 lg:shrink-0" aria-live="polite">
          {result.kind === "lacks" ? (
            <p className="plate text-2xl text-soft">{result.what}</p>
          ) : (
            <div className="grid gap-3">
              {promise ? (
                <PromiseCard promise={promise} />
              ) : (
                <p className="plate text-3xl">{flowWords(result.reading.flow, units)}</p>
              )}
              {solved.kind !== "solved" && (
                <p className="text-soft">
                  The flow can be filed. It can be held against what was promised once a pump is
                  chosen and the line can be solved.
                </p>
              )}
              {comparison && <ComparisonCard comparison={comparison} />}
              {typeof notOfOne === "string" && <p className="text-soft">{NOT_OF_ONE[notOfOne]}</p>}
            </div>
          )}
        </div>
        <div className="h-80 shrink-0 border-t border-rule lg:min-h-72 lg:flex-1">
          <Suspense fallback={<Loading what="the curve" />}>
            <CurveSheet job={job} solved={solved} extra={point} />
          </Suspense>
        </div>
        <div className="border-t border-rule p-3">
          <h2 className="text-xl">Readings on this job</h2>
          {tests.isPending && <Loading what="the readings" />}
          {tests.isError && <Trouble error={tests.error} onRetry={() => void tests.refetch()} />}
          {(tests.data || all.length > 0) && (
            <ReadingList {...{ tests: all, held, solved, job, jobId: id }} />
          )}
        </div>
      </section>
      <VerdictStrip
        verdict={comparison?.acceptance ?? promise?.kept}
        flow={result.kind === "ready" ? flowWords(result.reading.flow, units) : undefined}
        sentence={
          result.kind !== "ready" || comparison
            ? undefined
            : promise
              ? promiseWords(promise, units).sentence
              : "Nothing was promised here to hold it against; it can be filed."
        }
        lacks={result.kind === "lacks" ? result.what : ""}
      />
    </div>
  );
}

const NOT_OF_ONE: Record<NotOfOne, string> = {
  "several-ran":
    "Several pumps ran, and one flow cannot tell them apart. Run one alone, and say under “Which pumps ran” which it was.",
  "several-outlets":
    "The water leaves by several outlets, and this is the flow of one, not what the pump moves. Shut the valves of the others, on the Line as well, and read again to hold the pump against its curve.",
  "runs-back":
    "Part of its water runs back through a pump that stands, which no check valve holds: what reaches the outlet is not all it moves. Shut the valve of the one that stands, or give it a check valve, and read again.",
};

/** A measured flow with its doubt, said as soon as there is one. */
function flowWords(flow: ReadingDocument["flow"], units: UnitSystem): string {
  const { value, standardUncertainty } = measuredFlow(flow);
  return formatDoubtful(value, COVERAGE * standardUncertainty, "flow", units);
}

/** On a phone the verdict stays in sight while the reading is typed. */
function VerdictStrip({
  verdict,
  flow,
  sentence,
  lacks,
}: {
  verdict: Acceptance | Kept | undefined;
  flow: string | undefined;
  /** how a flow alone stands against what was promised */
  sentence: string | undefined;
  lacks: string;
}) {
  return (
    <div className="no-print sticky bottom-0 z-10 border-t border-rule bg-ink px-3 py-1.5 text-paper lg:hidden">
      <p className="flex items-baseline justify-between gap-3">
        <span className="plate text-2xl">{verdict ? ACCEPTANCE[verdict] : lacks}</span>
        {flow && <span className="plate text-lg">{flow}</span>}
      </p>
      {sentence && <p className="text-[15px]">{sentence}</p>}
    </div>
  );
}

/** The test of today's visit; it is stored with its first reading, under an id that two tries share. */
function testOfToday(jobId: string, tests: readonly TestWithReadings[]): TestOfReading {
  const takenOn = localDay(new Date());
  const found = tests.find((test) => test.document.takenOn === takenOn);
  const document: FieldTestDocument = {
    format: "upright-gusher/field-test",
    version: fieldTestVersions.version,
    jobId,
    title: "Readings of the day",
    takenOn,
  };
  return found
    ? { id: found.id, document: found.document, stored: found.revision > 0 }
    : { id: `${takenOn}-${jobId.slice(0, 50)}`, document, stored: false };
}
