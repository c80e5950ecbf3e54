import { useNavigate } from "react-router";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { dropHeld, keepMine } from "./autosave.ts";
import { downloadJob } from "./downloadJob.ts";
import { openJob, useJobStore } from "./jobStore.ts";

/** Two people, or two tabs, changed one job: nothing is lost without a choice. */
export function ConflictDialog() {
  const { saved, job, id } = useJobStore();
  const navigate = useNavigate();
  if (saved.kind !== "conflict") return null;
  const { current } = saved;
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
      <div className="mt-4 flex flex-wrap gap-2">
        {current && (
          <Button look="strong" onClick={() => keepMine(current)}>
            Keep mine, replace the other
          </Button>
        )}
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
