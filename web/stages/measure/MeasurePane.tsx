import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useEffect, useMemo, useState } from "react";
import { Link, useLocation, useNavigate } from "react-router";
import type { ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { formatUncertain } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { Band } from "#core/condition/uncertainty.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import { measuredFlow } from "#core/measurement/instruments.ts";
import { scaleFor } from "#core/measurement/reach.ts";
import { pitOf } from "#model/demand/pit.ts";
import { lineKnown } from "#model/job/assumed.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { electricOf, needleAt } from "#model/measurement/fieldTests.ts";
import {
  comparePrediction,
  compareReading,
  type NotOfOne,
  pointOf,
  pumpOfReading,
  reachOfJob,
  standingPumps,
} from "#model/measurement/readings.ts";
import { judgementOf, keptPrediction, predictionWords } from "#words/comparison.ts";
import { diagnosticSentence } from "#words/diagnostics.ts";
import { electricWords } from "#words/fieldTests.ts";
import { testsOf } from "../../api/queries.ts";
import { shrinkHeads } from "../../lib/heads.ts";
import { outletItems } from "../../openJob/jobStore.ts";
import type { Owner } from "../../openJob/owner.ts";
import { onPage } from "../../openJob/results.ts";
import { useHeld } from "../../outbox/useHeld.ts";
import { useUnits } from "../../state/settings.ts";
import type { ChannelNow } from "../../streams/LivePanel.tsx";
import { Button } from "../../ui/Button.tsx";
import { TextField } from "../../ui/Fields.tsx";
import { Loading, Trouble } from "../../ui/Notices.tsx";
import { useRefused } from "../../ui/refusals.ts";
import { toast } from "../../ui/toast.ts";
import { besides } from "./besides.ts";
import { ComparisonCard } from "./ComparisonCard.tsx";
import { fileReading, withHeld } from "./fileReading.ts";
import { PredictionCard } from "./PredictionCard.tsx";
import { DischargePart } from "./reading/DischargePart.tsx";
import { FlowPart } from "./reading/FlowPart.tsx";
import { PicturesPart } from "./reading/PicturesPart.tsx";
import {
  emptyDraft,
  knownHeights,
  nextDraft,
  readingOf,
  takenLive,
  useReadingDraft,
} from "./reading/readingDraft.ts";
import { SpeedPart } from "./reading/SpeedPart.tsx";
import { SuctionPart } from "./reading/SuctionPart.tsx";
import { SupplyPart } from "./reading/SupplyPart.tsx";
import { USUAL_SCALE } from "./reading/usual.ts";
import { ValvePart } from "./reading/ValvePart.tsx";
import { SideBySideCard } from "./SideBySideCard.tsx";
import { SweepCard } from "./SweepCard.tsx";
import { TestCard } from "./TestCard.tsx";
import { testOfToday } from "./todaysTest.ts";
import { useAbout } from "./useAbout.ts";
import { useSweep, useVisit } from "./useVisit.ts";
import { VerdictStrip } from "./VerdictStrip.tsx";
import { VisitDetails } from "./VisitDetails.tsx";
import { VisitKind } from "./VisitKind.tsx";
import { newestFirst, Visits } from "./Visits.tsx";

const LivePanel = lazy(() =>
  import("../../streams/LivePanel.tsx").then((own) => ({ default: own.LivePanel })),
);
const CurveSheet = lazy(() => import("../pump/CurveSheet.tsx"));

const NO_SETUPS: readonly { id: string; name: string }[] = [];

/** Taking a reading at the pit and holding it against the rated curve while it is typed. */
export default function MeasurePane({
  job,
  solved,
  band,
  owner,
  jobRevision,
}: {
  job: JobDocument;
  solved: JobSolution;
  /** where the duty likely lies, once that is known */
  band: Band | undefined;
  owner: Owner;
  /** of the job as it is saved; 0 while it is none of its revisions */
  jobRevision: number;
}) {
  const { id } = owner;
  const onJob = owner.of === "jobs";
  const units = useUnits();
  const client = useQueryClient();
  const tests = useQuery(testsOf(id, owner.of));
  const [filing, setFiling] = useState(false);
  const { draft, change, addFill, replace } = useReadingDraft(id, job, units);
  // Open for a reading that has a gauge already, and from then on as the reader leaves it.
  const [also, setAlso] = useState(draft.pressure !== undefined);
  const [live, setLive] = useState(false);
  const known = lineKnown(job);
  const { pumps, site } = job;
  const placed = useMemo(() => standingPumps({ pumps }, solved), [pumps, solved]);
  const heights = knownHeights(solved, job, draft);
  const { tap, pump, water } = heights;
  const { source, bodies, need } = job;
  const pit = useMemo(
    () => pitOf({ source, ...(bodies && { bodies }), ...(need && { need }) }),
    [source, bodies, need],
  );
  const refused = useRefused();
  const held = useHeld(id);
  // Of a pump on the stand what was read on a job is no part of this.
  const all = withHeld(tests.data ?? [], held).filter(
    ({ document }) => onJob || document.configuration === "shop-stand",
  );
  const today = testOfToday(owner, all, draft.configuration, draft.about);
  // The pump that ran, the first of several, is the one the reading is of.
  const ran = placed.find(({ itemId }) => itemId === draft.running[0]) ?? placed[0];
  const pumpId = ran?.pump.id;
  const place = ran ? placed.indexOf(ran) : 0;
  const { afterItemId } = draft;
  const dial = draft.elevation ?? tap;
  const reach = useMemo(
    () => (ran ? reachOfJob({ site }, solved, ran, place, dial) : {}),
    [site, solved, ran, place, dial],
  );
  const scale = scaleFor(reach, units === "us" ? "psi" : "bar", USUAL_SCALE[units]);
  // One reading: what is judged while it is typed is what is filed.
  const setups = today.document.setups ?? NO_SETUPS;
  const severalOutlets = outletItems(job.path).length > 1;
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
  // A window of a stream that was looked through comes as a reading to be filed.
  const { state, pathname, search } = useLocation();
  const navigate = useNavigate();
  const window = (state as { taken?: ChannelNow[] } | null)?.taken;
  const ratedSpeed = ran?.pump.ratedSpeedRpm;
  useEffect(() => {
    if (!window) return;
    change((before) => takenLive(window, before, ratedSpeed, scale));
    setAlso(true);
    void navigate({ pathname, search }, { replace: true, state: null });
  }, [window]);
  const doubt = onPage.look({ job })("uncertainty");
  const { limits } = today.document;
  const todays = all.find((test) => test.id === today.id);
  const [picked, setPicked] = useState<string>();
  // Of the visits the one begun last is in view, until another is asked for.
  const shown = all.find((test) => test.id === (picked ?? todays?.id)) ?? newestFirst(all)[0];
  const { readings, judged, installed, outliers } = useVisit(job, shown);
  const compared = useMemo(
    () => besides(job, shown, all, readings),
    // What the visits are made of is known by the readings of the one in view.
    [job, shown?.id, shown?.revision, readings],
  );
  const changes = useMemo(
    () => (job.variants ?? []).map(({ label }) => label ?? ""),
    [job.variants],
  );
  const sweep = useSweep(job, solved, todays, place);
  const needle = useMemo(() => {
    if (solved.kind !== "solved" || !sweep || dial === undefined) return undefined;
    const { next } = sweep;
    if (next.kind !== "throttle" && next.kind !== "shut") return undefined;
    const flow = next.kind === "shut" ? 0 : next.flow;
    return needleAt(solved, place, { flow, head: next.head }, { afterItemId, elevation: dial });
  }, [solved, sweep, place, afterItemId, dial]);
  const promise = useMemo(
    () =>
      result.kind === "ready" ? comparePrediction(solved, result.reading, band, doubt) : undefined,
    [result, solved, band, doubt],
  );
  // More flow than the line can pass makes a gauge's verdict worthless too.
  const believable = promise?.kept !== "cannot-be";
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

  const [about, sayOfVisit] = useAbout(id, todays, draft.about, (next) => change({ about: next }));

  async function takeAway(): Promise<void> {
    try {
      const { downloadBundle } = await import("../../exchange/bundle.ts");
      await downloadBundle(id);
    } catch (error) {
      toast.error(`The file could not be made: ${(error as Error).message}`);
    }
  }

  async function file(): Promise<void> {
    setFiling(true);
    try {
      if (result.kind !== "ready") return;
      const judged = comparison
        ? judgementOf(comparison, draft.takenAt, units)
        : promise && keptPrediction(promise, draft.takenAt, units);
      const reading = { ...result.reading, ...(judged && { judged }) };
      const filed = await fileReading(id, today, draft.id, reading);
      replace(nextDraft(draft));
      // What was just filed is what is looked at.
      setPicked(undefined);
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
  const electric =
    result.kind === "ready"
      ? electricOf(result.reading, comparison, rated, ran?.speedRatio)
      : undefined;
  const notOfOne =
    solved.kind === "solved" && result.kind === "ready" && result.reading.discharge
      ? pumpOfReading(solved, result.reading)
      : undefined;
  const together = solved.kind === "solved" && shown && readings.length > 0 && (
    <div className="grid gap-3" aria-busy={judged.stale}>
      <h2 className="text-xl">
        {shown.document.takenOn}, {shown.document.title}: the readings together
      </h2>
      {judged.value?.map((own) => (
        <TestCard
          key={own.at}
          judged={own}
          readings={readings}
          solution={solved.solution}
          job={job}
        />
      ))}
      {compared.map((own) => (
        <SideBySideCard key={`${own.first} ${own.second}`} compared={own} />
      ))}
      {judged.kind === "failed" && <p className="text-signal">{judged.error}</p>}
      {!judged.value && judged.kind !== "failed" && <Loading what="the judgement" />}
    </div>
  );
  return (
    <div
      onScroll={shrinkHeads}
      className="relative min-h-0 flex-1 max-lg:overflow-y-auto lg:grid lg:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]"
    >
      <section
        aria-label="Reading"
        className="grid content-start gap-4 border-rule p-3 lg:overflow-y-auto lg:border-r"
      >
        <div>
          {onJob && <VisitKind {...{ draft, change }} />}
          <VisitDetails
            key={today.id}
            {...{ about, changes }}
            pump={ran?.pump}
            units={onJob}
            onChange={sayOfVisit}
          />
        </div>
        {onJob && (
          <details open={live} onToggle={(event) => setLive(event.currentTarget.open)}>
            <summary className="plate min-h-11 content-center text-xl">
              I have instruments that stream …
            </summary>
            {live && (
              <Suspense fallback={<Loading what="the instruments" />}>
                <LivePanel
                  jobId={id}
                  shut={draft.valve === "shut"}
                  onTake={(now) => {
                    change((before) => takenLive(now, before, rated?.ratedSpeedRpm, scale));
                    setAlso(true);
                  }}
                  onValve={(to) =>
                    change({ valve: to >= 1 ? "open" : to <= 0 ? "shut" : "throttled" })
                  }
                />
              </Suspense>
            )}
          </details>
        )}
        {also && sweep && <SweepCard {...{ sweep, needle, job, draft, change }} />}
        {/* Another reading begins with entries of its own: a text that was refused goes with the reading it was of. What
            listens, and the clock of a shut valve, go on. */}
        <div key={draft.id} className="contents">
          {also && <ValvePart {...{ draft, change }} mayShut={sweep?.allowed.kind === "to-shut"} />}
          {draft.valve !== "shut" && (
            <FlowPart {...{ draft, change, addFill, job, setups, reach }} />
          )}
          <details open={also} onToggle={(event) => setAlso(event.currentTarget.open)}>
            <summary className="plate min-h-11 content-center text-xl">
              I also have a gauge{rated?.drive === "engine" ? ", a tachometer" : ", a clamp meter"}{" "}
              …
            </summary>
            <div className="grid gap-4 pt-1">
              <DischargePart {...{ draft, change, job, solved, tap, scale, reach }} />
              <SuctionPart {...{ draft, change, pump, water }} />
              {rated?.drive === "engine" && (
                <SpeedPart {...{ draft, change }} rated={rated.ratedSpeedRpm} />
              )}
              {rated && rated.drive !== "engine" && (
                <SupplyPart {...{ draft, change }} pump={rated} />
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
        </div>
        <div className="flex flex-wrap gap-2 bg-paper lg:sticky lg:-bottom-3 lg:z-10 lg:py-3">
          <Button
            look="strong"
            disabled={filing || result.kind !== "ready" || refused !== undefined}
            onClick={() => void file()}
          >
            File this reading
          </Button>
          <Button onClick={() => replace(emptyDraft(job, units))}>Clear</Button>
          {refused && <p className="content-center text-[14px] text-signal">{refused}</p>}
        </div>
      </section>
      <section
        aria-label="Measured against rated"
        className="flex flex-col lg:min-h-0 lg:overflow-y-auto"
      >
        <div className="p-3 lg:min-h-58 lg:shrink-0" aria-live="polite">
          {result.kind === "lacks" ? (
            <div className="grid gap-3">
              <p className="plate text-2xl text-soft">{result.what}</p>
              {together}
            </div>
          ) : (
            <div className="grid gap-3">
              {promise ? (
                <PredictionCard promise={promise} />
              ) : (
                <p className="plate text-3xl">{flowWords(result.reading.flow, units)}</p>
              )}
              {solved.kind !== "solved" && (
                <p className="text-soft">
                  {known
                    ? "The flow can be filed. It can be held against what was promised once a pump is chosen and the line can be solved."
                    : diagnosticSentence({ code: "line-unknown" })}
                </p>
              )}
              {comparison && <ComparisonCard {...{ comparison, reach }} reading={result.reading} />}
              {electric && (
                <div>
                  {electricWords(
                    electric.input,
                    electric.efficiency,
                    units,
                    electric.published,
                  ).map((sentence) => (
                    <p key={sentence} className="text-[14px]">
                      {sentence}
                    </p>
                  ))}
                </div>
              )}
              {typeof notOfOne === "string" && <p className="text-soft">{NOT_OF_ONE[notOfOne]}</p>}
            </div>
          )}
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
        {together && result.kind === "ready" && (
          <div className="border-t border-rule p-3">{together}</div>
        )}
        <div className="border-t border-rule p-3">
          <div className="flex flex-wrap items-center gap-2">
            <h2 className="flex-1 text-xl">
              {onJob ? "Visits to this job" : "Tests on the stand"}
            </h2>
            {onJob && (
              <>
                <Button look="quiet" onClick={() => void takeAway()}>
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
              onView={setPicked}
            />
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
              ? predictionWords(promise, units).sentence
              : "Nothing was promised here to hold it against; it can be filed."
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
  return formatUncertain(value, COVERAGE * standardUncertainty, "flow", units);
}
