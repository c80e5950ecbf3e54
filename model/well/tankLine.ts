import type { JobDocument } from "#contract/documents/job.ts";
import { lineModel } from "#core/hydraulics/solveLine.ts";
import { everyItem, levelsOf, type PathItem } from "#core/line/path.ts";
import { type PumpToTank, pumpToTank } from "#core/well/pumpToTank.ts";
import type { SolvableJob } from "../solveJob.ts";

/** A job's pump as its tank sees it, with the pressure its line is laid out for; nothing where no outlet holds one. */
export function pumpToTankOf(
  job: SolvableJob & Pick<JobDocument, "source">,
): (PumpToTank & { pressure: number }) | undefined {
  const { source } = job;
  // The well's own drawdown is followed as its level moves, and not counted a second time.
  const line = {
    ...job,
    path: job.path as PathItem[],
    source: { kind: "open" as const, level: levelsOf(source), intake: source.intake },
  };
  const ready = lineModel(line, job.pumps, job.wantedFlow);
  const found = ready.kind === "ready" ? pumpToTank(ready, job.site.specificGravity) : undefined;
  const outlet = everyItem(line.path).find(
    (item) => item.kind === "outlet" && item.outlet.type === "pressure",
  );
  const pressure =
    outlet?.kind === "outlet" && outlet.outlet.type === "pressure" ? outlet.outlet.pressure : 0;
  return found && { ...found, pressure };
}
