import { queryOptions, useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { lazy, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import type { BandResult } from "#core/condition/uncertainty.ts";
import { lineKnown } from "#model/job/assumed.ts";
import { Unreachable } from "../api/client.ts";
import { keyOf, queries } from "../api/queries.ts";
import { DerivationLink } from "../derivation/DerivationLink.tsx";
import { Section } from "../drawings/Section.tsx";
import { SectionStrip } from "../drawings/SectionStrip.tsx";
import { Decisions } from "../duty/Decisions.tsx";
import { DutyPanel } from "../duty/DutyPanel.tsx";
import { DUTY, DutyStrip } from "../duty/DutyStrip.tsx";
import { HeadLedger } from "../duty/HeadLedger.tsx";
import { atRest } from "../lib/atRest.ts";
import { Fetched } from "../lib/Fetched.tsx";
import { fetchModules, modulesOf } from "../lib/fetchModules.ts";
import { shrinkHeads } from "../lib/heads.ts";
import { jobToOpen, putOnBench, putOnBenchAsStored, startAutosave } from "../openJob/autosave.ts";
import { openJob, partOf, redo, undo, useJobStore } from "../openJob/jobStore.ts";
import type { Owner } from "../openJob/owner.ts";
import { type Part, STAGES, type Stage } from "../openJob/part.ts";
import { solveAhead } from "../openJob/results.ts";
import { useJobAfterPaint } from "../openJob/useJobAfterPaint.ts";
import { type Result, useResult } from "../openJob/useResult.ts";
import { useSolution } from "../openJob/useSolution.ts";
import { Unsaved } from "../outbox/Unsaved.tsx";
import { useUnsaved } from "../outbox/useHeld.ts";
import { IRRIGATION_VIEWS } from "../stages/irrigation/views.ts";
import { WELL_VIEWS } from "../stages/well/views.ts";
import { useSettings } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";
import { Switch } from "../ui/Switch.tsx";
import { toast } from "../ui/toast.ts";
import { JobHeader } from "./JobHeader.tsx";
import { loadPart, PartInHand } from "./PartInHand.tsx";
import { loadView, VIEWS, viewAt, viewsAt, whatIf } from "./views.ts";

// Only what the first view shows is fetched with the page; the rest when it is first looked at, or once the page rests.
const ConflictDialog = lazy(() => import("./ConflictDialog.tsx"));
const MeasurePane = lazy(() => import("../stages/measure/MeasurePane.tsx"));
const SizeSheet = lazy(VIEWS.sizes.load);
const CurveSheet = lazy(VIEWS.curve.load);
const TimePane = lazy(VIEWS.time.load);
const DrivingPane = lazy(VIEWS.driving.load);
const TogetherPane = lazy(VIEWS.together.load);
const ChangesSheet = lazy(VIEWS.changes.load);
const WhatIfPane = lazy(whatIf);
const ground = () => import("../stages/irrigation/IrrigationPane.tsx");
const well = () => import("../stages/well/WellPane.tsx");
const IrrigationPane = lazy(ground);
const WellPane = lazy(well);

const opened = (id: string) =>
  queryOptions({ queryKey: keyOf("jobs", id), queryFn: () => jobToOpen(id), staleTime: 0 });

/** A job is on the bench before its page is drawn, unless this device holds something of its own of it. */
export async function prepare(search: URLSearchParams, id = "", step?: string): Promise<boolean> {
  const { stage, part } = whereAt(step, search.get("part"));
  const ofItsOwn = stage === "ground" ? ground : stage === "well" ? well : undefined;
  const ofLine = ofItsOwn === undefined && stage !== "measure";
  // What is typed into and what is looked at are there with the page.
  if (ofItsOwn) await ofItsOwn();
  if (ofLine) await loadPart(part);
  const stored = await queries.ensureQueryData(opened(id));
  if (ofLine) await loadView(viewAt(stage, stored.document, search));
  const asStored = await putOnBenchAsStored(stored);
  if (asStored) await solveAhead(stored.document);
  return asStored;
}

/** Loads a job onto the bench and keeps it saved. */
export default function JobPage() {
  const { id = "" } = useParams();
  const query = useQuery(opened(id));
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
  // All of it is wanted at the pit, where there may be no network by then.
  useEffect(() => atRest("job", () => fetchModules(modulesOf("later"))), []);
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

  if (query.isError && !(query.data && query.error instanceof Unreachable)) {
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

/** The parts of a job in the order the water meets them, each in the stage it belongs to. */
const PARTS: readonly { part: Part; name: string; stage: Stage }[] = [
  { part: "source", name: "Source", stage: "need" },
  { part: "suction", name: "Suction", stage: "line" },
  { part: "pump", name: "Pump", stage: "pump" },
  { part: "discharge", name: "Discharge", stage: "line" },
  { part: "outlet", name: "Outlet", stage: "line" },
];
const LINE_PARTS = PARTS.filter(({ stage }) => stage === "line").map(({ part, name }) => ({
  value: part,
  name,
}));

/** The stage and the part in hand that an address names; of one without a stage, the part says it. */
function whereAt(step: string | undefined, asked: string | null) {
  const named = PARTS.find(({ part }) => part === asked);
  const stage = STAGES.find((each) => each === step) ?? named?.stage ?? "line";
  const part =
    named?.stage === stage ? named.part : stage === "line" ? "discharge" : FIRST_PART[stage];
  return { stage, part };
}

const FIRST_PART = {
  need: "source",
  well: "source",
  pump: "pump",
  ground: "outlet",
  measure: "discharge",
} as const;

function Bench() {
  const job = useJobAfterPaint();
  const { solved, sizeUps } = useSolution(job);
  const band = useResult("band", { job });
  const [params, setParams] = useSearchParams();
  const navigate = useNavigate();
  const { id, step } = useParams();
  const { stage, part } = whereAt(step, params.get("part"));
  const measuring = stage === "measure";
  // Stages that have the room of the section, and views of their own.
  const ofItsOwn = stage === "ground" || stage === "well";
  const owner = useMemo(
    (): Owner => ({ of: "jobs", id: id ?? "", test: { jobId: id ?? "" } }),
    [id],
  );
  // A job with changes on their way is none of its revisions.
  const conflict = useJobStore((s) => s.saved.kind === "conflict");
  const jobRevision = useJobStore((s) => (s.saved.kind === "saved" ? s.revision : 0));
  const views = viewsAt(stage, job);
  const view = viewAt(stage, job, params);
  const [selected, setSelected] = useState<string>();
  const { sectionFolded, toggleSection } = useSettings();
  const scroller = useRef<HTMLDivElement>(null);
  // A stage begins at its top.
  useEffect(() => {
    if (stage) scroller.current?.scrollTo(0, 0);
    return () => {
      delete document.documentElement.dataset.scrolled;
    };
  }, [stage]);

  const onView = useCallback(
    (next: string) =>
      setParams(
        (before) => {
          const after = new URLSearchParams(before);
          after.set("view", next);
          return after;
        },
        { replace: true },
      ),
    [setParams],
  );
  const onPart = useCallback(
    (next: Part, itemId?: string) => {
      const to = PARTS.find((each) => each.part === next)?.stage ?? "line";
      const search = new URLSearchParams(location.search);
      search.set("part", next);
      // A stage opens on the view that belongs to it.
      if (to !== stage) search.delete("view");
      void navigate(
        { pathname: `/jobs/${id}/${to}`, search: String(search) },
        { replace: to === stage },
      );
      setSelected(itemId);
    },
    [navigate, id, stage],
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
      if (digit) onPart(digit.part);
      if (ofItsOwn) return;
      if (event.key === "l") onView("ledger");
      if (event.key === "s") onView("sizes");
      if (event.key === "c") onView("curve");
      if (event.key === "g") onView("changes");
      if (event.key === "t") onView("time");
      if (event.key === "d") onView("driving");
      if (event.key === "p") onView("together");
      if (event.key === "f") toggleSection();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [measuring, ofItsOwn, onPart, onView, toggleSection]);

  return (
    <div className="flex h-full min-h-0 flex-col print:block print:h-auto">
      <JobHeader stage={stage} />
      <Decisions job={job} />
      {measuring ? (
        <Fetched fallback={<Loading what="the watch" />}>
          <MeasurePane {...{ job, solved, owner, jobRevision }} band={currentBand(band)} />
        </Fetched>
      ) : ofItsOwn ? (
        <div
          ref={scroller}
          onScroll={shrinkHeads}
          className="relative min-h-0 flex-1 print:block max-lg:flex max-lg:flex-col max-lg:overflow-y-auto max-lg:*:shrink-0 lg:grid lg:grid-cols-[348px_minmax(0,1fr)_322px] lg:grid-rows-[minmax(0,1fr)]"
        >
          <Fetched fallback={<Loading what={`the ${stage}`} />}>
            {stage === "ground" ? (
              <IrrigationPane
                {...{ job, onView }}
                view={viewOf(IRRIGATION_VIEWS, params) ?? "field"}
              />
            ) : (
              <WellPane {...{ job, onView }} view={viewOf(WELL_VIEWS, params) ?? "hole"} />
            )}
          </Fetched>
          <section
            id={DUTY}
            aria-label="Duty and checks"
            className="max-lg:order-3 lg:col-start-3 lg:overflow-y-auto lg:border-l lg:border-rule"
          >
            <DutyPanel {...{ solved, job, band, onItem }} />
          </section>
          <DutyStrip {...{ job, solved }} />
        </div>
      ) : (
        <div
          ref={scroller}
          onScroll={shrinkHeads}
          className={clsx(
            "relative min-h-0 flex-1 print:block max-lg:flex max-lg:flex-col max-lg:overflow-y-auto max-lg:*:shrink-0 lg:grid lg:grid-cols-[minmax(0,1.06fr)_minmax(0,0.94fr)_322px]",
            sectionFolded
              ? "lg:grid-rows-[auto_minmax(0,1fr)]"
              : "lg:grid-rows-[minmax(180px,37%)_minmax(0,1fr)]",
          )}
        >
          <section
            aria-label="Section"
            className={clsx(
              "border-b border-rule bg-sheet lg:col-span-2 print:h-64",
              !sectionFolded && "h-60 lg:h-auto",
            )}
          >
            {!lineKnown(job) ? (
              <p className="p-4 pr-20 text-soft">
                Nobody has drawn this line. What stands below is only there to be typed over: the
                drawing follows.
              </p>
            ) : sectionFolded ? (
              <SectionStrip {...{ job, solved }} />
            ) : (
              <Section {...{ job, solved, selected, onPart }} />
            )}
            <Button
              look="quiet"
              className="no-print absolute! top-1 right-1 bg-sheet/80 text-[14px] text-soft"
              aria-expanded={!sectionFolded}
              aria-label={sectionFolded ? "Unfold the section (F)" : "Fold the section (F)"}
              onClick={toggleSection}
            >
              {sectionFolded ? "Unfold" : "Fold"}
            </Button>
          </section>
          <section
            id={DUTY}
            aria-label="Duty and checks"
            className={clsx(
              "border-b border-rule lg:col-start-3 lg:row-span-2 lg:row-start-1 lg:overflow-y-auto lg:border-b-0 lg:border-l",
              // Verdict before lists: the pumps to choose from come after what is said of the one chosen.
              stage === "pump" ? "max-lg:order-2" : "max-lg:order-3",
            )}
          >
            <DutyPanel {...{ solved, job, band, onItem }} />
          </section>
          <section
            aria-label="Part in hand"
            className={clsx(
              "flex flex-col border-b border-rule lg:min-h-0 lg:border-b-0",
              stage === "pump" ? "max-lg:order-3" : "max-lg:order-2",
            )}
          >
            {stage === "line" && (
              <Switch
                label="Part in hand"
                options={LINE_PARTS}
                value={part}
                onChange={(value) => onPart(value)}
              />
            )}
            <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
              <PartInHand {...{ part, solved, selected }} onSelect={setSelected} />
            </div>
          </section>
          <section
            aria-label="Ledger, sizes or curve"
            className="flex flex-col max-lg:order-4 lg:min-h-0 lg:border-l lg:border-rule"
          >
            <Switch label="Ledger, sizes or curve" options={views} value={view} onChange={onView} />
            <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
              {view === "ledger" && <HeadLedger {...{ solved, sizeUps, job, onItem }} />}
              {view === "sizes" && (
                <Fetched fallback={<Loading what="the sizes" />}>
                  <SizeSheet {...{ job, selected }} asked={solved.kind === "asked"} />
                </Fetched>
              )}
              {view === "changes" && (
                <Fetched fallback={<Loading what="the columns" />}>
                  <WhatIfPane job={job} />
                  <ChangesSheet {...{ job, solved }} />
                </Fetched>
              )}
              {view === "driving" && (
                <Fetched fallback={<Loading what="the drive" />}>
                  <DrivingPane {...{ job, selected }} />
                </Fetched>
              )}
              {view === "together" && (
                <Fetched fallback={<Loading what="pump and pipe" />}>
                  <TogetherPane {...{ job, selected }} />
                </Fetched>
              )}
              {view === "time" && (
                <Fetched fallback={<Loading what="the run" />}>
                  <TimePane job={job} />
                </Fetched>
              )}
              {view === "curve" && (
                <Fetched fallback={<Loading what="the curve" />}>
                  <div className="h-90 lg:h-full">
                    <CurveSheet {...{ solved, job }} band={settledBand(band)} />
                  </div>
                </Fetched>
              )}
            </div>
          </section>
          <DutyStrip {...{ job, solved }} />
        </div>
      )}
      {conflict && (
        <Fetched fallback={null}>
          <ConflictDialog />
        </Fetched>
      )}
      <DerivationLink {...{ job, solved }} />
    </div>
  );
}

/** The view of a stage that an address names. */
function viewOf<V extends string>(views: readonly { value: V }[], params: URLSearchParams) {
  return views.find(({ value }) => value === params.get("view"))?.value;
}

/** The band to draw: only one that is there. */
function settledBand({ value }: Result<BandResult>) {
  return value?.kind === "band" ? value : undefined;
}

/** The band to judge by: only one that belongs to the job as it stands. */
function currentBand(band: Result<BandResult>) {
  return band.stale ? undefined : settledBand(band);
}
