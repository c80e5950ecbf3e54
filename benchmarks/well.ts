import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { tankDay, type WellSystem } from "#core/well/tankDay.ts";
import type { Draw } from "#core/well/useOfDay.ts";
import { BRAMBLE_BOREHOLE } from "#demo/wellJobs.ts";
import { wellDayOf } from "#model/well/day.ts";
import { pumpToTankOf } from "#model/well/tankLine.ts";
import { tankOf } from "#model/well/usual.ts";
import { wellOf } from "#model/well/well.ts";
import { middle } from "./middle.ts";

/** So many draws of a quarter of a minute to some minutes, spread over a day. */
const drawsOf = (count: number): Draw[] =>
  Array.from({ length: count }, (_, i) => ({
    start: (86_400 * ((i * 0.618034) % 1)) / 1.02,
    duration: 15 + ((i * 37) % 11) * (4400 / count),
    flow: 1.2e-4 + 2e-5 * (i % 5),
    tap: 0,
  }));

/** What a well costs: a household's day through tank, pump and well, and all that is told of the demo's borehole. */
export function benchWell(row: (name: string, value: string, note?: string) => void): void {
  const job = jobSchema.parse(BRAMBLE_BOREHOLE) as JobDocument;
  const pump = pumpToTankOf(job);
  if (!pump || job.source.kind !== "well") throw new Error("The demo's borehole has no pump.");
  const system: WellSystem = {
    ...{ pump, tank: tankOf(job.pressureTank), air: 99_000 },
    well: { standing: -23.5, drawdown: job.source.drawdown, area: 0.018, intake: -40 },
    protection: { stop: -39.4, restart: -31 },
  };
  const day = (count: number) => {
    const draws = drawsOf(count);
    return middle(() => {
      const { short, starts } = tankDay(system, draws, 86_400);
      if (short > 0 || starts < 5) throw new Error(`${short} m³ short, ${starts} starts`);
    });
  };
  const two = day(200);
  row(
    "a household day of 200 draws through tank, pump and well",
    `${two.toFixed(1)} ms`,
    `20 draws ×${(day(20) / two).toFixed(2)}, 2000 draws ×${(day(2000) / two).toFixed(1)}`,
  );
  row(
    "everything told of the borehole",
    `${middle(() => wellOf(job)).toFixed(1)} ms`,
    "test, window, pipe, cable, tank by both schools",
  );
  row(
    "a week of the allotments by both schools",
    `${middle(() => wellDayOf(job)).toFixed(0)} ms`,
    "672 draws, in the worker",
  );
}
