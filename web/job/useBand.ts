import { useEffect, useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { type Band, USUAL_DOUBT } from "#core/whatif/uncertainty.ts";
import type { BandAnswer, BandQuestion } from "../workers/bandWorker.ts";

let worker: Worker | undefined;
let asked = 0;

/**
 * The band of the job's duty, worked out beside the page a moment after each change. Undefined until
 * the first is there, null where there is none; the old one stays while the new is on its way.
 */
export function useBand(job: JobDocument): Band | null | undefined {
  const [band, setBand] = useState<Band | null>();
  const { source, path, site, method, pumps, doubt = USUAL_DOUBT } = job;
  useEffect(() => {
    worker ??= new Worker(new URL("../workers/bandWorker.ts", import.meta.url), { type: "module" });
    const mine = worker;
    asked += 1;
    const id = asked;
    const hear = ({ data }: MessageEvent<BandAnswer>) => {
      if (data.id === id) setBand(data.band ?? null);
    };
    mine.addEventListener("message", hear);
    const timer = setTimeout(() => {
      const question: BandQuestion = { id, line: { source, path, site, method }, pumps, doubt };
      mine.postMessage(question);
    }, 120);
    return () => {
      clearTimeout(timer);
      mine.removeEventListener("message", hear);
    };
  }, [source, path, site, method, pumps, doubt]);
  return band;
}
