import { Link } from "react-router";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import type { TestWithReadings } from "../../api/client.ts";
import type { Owner } from "../../openJob/owner.ts";
import type { Entry } from "../../outbox/outbox.ts";
import { ChevronDown, ChevronRight } from "../../ui/icons.ts";
import { ReadingList } from "./ReadingList.tsx";

/** Every visit to the job, the newest first; the readings of the one in view lie open. */
export function Visits({
  tests,
  inView,
  onView,
  ...list
}: {
  tests: readonly TestWithReadings[];
  inView: string | undefined;
  onView: (id: string) => void;
  held: readonly Entry[];
  solved: JobSolution;
  job: JobDocument;
  owner: Owner;
  outliers: ReadonlyMap<string, number>;
}) {
  if (tests.every(({ readings }) => readings.length === 0)) {
    return (
      <p className="text-soft">None yet. The first is the one every later year is held against.</p>
    );
  }
  return (
    <ul>
      {newestFirst(tests).map((test) => {
        const open = test.id === inView;
        const count = test.readings.length;
        const Mark = open ? ChevronDown : ChevronRight;
        return (
          <li key={test.id} className="border-t border-rule">
            <button
              type="button"
              aria-expanded={open}
              className="target flex w-full items-center gap-1.5 py-1 text-left hover:bg-press"
              onClick={() => onView(test.id)}
            >
              <Mark size={17} aria-hidden className="shrink-0" />
              <span className="plate text-[17px]">{test.document.takenOn}</span>
              <span className="flex-1">{test.document.title}</span>
              <span className="text-[14px] text-soft">
                {count} {count === 1 ? "reading" : "readings"}
              </span>
            </button>
            {open && test.revision > 0 && list.owner.of === "jobs" && (
              <p className="flex flex-wrap gap-3 pb-1 pl-6">
                <Link
                  to={`/jobs/${list.owner.id}/tests/${test.id}`}
                  className="target inline-flex items-center underline"
                >
                  Test sheet
                </Link>
              </p>
            )}
            {open && test.document.note && (
              <p className="pb-1 pl-6 text-[14px] text-soft">{test.document.note}</p>
            )}
            {open && <ReadingList tests={[test]} {...list} />}
          </li>
        );
      })}
    </ul>
  );
}

/** The newest visit first; of one day, the one begun last. */
export function newestFirst(tests: readonly TestWithReadings[]): TestWithReadings[] {
  const begun = ({ document, readings }: TestWithReadings) =>
    [document.takenOn, ...readings.map((own) => own.document.takenAt)].toSorted().at(-1) ?? "";
  return tests.toSorted((a, b) => begun(b).localeCompare(begun(a)));
}
