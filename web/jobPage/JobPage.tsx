import { queryOptions, useQuery } from "@tanstack/react-query";
import { lazy, useCallback, useEffect, useMemo, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { Unreachable } from "../api/client.ts";
import { keyOf, queries } from "../api/queries.ts";
import { DerivationLink } from "../derivation/DerivationLink.tsx";
import { Decisions } from "../duty/Decisions.tsx";
import { atRest } from "../lib/atRest.ts";
import { Fetched } from "../lib/Fetched.tsx";
import { fetchModules, modulesOf } from "../lib/fetchModules.ts";
import { useKeys } from "../lib/keys.ts";
import { jobToOpen, putOnBench, putOnBenchAsStored, startAutosave } from "../openJob/autosave.ts";
import { bandToJudgeBy } from "../openJob/band.ts";
import { openJob, partOf, redo, undo, useJobStore } from "../openJob/jobStore.ts";
import type { Owner } from "../openJob/owner.ts";
import { PARTS, type Part } from "../openJob/part.ts";
import { solveAhead } from "../openJob/results.ts";
import { useJobAfterPaint } from "../openJob/useJobAfterPaint.ts";
import { useResult } from "../openJob/useResult.ts";
import { useSolution } from "../openJob/useSolution.ts";
import { Unsaved } from "../outbox/Unsaved.tsx";
import { useUnsaved } from "../outbox/useHeld.ts";
import { useSettings } from "../state/settings.ts";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";
import { toast } from "../ui/toast.ts";
import { JobHeader } from "./JobHeader.tsx";
import { JOB_KEYS, PART_KEYS, viewKey } from "./jobKeys.ts";
import { LineFrame } from "./LineFrame.tsx";
import { OwnFrame } from "./OwnFrame.tsx";
import { ownViewAt, partAt, stageAt, stageOf, viewAt, viewsAt } from "./stages.ts";

const ConflictDialog = lazy(() => import("./ConflictDialog.tsx"));

const opened = (id: string) =>
  queryOptions({ queryKey: keyOf("jobs", id), queryFn: () => jobToOpen(id), staleTime: 0 });

/** A job is on the bench before its page is drawn, unless this device holds something of its own of it. */
export async function prepare(search: URLSearchParams, id = "", step?: string): Promise<boolean> {
  const stage = stageAt(step, search.get("part"));
  // What is typed into and what is looked at are there with the page.
  if (stage.frame === "own") await stage.load();
  if (stage.frame === "line") await partAt(stage, search.get("part")).load();
  const stored = await queries.ensureQueryData(opened(id));
  if (stage.frame === "line") await viewAt(stage, stored.document, search).load();
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

function Bench() {
  const job = useJobAfterPaint();
  const { solved, sizeUps } = useSolution(job);
  const band = useResult("band", { job });
  const [params, setParams] = useSearchParams();
  const navigate = useNavigate();
  const { id, step } = useParams();
  const stage = stageAt(step, params.get("part"));
  const owner = useMemo(
    (): Owner => ({ of: "jobs", id: id ?? "", test: { jobId: id ?? "" } }),
    [id],
  );
  // A job with changes on their way is none of its revisions.
  const conflict = useJobStore((s) => s.saved.kind === "conflict");
  const jobRevision = useJobStore((s) => (s.saved.kind === "saved" ? s.revision : 0));
  const [selected, setSelected] = useState<string>();
  const { toggleSection } = useSettings();

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
      const to = stageOf(next);
      const search = new URLSearchParams(location.search);
      search.set("part", next);
      // A stage opens on the view that belongs to it.
      if (to !== stage) search.delete("view");
      void navigate(
        { pathname: `/jobs/${id}/${to.id}`, search: String(search) },
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

  const views =
    stage.frame === "line" ? viewsAt(stage, job) : stage.frame === "own" ? stage.views : [];
  useKeys([
    [JOB_KEYS.undo, undo],
    [JOB_KEYS.redo, redo],
    [JOB_KEYS.redoToo, redo],
    ...(stage.frame === "whole"
      ? []
      : PARTS.map((part) => [PART_KEYS[part], () => onPart(part)] as const)),
    ...(stage.frame === "line" ? [[JOB_KEYS.fold, toggleSection] as const] : []),
    ...views.flatMap((view) => {
      const key = viewKey(view);
      return key ? [[key, () => onView(view.value)] as const] : [];
    }),
  ]);

  const shown = { job, solved, band, selected, onView, onPart, onItem };
  return (
    <div className="flex h-full min-h-0 flex-col print:block print:h-auto">
      <JobHeader stage={stage} />
      <Decisions job={job} />
      {stage.frame === "line" && (
        <LineFrame
          {...{ ...shown, stage, sizeUps }}
          part={partAt(stage, params.get("part"))}
          view={viewAt(stage, job, params)}
          onSelect={setSelected}
        />
      )}
      {stage.frame === "own" && (
        <OwnFrame {...{ ...shown, stage }} view={ownViewAt(stage, params)} />
      )}
      {stage.frame === "whole" && (
        <Fetched fallback={<Loading what={stage.called} />}>
          <stage.Shown {...{ job, solved, owner, jobRevision }} band={bandToJudgeBy(band)} />
        </Fetched>
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
