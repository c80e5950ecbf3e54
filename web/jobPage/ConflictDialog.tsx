import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { revisionOf } from "../api/queries.ts";
import { TwoVersions } from "../editing/TwoVersions.tsx";
import { downloadJob } from "../exchange/downloadJob.ts";
import { dropHeld, keepMine } from "../openJob/autosave.ts";
import { openJob, useJobStore } from "../openJob/jobStore.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";

/** Two people, or two tabs, changed one job: nothing is lost without a choice. */
export default function ConflictDialog() {
  const { saved, job, id, revision } = useJobStore();
  const navigate = useNavigate();
  const current = saved.kind === "conflict" ? saved.current : null;
  // What both changes began from; without it neither can be told from the other.
  const base = useQuery({
    ...revisionOf("jobs", id, revision),
    enabled: current !== null && revision > 0,
  });
  if (saved.kind !== "conflict") return null;
  return (
    <Dialog open onClose={() => {}} title="Changed in two places">
      {current ? (
        <p>
          “{current.document.name}” was saved somewhere else at{" "}
          {new Date(current.updatedAt).toLocaleTimeString()} while you changed it here. That version
          has {current.document.path.length} parts on its path, yours has {job.path.length}.
        </p>
      ) : (
        <p>This job was deleted somewhere else while you changed it here.</p>
      )}
      {current && base.data && (
        <div className="mt-3">
          <TwoVersions
            base={base.data.document}
            mine={job}
            theirs={current.document}
            onKeep={(both) => keepMine(current, both)}
          />
        </div>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        {current && <Button onClick={() => keepMine(current)}>Keep mine, replace the other</Button>}
        {current && (
          <Button
            onClick={() => {
              void dropHeld(id);
              openJob(current);
            }}
          >
            Take the other, drop mine
          </Button>
        )}
        <Button onClick={() => downloadJob(job)}>Download mine as a file</Button>
        {!current && (
          <Button
            onClick={() => {
              void dropHeld(id);
              void navigate("/");
            }}
          >
            Leave it deleted
          </Button>
        )}
      </div>
    </Dialog>
  );
}
