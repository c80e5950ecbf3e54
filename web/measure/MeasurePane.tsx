import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useMemo, useState } from "react";
import { toast } from "sonner";
import type { ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/quantity.ts";
import type { JobSolution } from "#contract/solveJob.ts";
import { format } from "#contract/units/format.ts";
import { comparisonWords, JUDGEMENTS } from "#contract/wording/comparison.ts";
import { itemName } from "#contract/wording/items.ts";
import type { Comparison } from "#core/fieldtest/compare.ts";
import { compileLine } from "#core/line/compileLine.ts";
import { api, newId, type TestWithReadings } from "../api/client.ts";
import { useUnits } from "../app/settings.ts";
import { partsOf, useJobStore } from "../job/jobStore.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { NumberField, SelectField, TextField } from "../ui/Fields.tsx";
import { Trash2 } from "../ui/icons.ts";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";
import { ComparisonCard } from "./ComparisonCard.tsx";
import { compareReading, pointOf, takenOnAnother } from "./measuredPoints.ts";
import {
  emptyDraft,
  knownHeights,
  type ReadingDraft,
  readingOf,
  useReadingDraft,
} from "./readingDraft.ts";
import { Stopwatch } from "./Stopwatch.tsx";

const CurveSheet = lazy(() => import("../job/CurveSheet.tsx"));

/** Taking a reading at the pit and holding it against the rated curve while it is typed. */
export function MeasurePane({ job, solved }: { job: JobDocument; solved: JobSolution }) {
  const id = useJobStore((s) => s.id);
  const units = useUnits();
  const client = useQueryClient();
  const tests = useQuery({ queryKey: ["tests", id], queryFn: () => api.tests(id) });
  const [filing, setFiling] = useState(false);
  const { draft, change, addFill, replace } = useReadingDraft(id, job, units);
  const heights = knownHeights(solved, job, draft.afterItemId);
  const { tap, pump, water } = heights;
  const result = useMemo(
    () => readingOf(draft, "draft", undefined, { tap, pump, water }),
    [draft, tap, pump, water],
  );
  const comparison = useMemo(
    () => (result.kind === "ready" ? compareReading(job, solved, result.reading) : undefined),
    [result, job, solved],
  );
  const point = useMemo(
    () => comparison && pointOf("This reading", comparison, true),
    [comparison],
  );

  async function file(): Promise<void> {
    setFiling(true);
    try {
      const testId = await todaysTest(id, tests.data ?? []);
      const filed = readingOf(
        draft,
        testId,
        solved.kind === "solved" ? solved.solution.pumps[0]?.pump.id : undefined,
        heights,
      );
      if (filed.kind !== "ready") return;
      await api.save("readings", newId(), 0, filed.reading);
      replace({
        ...draft,
        times: [],
        pressure: undefined,
        meterFlow: undefined,
        suctionPressure: undefined,
        note: "",
      });
      toast("Reading filed.");
    } catch (error) {
      toast.error(`Not filed: ${(error as Error).message} The reading stays here.`);
    } finally {
      setFiling(false);
      await client.invalidateQueries({ queryKey: ["tests", id] });
    }
  }

  const severalPumps = solved.kind === "solved" && solved.solution.pumps.length > 1;
  const rated = solved.kind === "solved" ? solved.solution.pumps[0]?.pump : undefined;
  return (
    <div className="relative min-h-0 flex-1 max-lg:overflow-y-auto lg:grid lg:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]">
      <section
        aria-label="Reading"
        className="grid content-start gap-4 border-rule p-3 lg:overflow-y-auto lg:border-r"
      >
        <FlowPart {...{ draft, change, addFill }} />
        <DischargePart {...{ draft, change, job, tap }} />
        <SuctionPart {...{ draft, change, pump, water }} />
        {rated?.drive === "engine" && (
          <SpeedPart {...{ draft, change }} rated={rated.ratedSpeedRpm} />
        )}
        <TextField
          label="Note"
          value={draft.note}
          maxLength={1000}
          onChange={(note) => change({ note })}
        />
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
        <div className="p-3 lg:min-h-58" aria-live="polite">
          {solved.kind === "refused" ? (
            <p className="text-soft">
              The reading can be held against the curve once the line can be solved.
            </p>
          ) : comparison ? (
            <ComparisonCard comparison={comparison} />
          ) : (
            <p className="plate text-2xl text-soft">
              {result.kind === "lacks" ? result.what : severalPumps ? SEVERAL : ""}
            </p>
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
          {tests.data && <ReadingList {...{ tests: tests.data, job, solved, jobId: id }} />}
        </div>
      </section>
      <VerdictStrip
        comparison={comparison}
        lacks={
          result.kind === "lacks"
            ? result.what
            : severalPumps
              ? "Several pumps: measure one at a time."
              : "The line has no duty yet."
        }
      />
    </div>
  );
}

const SEVERAL =
  "Several pumps run on this line, and one flow cannot tell them apart. Measure one at a time, on a job with that pump alone.";

/** On a phone the verdict stays in sight while the reading is typed. */
function VerdictStrip({
  comparison,
  lacks,
}: {
  comparison: Comparison | undefined;
  lacks: string;
}) {
  const units = useUnits();
  return (
    <div className="no-print sticky bottom-0 z-10 flex items-baseline justify-between gap-3 border-t border-rule bg-ink px-3 py-1.5 text-paper lg:hidden">
      <span className="plate text-2xl">
        {comparison ? JUDGEMENTS[comparison.judgement] : lacks}
      </span>
      {comparison && (
        <span className="plate text-lg">{format(comparison.flow.value, "flow", units)}</span>
      )}
    </div>
  );
}

/** The test of today's visit, made when its first reading is filed. */
async function todaysTest(jobId: string, tests: readonly TestWithReadings[]): Promise<string> {
  const today = localDay(new Date());
  const found = tests.find((test) => test.document.takenOn === today);
  if (found) return found.id;
  const stored = await api.save("tests", newId(), 0, {
    format: "upright-gusher/field-test",
    version: 1,
    jobId,
    title: "Readings of the day",
    takenOn: today,
  });
  return stored.id;
}

/** The day on the wall, not the day in Greenwich, as YYYY-MM-DD. */
function localDay(now: Date): string {
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
}

interface PartProps {
  draft: ReadingDraft;
  change: (patch: Partial<ReadingDraft>) => void;
}

const legend = "plate text-xl";

function FlowPart({ draft, change, addFill }: PartProps & { addFill: (seconds: number) => void }) {
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Flow</legend>
      <div className="grid grid-cols-[1fr_1fr_1fr] gap-2">
        <SelectField
          label="Measured by"
          visibleLabel
          value={draft.method}
          onChange={(method) => change({ method: method as ReadingDraft["method"] })}
        >
          <option value="bucket">Bucket</option>
          <option value="meter">Meter</option>
        </SelectField>
        {draft.method === "bucket" ? (
          <>
            <QuantityField
              label="Bucket holds"
              quantity="volume"
              range={RANGES.volume}
              value={draft.volume}
              onChange={(volume) => change({ volume })}
            />
            <NumberField
              label="Bucket ±"
              visibleLabel
              suffix="%"
              min={0}
              max={50}
              value={draft.volumeTolerance * 100}
              onChange={(percent) => change({ volumeTolerance: percent / 100 })}
            />
          </>
        ) : (
          <>
            <QuantityField
              label="Meter reads"
              optional
              quantity="flow"
              range={RANGES.flow}
              value={draft.meterFlow}
              onChange={(meterFlow) => change({ meterFlow })}
            />
            <NumberField
              label="Meter ±"
              visibleLabel
              suffix="%"
              min={0}
              max={50}
              value={draft.meterTolerance * 100}
              onChange={(percent) => change({ meterTolerance: percent / 100 })}
            />
          </>
        )}
      </div>
      {draft.method === "bucket" && (
        <>
          <Stopwatch times={draft.times} onFill={addFill} onChange={(times) => change({ times })} />
          <p className="text-[13px] text-soft">
            Wet the bucket, open the discharge fully, time three fills. Keep hands and cords clear
            of the outlet: a hose under pressure whips.
          </p>
        </>
      )}
    </fieldset>
  );
}

function DischargePart({ draft, change, job, tap }: PartProps & { job: JobDocument; tap: number }) {
  const units = useUnits();
  const compiled = compileLine(job);
  const { pumpIndex } = partsOf(job.path);
  // Past a fork only part of the water goes by a gauge, so the last place is before it.
  const after = job.path.slice(Math.max(pumpIndex, 0));
  const fork = after.findIndex((item) => item.kind === "split");
  const places = (fork < 0 ? after : after.slice(0, fork)).filter(
    (item) => item.kind !== "outlet" && item.kind !== "rise",
  );
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Discharge gauge</legend>
      <div className="grid grid-cols-3 gap-2">
        <QuantityField
          label="Gauge reads"
          optional
          quantity="pressure"
          range={RANGES.pressure}
          value={draft.pressure}
          onChange={(pressure) => change({ pressure })}
        />
        <QuantityField
          label="Full scale"
          quantity="pressure"
          range={RANGES.fullScale}
          value={draft.fullScale}
          onChange={(fullScale) => change({ fullScale })}
        />
        <NumberField
          label="Class, of full scale"
          visibleLabel
          suffix="%"
          min={0}
          max={50}
          value={draft.accuracyClass * 100}
          onChange={(percent) => change({ accuracyClass: percent / 100 })}
        />
      </div>
      <div className="grid grid-cols-[1.9fr_1fr] gap-2">
        <SelectField
          label="Tapped in after"
          visibleLabel
          value={draft.afterItemId}
          onChange={(afterItemId) => change({ afterItemId, elevation: undefined })}
        >
          {places.map((item) => (
            <option key={item.id} value={item.id}>
              {item.kind === "pump" ? "the pump’s port" : itemName(job.path, item.id, units)}
            </option>
          ))}
        </SelectField>
        <QuantityField
          label="Dial’s height"
          quantity="length"
          range={RANGES.elevation}
          value={draft.elevation ?? tap}
          onChange={(elevation) => change({ elevation })}
        />
      </div>
      <p className="text-[13px] text-soft">
        {compiled.kind === "compiled"
          ? "Height above the job’s datum; what lies between pump and gauge is counted at the measured flow. Let the pressure off before opening a joint."
          : "The gauge’s place on the line counts once the line can be solved."}
      </p>
    </fieldset>
  );
}

function SuctionPart({ draft, change, pump, water }: PartProps & { pump: number; water: number }) {
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Suction side</legend>
      <div className="grid grid-cols-3 gap-2">
        <SelectField
          label="Known by"
          visibleLabel
          value={draft.suctionKind}
          onChange={(kind) => change({ suctionKind: kind as ReadingDraft["suctionKind"] })}
        >
          <option value="water-level">Water level</option>
          <option value="gauge">Gauge</option>
        </SelectField>
        {draft.suctionKind === "water-level" ? (
          <>
            <QuantityField
              label="Level while running"
              quantity="length"
              range={RANGES.elevation}
              value={draft.level ?? water}
              onChange={(level) => change({ level })}
            />
            <QuantityField
              label="Level ±"
              quantity="length"
              range={{ ...RANGES.tolerance, what: "The tolerance" }}
              value={draft.levelTolerance}
              onChange={(levelTolerance) => change({ levelTolerance })}
            />
          </>
        ) : (
          <>
            <QuantityField
              label="Reads (− for vacuum)"
              optional
              quantity="pressure"
              range={RANGES.pressure}
              value={draft.suctionPressure}
              onChange={(suctionPressure) => change({ suctionPressure })}
            />
            <QuantityField
              label="Dial’s height"
              quantity="length"
              range={RANGES.elevation}
              value={draft.suctionElevation ?? pump}
              onChange={(suctionElevation) => change({ suctionElevation })}
            />
          </>
        )}
      </div>
    </fieldset>
  );
}

