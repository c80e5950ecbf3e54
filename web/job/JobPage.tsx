import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useCallback, useEffect, useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { toast } from "sonner";
import { format } from "#contract/units/format.ts";
import type { Severity } from "#core/check/check.ts";
import { settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { JobSolution } from "#model/solveJob.ts";
import { oneOf } from "../api/queries.ts";
import { useUnits } from "../app/settings.ts";
import { MeasurePane } from "../measure/MeasurePane.tsx";
import { Unsaved } from "../outbox/Unsaved.tsx";
import { useUnsaved } from "../outbox/useHeld.ts";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";
import { putOnBench, startAutosave } from "./autosave.ts";
import { ChangesSheet } from "./ChangesSheet.tsx";
import { ConflictDialog } from "./ConflictDialog.tsx";
import { DutyPanel } from "./DutyPanel.tsx";
import { HeadLedger } from "./HeadLedger.tsx";
import { JobHeader } from "./JobHeader.tsx";
import { openJob, partOf, redo, undo, useJobStore } from "./jobStore.ts";
import { PartInHand } from "./PartInHand.tsx";
import type { Part } from "./part.ts";
import { Section } from "./Section.tsx";
import { SizeSheet } from "./SizeSheet.tsx";
import { useBand } from "./useBand.ts";
import { useJobAfterPaint } from "./useJobAfterPaint.ts";
import { useSolution } from "./useSolution.ts";
import { Working } from "./Working.tsx";

const CurveSheet = lazy(() => import("./CurveSheet.tsx"));

/** Loads a job onto the bench and keeps it saved. */
export default function JobPage() {
  const { id = "" } = useParams();
  const query = useQuery({
    ...oneOf("jobs", id),
    staleTime: 0,
  });
  const onBench = useJobStore((s) => s.id);
  const stored = query.data;

  useEffect(() => {
    if (!stored) return;
    const bench = useJobStore.getState();
    let wanted = true;
    if (bench.id !== stored.id) void putOnBench(stored, () => wanted);
    else if (stored.revision > bench.revision && bench.saved.kind === "saved") {
      openJob(stored);
      toast("This job was changed somewhere else; you see the newest.");
    }
    return () => {
      wanted = false;
    };
  }, [stored]);
  useEffect(() => {
    const stop = startAutosave();
    return () => {
      stop();
      useJobStore.setState({ id: "" });
    };
  }, []);
  // Moving from one job straight to another takes the old one off the bench first.
  useEffect(() => {
    if (useJobStore.getState().id !== id) useJobStore.setState({ id: "" });
  }, [id]);

  if (query.isError) {
    return "status" in query.error && query.error.status === 404 ? (
      <NoSuchJob id={id} />
    ) : (
      <Trouble error={query.error} onRetry={() => void query.refetch()} />
    );
  }
  if (onBench !== id || !id) return <Loading what="the job" />;
  return <Bench />;
}

/** A job that is gone, with what this device still holds of it. */
function NoSuchJob({ id }: { id: string }) {
  return (
    <div className="mx-auto max-w-3xl p-4">
      <Unsaved held={useUnsaved(id)} linked={false} />
      <Empty title="There is no such job">
        It may have been deleted. The list of jobs is under “Jobs”.
      </Empty>
    </div>
  );
}

const VIEWS = [
  { value: "ledger", name: "Head ledger" },
  { value: "sizes", name: "Sizes" },
  { value: "curve", name: "Curve sheet" },
  { value: "changes", name: "Changes" },
] as const;
const PARTS: readonly { part: Part; name: string }[] = [
  { part: "source", name: "Source" },
  { part: "suction", name: "Suction" },
  { part: "pump", name: "Pump" },
  { part: "discharge", name: "Discharge" },
  { part: "outlet", name: "Outlet" },
];

function Bench() {
  const job = useJobAfterPaint();
  const { solved, sizeUps } = useSolution(job);
  const band = useBand(job);
  const [params, setParams] = useSearchParams();
  const measuring = useParams().step === "measure";
  const part = PARTS.find((p) => p.part === params.get("part"))?.part ?? "discharge";
  const view = VIEWS.find(({ value }) => value === params.get("view"))?.value ?? "ledger";
  const [selected, setSelected] = useState<string>();

  const show = useCallback(
    (change: Record<string, string>) =>
      setParams(
        (before) => {
          const next = new URLSearchParams(before);
          for (const [key, value] of Object.entries(change)) next.set(key, value);
          return next;
        },
        { replace: true },
      ),
    [setParams],
  );
  const onPart = useCallback(
    (next: Part, itemId?: string) => {
      show({ part: next });
      setSelected(itemId);
    },
    [show],
  );
  const onItem = useCallback(
    (itemId: string) => {
      onPart(partOf(job.path, itemId), itemId);
    },
    [job.path, onPart],
  );

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const command = event.ctrlKey || event.metaKey;
      if (command && event.key.toLowerCase() === "z") {
        event.preventDefault();
        if (event.shiftKey) redo();
        else undo();
        return;
      }
      if (command && event.key.toLowerCase() === "y") {
        event.preventDefault();
        redo();
        return;
      }
      const typing =
        event.target instanceof HTMLElement &&
        event.target.closest("input, textarea, select, [role=dialog]");
      if (typing || command || event.altKey || measuring) return;
      const digit = PARTS[Number(event.key) - 1];
      if (digit) show({ part: digit.part });
      if (event.key === "l") show({ view: "ledger" });
      if (event.key === "s") show({ view: "sizes" });
      if (event.key === "c") show({ view: "curve" });
      if (event.key === "g") show({ view: "changes" });
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [measuring, show]);

  return (
    <div className="flex h-full min-h-0 flex-col print:block print:h-auto">
      <JobHeader measuring={measuring} />
      {measuring ? (
        <MeasurePane {...{ job, solved }} band={currentBand(band)} />
      ) : (
        <div className="relative min-h-0 flex-1 print:block max-lg:flex max-lg:flex-col max-lg:overflow-y-auto max-lg:*:shrink-0 lg:grid lg:grid-cols-[minmax(0,1.06fr)_minmax(0,0.94fr)_322px] lg:grid-rows-[minmax(180px,37%)_minmax(0,1fr)]">
          <section
            aria-label="Section"
            className="h-60 border-b border-rule bg-sheet lg:col-span-2 lg:h-auto print:h-64"
          >
            <Section {...{ job, solved, selected, onPart }} />
          </section>
          <section
            id={DUTY}
            aria-label="Duty and checks"
            className="border-b border-rule max-lg:order-3 lg:col-start-3 lg:row-span-2 lg:row-start-1 lg:overflow-y-auto lg:border-b-0 lg:border-l"
          >
            <DutyPanel {...{ solved, job, band, onItem }} />
          </section>
          <section
            aria-label="Part in hand"
            className="flex flex-col border-b border-rule max-lg:order-2 lg:min-h-0 lg:border-b-0"
          >
            <Switch
              label="Part in hand"
              options={PARTS.map(({ part: value, name }) => ({ value, name }))}
              value={part}
              onChange={(value) => onPart(value as Part)}
            />
            <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
              <PartInHand {...{ part, solved, selected }} onSelect={setSelected} />
            </div>
          </section>
          <section
            aria-label="Ledger, sizes or curve"
            className="flex flex-col max-lg:order-4 lg:min-h-0 lg:border-l lg:border-rule"
          >
            <Switch
              label="Ledger, sizes or curve"
              options={VIEWS}
              value={view}
              onChange={(value) => show({ view: value })}
            />
            <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
              {view === "ledger" && <HeadLedger {...{ solved, sizeUps, job, onItem }} />}
              {view === "sizes" && (
                <SizeSheet {...{ job, selected }} asked={solved.kind === "asked"} />
              )}
              {view === "changes" && <ChangesSheet {...{ job, solved }} />}
              {view === "curve" && (
                <Suspense fallback={<Loading what="the curve" />}>
                  <div className="h-90 lg:h-full">
                    <CurveSheet {...{ solved, job }} band={settledBand(band)} />
                  </div>
                </Suspense>
              )}
            </div>
          </section>
          <DutyStrip solved={solved} />
        </div>
      )}
      <ConflictDialog />
      <Working {...{ job, solved }} />
    </div>
  );
}

