import { useQueryClient } from "@tanstack/react-query";
import { toast } from "sonner";
import type { ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobSolution } from "#model/solveJob.ts";
import { comparisonWords } from "#words/comparison.ts";
import { api, type TestWithReadings } from "../api/client.ts";
import { useUnits } from "../app/settings.ts";
import { IconButton } from "../ui/Button.tsx";
import { Trash2 } from "../ui/icons.ts";
import { compareReading, takenOnAnother } from "./measuredPoints.ts";

function notCompared(solved: JobSolution, reading: ReadingDocument): string {
  return solved.kind === "solved" && takenOnAnother(solved, reading)
    ? "Taken with another pump"
    : "Not compared";
}

/** Every reading ever taken on the job, held against its curve; a deleted one can be brought back. */
export function ReadingList({
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
