import { useQueries, useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useParams } from "react-router";
import type { JobDocument } from "#contract/documents/job.ts";
import { formatUncertain } from "#contract/units/format.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import type { PumpYears, Visit, YearRow } from "#model/measurement/years.ts";
import { ACCEPTANCE } from "#words/comparison.ts";
import { crossingWords, doubtfulPercent } from "#words/fieldTests.ts";
import { itemName } from "#words/items.ts";
import type { TestWithReadings } from "../api/client.ts";
import { oneOf, revisionOf, testsOf } from "../api/queries.ts";
import { YearsPlot } from "../charts/YearsPlot.tsx";
import { pumpItems } from "../openJob/jobStore.ts";
import { useResult } from "../openJob/useResult.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";

/** Every visit to a job on one sheet: as judged on its day, as judged today, and where it is going. */
export default function YearsPage() {
  const { id = "" } = useParams();
  const job = useQuery(oneOf("jobs", id));
  const tests = useQuery(testsOf(id));
  if (job.isError) return <Trouble error={job.error} onRetry={() => void job.refetch()} />;
  if (tests.isError) return <Trouble error={tests.error} onRetry={() => void tests.refetch()} />;
  if (!job.data || !tests.data) return <Loading what="the visits" />;
  return <Years id={id} job={job.data.document} revision={job.data.revision} tests={tests.data} />;
}

/** The revision of the job that the readings of a visit were taken on, the newest of them. */
function revisionThen({ readings }: TestWithReadings): number {
  return Math.max(0, ...readings.map(({ document }) => document.jobRevision ?? 0));
}

function Years({
  id,
  job,
  revision,
  tests,
}: {
  id: string;
  job: JobDocument;
  revision: number;
  tests: readonly TestWithReadings[];
}) {
  const units = useUnits();
  const older = [...new Set(tests.map(revisionThen))].filter((own) => own > 0 && own !== revision);
  const jobs = useQueries({ queries: older.map((own) => revisionOf("jobs", id, own)) });
  const ready = jobs.every(({ isSuccess, isError }) => isSuccess || isError);
  const visits = useMemo(
    (): Visit[] =>
      tests.map((test) => {
        const then = jobs[older.indexOf(revisionThen(test))]?.data?.document;
        const { takenOn, title, limits } = test.document;
        const readings = test.readings.map((own) => ({ id: own.id, document: own.document }));
        return { id: test.id, takenOn, title, readings, limits, jobThen: then };
      }),
    [tests, ready],
  );
  const calculation = useResult("years", { job, visits });
  const years = calculation.stale ? { ...calculation, value: undefined } : calculation;
  const pumps = pumpItems(job.path);
  return (
    <div className="relative h-full overflow-y-auto print:h-auto print:overflow-visible">
      <div className="mx-auto grid max-w-4xl gap-4 p-4 print:p-0">
        <div className="no-print flex flex-wrap items-center gap-3">
          <Link to={`/jobs/${id}/measure`} className="underline">
            Back to the job
          </Link>
          <span className="flex-1" />
          <Button look="strong" onClick={() => print()}>
            Print
          </Button>
        </div>
        <h1 className="text-3xl">{job.name}: over the years</h1>
        {years.kind === "failed" && <p className="text-signal">{years.error}</p>}
        {!years.value && years.kind !== "failed" && <Loading what="the years" />}
        {years.value?.length === 0 && (
          <p className="text-soft">
            No visit has a reading with a gauge that can be held against a pump of this job yet.
          </p>
        )}
        {years.value?.map((own) => (
          <section key={own.at} aria-label={itemName(job.path, pumps[own.at]?.id ?? "", units)}>
            {pumps.length > 1 && (
              <h2 className="text-xl">{itemName(job.path, pumps[own.at]?.id ?? "", units)}</h2>
            )}
            <p className="text-lg font-medium" data-crossing={own.trend?.crossing.kind ?? "none"}>
              {crossingWords(own.rows.filter(({ today }) => today).length, own.limit, own.trend)}
            </p>
            <div className="mt-2 h-72 border border-rule bg-sheet print:h-56">
              <YearsPlot years={own} label={`Strength over the years, ${job.name}`} />
            </div>
            <Table own={own} {...{ units }} />
          </section>
        ))}
        <p className="text-[13px] text-soft">
          ± to about 95 %. “On its day” is by the job as it was saved when the readings were taken,
          “today” by the job as it is now. The straight line weighs each visit by its doubt.
        </p>
      </div>
    </div>
  );
}

function Table({ own, units }: { own: PumpYears; units: "us" | "metric" }) {
  const said = (strength: YearRow["today"]) =>
    strength
      ? `${doubtfulPercent(strength)}${strength.acceptance ? `, ${ACCEPTANCE[strength.acceptance].toLowerCase()}` : ""}`
      : "no gauge";
  return (
    <div className="overflow-x-auto">
      <table className="mt-3 w-full min-w-[38rem] text-[15px]">
        <caption className="pb-1 text-left text-[13px] text-soft">
          Its heads, of the published ones
        </caption>
        <thead>
          <tr className="text-left text-[13px] text-soft">
            {["Day", "Visit", "Flow, open", "On its day", "Today"].map((name) => (
              <th key={name} className="pr-4 font-normal">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {own.rows.map(({ id, takenOn, title, openFlow, onItsDay, today }) => (
            <tr key={id} className="border-t border-rule align-top">
              <td className="py-1 pr-4 whitespace-nowrap">{takenOn}</td>
              <td className="py-1 pr-4">{title}</td>
              <td className="py-1 pr-4 whitespace-nowrap">
                {openFlow &&
                  formatUncertain(
                    openFlow.value,
                    COVERAGE * openFlow.standardUncertainty,
                    "flow",
                    units,
                  )}
              </td>
              <td className="py-1 pr-4">{said(onItsDay)}</td>
              <td className="py-1">{said(today)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
