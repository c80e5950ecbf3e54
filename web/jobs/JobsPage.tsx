import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { JobSummary } from "#contract/api/api.ts";
import { OWED, type Owed, owedNext } from "#model/job/owed.ts";
import { api } from "../api/client.ts";
import { allJobs, queries } from "../api/queries.ts";
import { Unsaved } from "../outbox/Unsaved.tsx";
import { useUnsaved } from "../outbox/useHeld.ts";
import { deletedToast } from "../ui/deletedToast.ts";
import { SelectField } from "../ui/Fields.tsx";
import { Plus } from "../ui/icons.ts";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";
import { toast } from "../ui/toast.ts";
import { useLongList } from "../ui/useLongList.ts";
import { JobCard } from "./JobCard.tsx";
import { OpenFile } from "./OpenFile.tsx";

/** What the jobs of a column are owed, and what that means. */
const COLUMNS: Record<Owed, { name: string; means: string }> = {
  survey: { name: "To survey", means: "a measure or the flow is missing" },
  choose: { name: "To choose", means: "the line is known, the pump is not" },
  mend: { name: "To mend", means: "something stops it, or it measured short" },
  measure: { name: "To measure", means: "worked out, not proven yet" },
  nothing: { name: "Measured", means: "nothing is owed" },
};

const SORTS = {
  changed: "Last changed",
  name: "Name",
  place: "Place",
  customer: "Customer",
} as const;
type Sort = keyof typeof SORTS;

/** The board begins with the jobs. */
export const prepare = async (): Promise<boolean> => {
  await queries.ensureQueryData(allJobs);
  return true;
};