/** The band to draw: only one that is there. */
function settledBand({ value }: ReturnType<typeof useBand>) {
  return value?.kind === "band" ? value : undefined;
}

/** The band to judge by: only one that belongs to the job as it stands. */
function currentBand(band: ReturnType<typeof useBand>) {
  return band.stale ? undefined : settledBand(band);
}

/** On a phone the duty and what stands against it stay in sight while rows are typed; a tap brings both up whole. */
function DutyStrip({ solved }: { solved: JobSolution }) {
  const units = useUnits();
  const known = solved.kind === "refused" ? undefined : solved;
  const normal = known?.solution.cases.normal;
  const duty = normal && settledDuty(normal.outcome);
  const flow = normal?.running?.state.delivered ?? duty?.flow;
  const count = (which: Severity) =>
    known?.judgements.filter(({ severity }) => severity === which).length ?? 0;
  const said = [
    [count("stop"), "stop"],
    [count("watch"), "watch"],
  ].flatMap(([many, word]) => (many ? [`${many} ${word}`] : []));
  return (
    <button
      type="button"
      aria-label="Duty and checks"
      onClick={() => document.getElementById(DUTY)?.scrollIntoView({ block: "start" })}
      className="no-print sticky bottom-0 order-5 z-10 flex min-h-11 items-center justify-between gap-3 border-t border-rule bg-ink px-3 py-1.5 text-left text-paper lg:hidden"
    >
      <span className="plate text-2xl">
        {duty && flow !== undefined
          ? `${format(flow, "flow", units)} at ${format(duty.head, "head", units)}`
          : "No duty yet"}
        {known?.kind === "asked" && " asked"}
      </span>
      <span className="plate text-lg whitespace-nowrap">{said.join(", ")}</span>
    </button>
  );
}

/** Where the duty stands on the page. */
const DUTY = "duty-and-checks";

function Switch({
  label,
  options,
  value,
  onChange,
}: {
  label: string;
  options: readonly { value: string; name: string }[];
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <div
      role="group"
      aria-label={label}
      className="flex shrink-0 overflow-x-auto border-b border-rule bg-press"
    >
      {options.map((option) => (
        <button
          key={option.value}
          type="button"
          aria-pressed={option.value === value}
          onClick={() => onChange(option.value)}
          className={`target plate flex-1 px-2.5 text-[17px] whitespace-nowrap ${
            option.value === value
              ? "bg-paper shadow-[inset_0_3px_0_var(--water)]"
              : "text-soft hover:text-ink"
          }`}
        >
          {option.name}
        </button>
      ))}
    </div>
  );
}
