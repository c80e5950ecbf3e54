import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { waterAt } from "#core/fluid/water.ts";
import { dayPlan } from "#core/irrigation/dayPlan.ts";
import { solveDrip } from "#core/irrigation/drip.ts";
import type { Point } from "#core/irrigation/plane.ts";
import { planSets } from "#core/irrigation/sets.ts";
import { KETTERBY } from "#demo/jobs.ts";
import { irrigationOf } from "#model/irrigation/irrigation.ts";
import { middle } from "./middle.ts";

/** A field of about so many sets, watered and put on the clock. */
function planned(sets: number): number {
  const side = Math.sqrt(sets) * 22;
  const outline: Point[] = [
    [0, 0],
    [side, 0],
    [side, side],
    [0, side],
  ];
  let found = 0;
  const ms = middle(() => {
    const plan = planSets({
      ...{ outline, keepOff: [], radius: 20, arc: 360, spacing: 0.55, guns: 1 },
    });
    if (plan.kind !== "planned") throw new Error(plan.why);
    found = plan.sets;
    const runs = plan.shares.map((share) => share * plan.sets * 1500);
    const day = dayPlan({
      ...{ runs, next: 0, start: 0, move: 600, prime: 180 },
      engine: { tankLasts: 8000, left: 8000, cooling: 900, filling: 300 },
    });
    if (day.kind !== "planned") throw new Error(day.why);
  });
  if (Math.abs(found / sets - 1) > 0.2) throw new Error(`${found} sets, not about ${sets}`);
  return ms;
}

function lateral(emitters: number): number {
  const water = waterAt(288.15);
  // The flow that goes in stays what a lateral carries, whatever number shares it.
  const flow = 2.5e-4 / emitters;
  return middle(() => {
    const found = solveDrip(
      {
        ...{ laterals: 1, apart: 1, spacing: 100 / emitters, emitters, slope: 0, submainSlope: 0 },
        emitter: { flow, pressure: 100_000, exponent: 0.5 },
        lateral: { bore: 0.0176, roughness: 7e-6, hazenWilliamsC: 150 },
        submain: { bore: 0.028, roughness: 7e-6, hazenWilliamsC: 150 },
      },
      120_000,
      water,
    );
    if (found.kind !== "solved") throw new Error(found.why);
  });
}

/** What watering costs: sets on a field, emitters on a lateral, and the whole of the demo's ground. */
export function benchWatering(row: (name: string, value: string, note?: string) => void): void {
  const sixty = planned(60);
  row(
    "a field of 60 sets planned and put on the clock",
    `${sixty.toFixed(1)} ms`,
    `600 sets ×${(planned(600) / sixty).toFixed(1)}, 3000 sets ×${(planned(3000) / sixty).toFixed(1)}`,
  );
  const five = lateral(500);
  row(
    "a lateral of 500 emitters solved",
    `${five.toFixed(1)} ms`,
    `100 emitters ×${(lateral(100) / five).toFixed(2)}, 2000 emitters ×${(lateral(2000) / five).toFixed(1)}`,
  );
  const job = jobSchema.parse(KETTERBY) as JobDocument;
  row(
    "everything told of the hurling ground",
    `${middle(() => irrigationOf(job)).toFixed(1)} ms`,
    "line, guns, sets, clock, season, cans, drip, worked back",
  );
}
