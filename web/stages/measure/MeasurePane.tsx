import { lazy, Suspense, useEffect, useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import { useStore } from "zustand";
import { predictionWords } from "#words/comparison.ts";
import { shrinkHeads } from "../../lib/heads.ts";
import type { WholeProps } from "../../openJob/stage.ts";
import { useUnits } from "../../state/settings.ts";
import type { ChannelNow } from "../../streams/LivePanel.tsx";
import { Button } from "../../ui/Button.tsx";
import { Loading, Trouble } from "../../ui/Notices.tsx";
import { useRefused } from "../../ui/refusals.ts";
import { toast } from "../../ui/toast.ts";
import { ReadingForm } from "./ReadingForm.tsx";
import { emptyDraft } from "./reading/readingDraft.ts";
import { readingStore } from "./reading/readingStore.ts";
import { takenLive } from "./reading/takenLive.ts";
import { useFiling } from "./useFiling.ts";
import { useReadingInHand } from "./useReadingInHand.ts";
import { useVisits } from "./useVisits.ts";
import { flowWords, Together, Verdict } from "./Verdict.tsx";
import { VerdictStrip } from "./VerdictStrip.tsx";
import { Visits } from "./Visits.tsx";

const CurveSheet = lazy(() => import("../../lineViews/CurveSheet.tsx"));

/** Taking a reading at the pit and holding it against the rated curve while it is typed. */
export default function MeasurePane({ job, solved, band, owner, jobRevision }: WholeProps) {
  const { id } = owner;
  const onJob = owner.of === "jobs";
  const units = useUnits();
  const [kept] = useState(() => readingStore(id, job, emptyDraft(job, units)));
  const store = useStore(kept);
  const { draft, change } = store;
  // Open for a reading that has a gauge already, and from then on as the reader leaves it.
  const [also, setAlso] = useState(draft.discharge.pressure !== undefined);
  const visits = useVisits(job, owner, draft);
  const inHand = useReadingInHand({ job, solved, band, jobRevision }, draft, visits);
  const { filing, file } = useFiling(id, store, inHand, visits);
  const refused = useRefused();
  const { tests, held, all, shown, show, installed, outliers } = visits;
  const { ran, scale, result, prediction, comparison, point } = inHand;
  // A window of a stream that was looked through comes as a reading to be filed.
  const { state, pathname, search } = useLocation();
  const navigate = useNavigate();
  const window = (state as { taken?: ChannelNow[] } | null)?.taken;
  useEffect(() => {
    if (!window) return;
    change((before) => takenLive(window, before, ran?.pump.ratedSpeedRpm, scale));
    setAlso(true);
    void navigate({ pathname, search }, { replace: true, state: null });
  }, [window]);
  const together = <Together {...{ job, solved, visits }} />;
  return (
    <div
      onScroll={shrinkHeads}
      className="relative min-h-0 flex-1 max-lg:overflow-y-auto lg:grid lg:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]"
    >
      <ReadingForm
        {...store}
        {...{ job, solved, owner, inHand, visits, also, setAlso, refused, filing, file }}
      />
      <section
        aria-label="Measured against rated"
        className="flex flex-col lg:min-h-0 lg:overflow-y-auto"
      >
        <div className="p-3 lg:min-h-58 lg:shrink-0" aria-live="polite">
          <Verdict {...{ job, solved, inHand }} otherwise={together} />
        </div>
        <div className="h-80 shrink-0 border-t border-rule lg:min-h-72 lg:flex-1">
          <Suspense fallback={<Loading what="the curve" />}>
            <CurveSheet
              {...{ job, solved, installed, owner }}
              extra={point}
              only={shown?.id ?? ""}
            />
          </Suspense>
        </div>
        {result.kind === "ready" && (
          <div className="border-t border-rule p-3 empty:hidden">{together}</div>
        )}
        <div className="border-t border-rule p-3">
          <div className="flex flex-wrap items-center gap-2">
            <h2 className="flex-1 text-xl">
              {onJob ? "Visits to this job" : "Tests on the stand"}
            </h2>
            {onJob && (
              <>
                <Button look="quiet" onClick={() => void takeAway(id)}>
                  All as one file
                </Button>
                <Link
                  to={`/jobs/${id}/years`}
                  className="target inline-flex items-center px-2 underline"
                >
                  Over the years
                </Link>
              </>
            )}
          </div>
          {tests.isPending && <Loading what="the readings" />}
          {tests.isError && <Trouble error={tests.error} onRetry={() => void tests.refetch()} />}
          {(tests.data || all.length > 0) && (
            <Visits
              {...{ tests: all, held, solved, job, owner, outliers }}
              inView={shown?.id}
              onView={show}
            />
          )}
        </div>
      </section>
      <VerdictStrip
        verdict={comparison?.acceptance ?? prediction?.kept}
        flow={result.kind === "ready" ? flowWords(result.reading.flow, units) : undefined}
        sentence={
          result.kind !== "ready" || comparison
            ? undefined
            : prediction
              ? predictionWords(prediction, units).sentence
              : "Nothing was predictiond here to hold it against; it can be filed."
        }
        lacks={refused ?? (result.kind === "lacks" ? result.what : "")}
        onFile={
          result.kind === "ready" && !filing && refused === undefined
            ? () => void file()
            : undefined
        }
      />
    </div>
  );
}

async function takeAway(id: string): Promise<void> {
  try {
    const { downloadBundle } = await import("../../exchange/bundle.ts");
    await downloadBundle(id);
  } catch (error) {
    toast.error(`The file could not be made: ${(error as Error).message}`);
  }
}
