import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { Line } from "#core/line/path.ts";

/** The line of a job; the same object while nothing of it changes. */
export function useLine({
  source,
  path,
  site,
  method,
  well,
  overTime,
  pressureTank,
}: JobDocument): Line {
  const battery = overTime?.battery;
  return useMemo(
    () => ({
      ...{ source, path, site, method },
      ...(well && { well }),
      ...(battery && { overTime: { battery } }),
      ...(pressureTank && { pressureTank }),
    }),
    [source, path, site, method, well, battery, pressureTank],
  );
}
