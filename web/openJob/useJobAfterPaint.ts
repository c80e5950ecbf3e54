import { startTransition, useEffect, useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { useJobStore } from "./jobStore.ts";

/**
 * The job on the bench, one painted frame late: a key shows in its field before what follows from it is worked out,
 * however long that takes, and whoever reads this is not drawn for the key itself. Of several changes within a frame
 * only the last comes through.
 */
export function useJobAfterPaint(): JobDocument {
  const [shown, setShown] = useState(() => useJobStore.getState().job);
  useEffect(() => {
    let frame = 0;
    let task: ReturnType<typeof setTimeout>;
    const take = ({ id, job }: { id: string; job: JobDocument }) => {
      cancelAnimationFrame(frame);
      clearTimeout(task);
      if (id === "") return;
      // A frame's callbacks run before its paint, the task they put up after it.
      frame = requestAnimationFrame(() => {
        task = setTimeout(() => startTransition(() => setShown(job)));
      });
    };
    // It may have changed before anyone listened.
    take(useJobStore.getState());
    const stop = useJobStore.subscribe((state, before) => {
      if (state.job !== before.job) take(state);
    });
    return () => {
      stop();
      cancelAnimationFrame(frame);
      clearTimeout(task);
    };
  }, []);
  return shown;
}