function SpeedPart({ draft, change, rated }: PartProps & { rated: number }) {
  const ratio = draft.speedRatio ?? 1;
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Engine speed</legend>
      <QuantityField
        label="Tachometer reads"
        quantity="speed"
        range={{ min: rated * 0.3, max: rated * 1.3, what: "The speed" }}
        value={ratio * rated}
        onChange={(rpm) => change({ speedRatio: rpm / rated })}
        className="max-w-48"
      />
      <p className="text-[13px] text-soft">
        The rated curve is moved to this speed before comparing. Never run an engine indoors, in a
        pit or by an intake: exhaust kills.
      </p>
    </fieldset>
  );
}

function notCompared(solved: JobSolution, reading: ReadingDocument): string {
  return solved.kind === "solved" && takenOnAnother(solved, reading)
    ? "Taken with another pump"
    : "Not compared";
}

function ReadingList({
  tests,
  job,
  solved,
  jobId,
}: {
  tests: readonly TestWithReadings[];
  job: JobDocument;
  solved: JobSolution;
  jobId: string;
}) {
  const units = useUnits();
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: ["tests", jobId] });
  const rows = tests.flatMap((test) => test.readings.map((reading) => ({ test, reading })));
  if (rows.length === 0)
    return (
      <p className="text-soft">None yet. The first is the one every later year is held against.</p>
    );
  return (
    <ul>
      {rows.map(({ test, reading }) => {
        const comparison = compareReading(job, solved, reading.document);
        const words = comparison && comparisonWords(comparison, units);
        return (
          <li
            key={reading.id}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-center border-t border-rule py-1.5"
          >
            <div>
              <p>
                <span className="plate text-[17px]">
                  {words?.title ?? notCompared(solved, reading.document)}
                </span>{" "}
                <span className="text-[14px] text-soft">
                  {test.document.takenOn}, {test.document.title}
                </span>
              </p>
              {words && <p className="text-[14px]">{words.measured}</p>}
              {reading.document.note && (
                <p className="text-[14px] text-soft">{reading.document.note}</p>
              )}
            </div>
            <IconButton
              label="Delete this reading"
              onClick={() =>
                void api.remove("readings", reading.id).then(
                  async () => {
                    await refresh();
                    toast("Reading deleted.", {
                      action: {
                        label: "Undo",
                        onClick: () => void api.restore("readings", reading.id).then(refresh),
                      },
                    });
                  },
                  (error: Error) => toast.error(error.message),
                )
              }
            >
              <Trash2 size={17} aria-hidden />
            </IconButton>
          </li>
        );
      })}
    </ul>
  );
}
