import type { JobDocument } from "#contract/documents/job.ts";
import type { Remedy } from "#model/whatif/remedies.ts";
import { remedyWords } from "#words/remedies.ts";
import { edit, undo } from "../openJob/jobStore.ts";
import { useUnits } from "../state/settings.ts";
import { toast } from "../ui/toast.ts";

/** Changes the job as a remedy says; what was there before comes back with one step. */
async function mend(remedy: Remedy, said: string): Promise<void> {
  const { applyChanges } = await import("#model/job/changes.ts");
  let done = false;
  edit((job: JobDocument) => {
    const changed = applyChanges(job, remedy.changes);
    done = changed.ok;
    return changed.ok ? changed.job : job;
  });
  if (done) toast(`${said}: done.`, { action: { label: "Undo", onClick: undo } });
  else toast.error("What that would change is not there any more.");
}

/** Words that say what would mend something, and do it. */
export default function Mend({ words, remedy }: { words: string; remedy: Remedy }) {
  const does = remedyWords(remedy, useUnits());
  return (
    <button
      type="button"
      aria-label={does}
      className="block min-h-6 text-left text-[14px] font-medium underline decoration-2"
      onClick={() => void mend(remedy, does)}
    >
      {words}
    </button>
  );
}

/** The same where no words say what would mend it. */
export function RemedyButton({ remedy }: { remedy: Remedy }) {
  const does = remedyWords(remedy, useUnits());
  return (
    <button
      type="button"
      className="ml-2 min-h-6 font-medium underline decoration-2"
      onClick={() => void mend(remedy, does)}
    >
      {does}
    </button>
  );
}
