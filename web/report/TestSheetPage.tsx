import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import type { JobDocument } from "#contract/documents/job.ts";
import { endOf } from "#model/job/sectionGeometry.ts";
import { readingsCsv } from "#report/readingsTable.ts";
import { testSheet } from "#report/testSheet.ts";
import type { TestWithReadings } from "../api/client.ts";
import { oneOf, testsOf } from "../api/queries.ts";
import { CurvePlot } from "../charts/CurvePlot.tsx";
import { measuredPoints } from "../charts/measuredPoints.ts";
import { chartSvg } from "../charts/plotly.ts";
import { Section } from "../drawings/Section.tsx";
import { useInstruments } from "../instruments/useInstruments.ts";
import { downloadBlob, downloadText } from "../lib/downloadText.ts";
import { onPage } from "../openJob/results.ts";
import { useVisit } from "../stages/measure/useVisit.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";
import { toast } from "../ui/toast.ts";
import { Blocks } from "./Blocks.tsx";
import { pdfOf, svgOf } from "./pdf.ts";

/** A test on one sheet: to read, to print, as a PDF, and its raw readings to take elsewhere. */
export default function TestSheetPage() {
  const { id = "", test: testId } = useParams();
  const job = useQuery(oneOf("jobs", id));
  const tests = useQuery(testsOf(id));
  if (job.isError) return <Trouble error={job.error} onRetry={() => void job.refetch()} />;
  if (tests.isError) return <Trouble error={tests.error} onRetry={() => void tests.refetch()} />;
  if (!job.data || !tests.data) return <Loading what="the test" />;
  const test = tests.data.find((own) => own.id === testId);
  if (!test) return <Empty title="There is no such test">The job has the others.</Empty>;
  return <Sheet id={id} job={job.data.document} test={test} />;
}

function Sheet({ id, job, test }: { id: string; job: JobDocument; test: TestWithReadings }) {
  const units = useUnits();
  const instruments = useInstruments();
  const solved = onPage.look({ job })("solved");
  const { readings, judged, installed } = useVisit(job, test);
  const sheet = useMemo(
    () => testSheet(job, solved, test.document, readings, judged.value ?? [], instruments, units),
    [job, solved, test, readings, judged.value, instruments, units],
  );
  const place = judged.value?.[0]?.at ?? 0;
  const measured = useMemo(() => measuredPoints(solved, [test], place), [solved, test, place]);
  const on = solved.kind === "solved" ? solved.solution.pumps[place] : undefined;
  const curveOf = useMemo(
    () => (solved.kind === "solved" ? { solution: solved.solution, place } : undefined),
    [solved, place],
  );
  const gauges = useMemo(() => {
    const seen = new Map<
      string,
      { at: NonNullable<ReturnType<typeof endOf>>; dial: number; label: string }
    >();
    for (const { document } of readings) {
      const { discharge } = document;
      const at = discharge && endOf(solved, discharge.afterItemId);
      if (at)
        seen.set(`${discharge.afterItemId} ${discharge.elevation}`, {
          at,
          dial: discharge.elevation,
          label: "gauge",
        });
    }
    return [...seen.values()];
  }, [readings, solved]);
  const section = useRef<HTMLDivElement>(null);
  const curve = useRef<HTMLDivElement>(null);
  const [making, setMaking] = useState(false);
  const name = `${test.document.takenOn}-${test.document.title}`
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-");

  async function pdf(): Promise<void> {
    setMaking(true);
    try {
      const drawn = [
        { svg: svgOf(section.current), width: 0.5 },
        { svg: await chartSvg(curve.current), width: 0.5 },
      ].flatMap(({ svg, width }) => (svg ? [{ svg, width }] : []));
      const title = `${test.document.title}, ${test.document.takenOn}`;
      downloadBlob(`${name}.pdf`, await pdfOf(title, [sheet.head, drawn, sheet.found, sheet.rest]));
    } catch (error) {
      toast.error(`The PDF could not be made: ${(error as Error).message}`);
    } finally {
      setMaking(false);
    }
  }

  return (
    <div className="relative h-full overflow-y-auto print:h-auto print:overflow-visible">
      <div className="mx-auto max-w-4xl p-4 print:p-0 print:text-[12px]" aria-busy={judged.stale}>
        <div className="no-print flex flex-wrap items-center gap-2 pb-3">
          <Link to={`/jobs/${id}/measure`} className="underline">
            Back to the job
          </Link>
          <span className="flex-1" />
          <Button onClick={() => downloadText(`${name}.csv`, readingsCsv(readings), "text/csv")}>
            Readings as CSV
          </Button>
          <Button
            onClick={() =>
              downloadText(
                `${name}.json`,
                JSON.stringify({ test: test.document, readings }, null, 2),
                "application/json",
              )
            }
          >
            as JSON
          </Button>
          <Button onClick={() => print()}>Print</Button>
          <Button
            look="strong"
            disabled={making || judged.value === undefined}
            onClick={() => void pdf()}
          >
            PDF
          </Button>
        </div>
        <Blocks blocks={sheet.head} />
        <div className="mt-2 grid gap-2 sm:grid-cols-2 print:grid-cols-2">
          <div ref={section} className="h-66 border border-rule bg-sheet" aria-hidden>
            <Section {...{ job, solved, gauges }} selected={undefined} onPart={() => undefined} />
          </div>
          <div ref={curve} className="h-66 border border-rule bg-sheet">
            {on && curveOf && (
              <CurvePlot
                of={on}
                on={curveOf}
                measured={measured}
                installed={installed?.find((own) => own.place === place)}
                label={`Curve sheet of ${test.document.title}`}
              />
            )}
          </div>
        </div>
        <Blocks blocks={sheet.found} />
        <Blocks blocks={sheet.rest} />
      </div>
    </div>
  );
}