/** Every job, by what it is owed next. */
export default function JobsPage() {
  const jobs = useQuery(allJobs);
  const [params, setParams] = useSearchParams();
  const [search, setSearch] = useState(params.get("q") ?? "");
  const asked = params.get("sort");
  const sort = asked !== null && asked in SORTS ? (asked as Sort) : "changed";
  const client = useQueryClient();

  // The address follows once typing rests.
  const inAddress = params.get("q") ?? "";
  useEffect(() => {
    if (search === inAddress) return;
    const timer = setTimeout(() => setParams((before) => put(before, "q", search), REPLACE), 300);
    return () => clearTimeout(timer);
  }, [search, inAddress, setParams]);

  const remove = useCallback(
    async (job: JobSummary): Promise<void> => {
      const refresh = () => client.invalidateQueries({ queryKey: allJobs.queryKey });
      try {
        await api.remove("jobs", job.id);
        await refresh();
        deletedToast(`“${job.name}” deleted.`, () => api.restore("jobs", job.id).then(refresh));
      } catch (error) {
        toast.error((error as Error).message);
      }
    },
    [client],
  );
  const onRemove = useCallback((job: JobSummary) => void remove(job), [remove]);

  const words = useDeferredValue(search);
  const found = useMemo(
    () => sorted((jobs.data ?? []).filter(says(words)), sort),
    [jobs.data, words, sort],
  );
  const columns = useMemo(() => columnsOf(found), [found]);
  const [chosen, setChosen] = useState<Owed>();
  const shown = columns.find(({ owed }) => owed === chosen)?.owed ?? columns[0]?.owed;

  return (
    <div className="relative flex h-full flex-col px-4 pt-3 max-sm:px-2">
      <div className="flex flex-wrap items-end gap-2 pb-3">
        <h1 className="text-3xl max-sm:sr-only">Jobs</h1>
        <Link
          to="/new"
          className="target plate inline-flex items-center gap-1.5 rounded bg-water px-4 text-[19px] text-paper hover:opacity-90 max-sm:flex-1 max-sm:justify-center"
        >
          <Plus size={18} aria-hidden /> New job
        </Link>
        <OpenFile />
        <span className="max-sm:basis-full sm:flex-1" />
        {jobs.data && jobs.data.length > 0 && (
          <>
            <label className="w-64 max-sm:w-auto max-sm:flex-1">
              <span className="sr-only">Search the jobs</span>
              <input
                type="search"
                className="entry target"
                placeholder="Name, place, customer, pump"
                value={search}
                onChange={(event) => setSearch(event.target.value)}
              />
            </label>
            <SelectField
              label="Sorted by"
              className="w-36"
              value={sort}
              onChange={(value) =>
                setParams(
                  (before) => put(before, "sort", value === "changed" ? "" : value),
                  REPLACE,
                )
              }
            >
              {Object.entries(SORTS).map(([value, name]) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </SelectField>
          </>
        )}
      </div>
      <Unsaved held={useUnsaved()} linked />
      {jobs.isPending && <Loading what="the jobs" />}
      {jobs.isError && !jobs.data && (
        <Trouble error={jobs.error} onRetry={() => void jobs.refetch()} />
      )}
      {jobs.data?.length === 0 && (
        <Empty title="No jobs yet">
          <p>
            A job holds what you measured at the hole, the line, the pump, and what came out in the
            end. It begins with what the customer says: what is the water to do?
          </p>
        </Empty>
      )}
      {jobs.data && jobs.data.length > 0 && found.length === 0 && (
        <Empty title="No job says that">
          <p>
            None of the {jobs.data.length} jobs has “{words}” in its name, place, customer or pumps.
          </p>
        </Empty>
      )}
      {columns.length > 1 && (
        <div role="group" aria-label="Owed next" className="flex overflow-x-auto sm:hidden">
          {columns.map(({ owed, own }) => (
            <button
              key={owed}
              type="button"
              aria-pressed={owed === shown}
              onClick={() => setChosen(owed)}
              className={`target plate px-2.5 text-[17px] whitespace-nowrap ${owed === shown ? "bg-press shadow-[inset_0_3px_0_var(--water)]" : "text-soft"}`}
            >
              {COLUMNS[owed].name} {own.length}
            </button>
          ))}
        </div>
      )}
      <section
        aria-label="Jobs"
        className="flex min-h-0 flex-1 gap-3 overflow-x-auto empty:hidden max-sm:overflow-x-hidden"
      >
        {columns.map(({ owed, own }) => (
          <Column
            key={owed}
            {...{ owed, onRemove }}
            jobs={own}
            className={owed === shown ? "" : "max-sm:hidden"}
          />
        ))}
      </section>
    </div>
  );
}

function Column({
  owed,
  jobs,
  onRemove,
  className,
}: {
  owed: Owed;
  jobs: readonly JobSummary[];
  onRemove: (job: JobSummary) => void;
  className: string;
}) {
  const list = useRef<HTMLUListElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  // Cards are of one height: none has to be measured.
  const { indexes, before, after } = useLongList(list, jobs.length, CARD, scroller);
  const { name, means } = COLUMNS[owed];
  return (
    <div
      className={`flex max-w-100 min-w-58 flex-1 flex-col max-sm:max-w-none max-sm:min-w-0 ${className}`}
    >
      <h2 className="plate border-b-2 border-ink pb-0.5 text-[21px] max-sm:sr-only">
        {name} <span className="text-soft">{jobs.length}</span>
      </h2>
      <p className="py-1 text-[13px] text-soft">{means}</p>
      <div ref={scroller} className="relative min-h-0 flex-1 overflow-y-auto">
        <ul ref={list} aria-label={name} style={{ paddingTop: before, paddingBottom: after }}>
          {indexes.map((index) => {
            const job = jobs[index] as JobSummary;
            return (
              <li key={job.id} className="h-49">
                <JobCard {...{ job, onRemove }} />
              </li>
            );
          })}
        </ul>
      </div>
    </div>
  );
}

/** px of a card with the gap under it */
const CARD = 196;

const REPLACE = { replace: true };

function put(params: URLSearchParams, key: string, value: string): URLSearchParams {
  const next = new URLSearchParams(params);
  if (value) next.set(key, value);
  else next.delete(key);
  return next;
}

/** The jobs by what they are owed; a column that would be empty is none. */
function columnsOf(jobs: readonly JobSummary[]) {
  const told = jobs.map((job) => ({ job, next: owedNext(job) }));
  return OWED.flatMap((owed) => {
    const own = told.flatMap(({ job, next }) => (next === owed ? [job] : []));
    return own.length > 0 ? [{ owed, own }] : [];
  });
}

/** Whether every word typed stands somewhere in a job's name, place, customer or pumps. */
function says(words: string): (job: JobSummary) => boolean {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  return ({ name, place, customer, pumps }) => {
    const all = [name, place, customer, ...pumps].join(" ").toLowerCase();
    return wanted.every((word) => all.includes(word));
  };
}

/** By a name that may be missing: those without come last. The server gives the last changed first. */
function sorted(jobs: JobSummary[], by: Sort): JobSummary[] {
  if (by === "changed") return jobs;
  const order = new Intl.Collator(undefined, { numeric: true });
  return jobs.toSorted(
    (a, b) => Number(a[by] === "") - Number(b[by] === "") || order.compare(a[by], b[by]),
  );
}
