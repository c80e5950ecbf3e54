import type { PumpDocument } from "#contract/documents/pump.ts";
import { lineModel } from "#core/hydraulics/solveLine.ts";
import { everyItem, levelsOf, type PathItem } from "#core/line/path.ts";
import { keptPressure } from "#core/outlet/outlets.ts";
import { type PumpToTank, pumpToTank } from "#core/well/pumpToTank.ts";
import { boosterOf, boosterToTank } from "./booster.ts";
import type { JobWithWell } from "./season.ts";
import { tankOf } from "./usual.ts";

/** What fills a tank: Pa its line is laid out for, the plate of its pump, and whether that is a booster. */
export type FilledBy = PumpToTank & { pressure: number; plate?: PumpDocument; boosts: boolean };

/**
 * What a job's tank is filled by, with the pressure its line is laid out for: a booster behind an open tank, else the pump
 * in the well; nothing where no outlet holds a pressure.
 */
export function pumpToTankOf(job: JobWithWell): FilledBy | undefined {
  const { source } = job;
  const booster = boosterOf(job);
  if (booster) {
    const { cutIn, cutOut } = tankOf(job.pressureTank);
    const pressure = (cutIn + cutOut) / 2;
    return { ...boosterToTank(job, booster), pressure, plate: booster, boosts: true };
  }
  // The well's own drawdown is followed as its level moves, and not counted a second time.
  const line = {
    ...job,
    path: job.path as PathItem[],
    source: { kind: "open" as const, level: levelsOf(source), intake: source.intake },
  };
  const ready = lineModel(line, job.pumps, job.wantedFlow);
  const found = ready.kind === "ready" ? pumpToTank(ready, job.site.specificGravity) : undefined;
  const [pressure = 0] = everyItem(line.path).flatMap((item) =>
    item.kind === "outlet" ? (keptPressure(item.outlet) ?? []) : [],
  );
  const first = ready.kind === "ready" ? ready.pumps[0]?.pump.id : undefined;
  const plate = job.pumps.find(({ id }) => id === first);
  return found && { ...found, pressure, ...(plate && { plate }), boosts: false };
}
