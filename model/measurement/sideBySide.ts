import { coreReading, type FieldTestDocument } from "#contract/documents/fieldTest.ts";
import type { JobDocument } from "#contract/documents/job.ts";
import { gunsAtWork } from "#core/irrigation/gunsOnLine.ts";
import { type Compared, type SideBySide, sideBySide } from "#core/measurement/sideBySide.ts";
import { applyChanges } from "../job/changes.ts";
import { solveJob } from "../job/solveJob.ts";
import { type KeptReading, needleAt } from "./fieldTests.ts";

/** Two set-ups, what was measured of them, and what the model says the second should be of the first. */
export interface SetupsCompared {
  first: string;
  second: string;
  rows: (SideBySide & { model?: number })[];
}

type Setup = NonNullable<FieldTestDocument["setups"]>[number];

/** Every set-up of a visit against its first, by the readings that name them. */
export function compareSetups(
  job: JobDocument,
  setups: readonly Setup[],
  readings: readonly KeptReading[],
): SetupsCompared[] {
  const [first, ...others] = setups;
  if (!first) return [];
  const of = ({ id }: Setup) =>
    readings
      .filter(({ document }) => document.setup === id && document.leftOut === undefined)
      .map(({ document }) => coreReading(document));
  return others.flatMap((second): SetupsCompared[] => {
    const rows = sideBySide(of(first), of(second));
    if (rows.length === 0) return [];
    const [a, b] = [modelled(job, first, readings), modelled(job, second, readings)];
    return [
      {
        first: first.name,
        second: second.name,
        rows: rows.map((row) => {
          const [x, y] = [a?.[row.of], b?.[row.of]];
          return x && y ? { ...row, model: y / x } : row;
        }),
      },
    ];
  });
}

/** m³/s at the outlets, Pa at the gauge and m the first gun throws, as the model has a set-up; nothing where its change is not there. */
function modelled(
  job: JobDocument,
  { id, variant }: Setup,
  readings: readonly KeptReading[],
): Partial<Record<Compared, number>> | undefined {
  const change = job.variants?.find(({ label }) => label === variant);
  if (variant !== undefined && !change) return undefined;
  const changed = change ? applyChanges(job, change.changes) : ({ ok: true, job } as const);
  if (!changed.ok) return undefined;
  const solved = solveJob(changed.job);
  const running = solved.kind === "solved" ? solved.solution.cases.normal.running : undefined;
  if (solved.kind !== "solved" || !running) return undefined;
  const gauge = readings.find(({ document }) => document.setup === id && document.discharge)
    ?.document.discharge;
  const pressure = gauge && running.pumps[0] && needleAt(solved, 0, running.pumps[0].duty, gauge);
  // What a tape would change of the throw is the same for both, and drops out of their ratio.
  const thrown = gunsAtWork(solved.solution, running)[0]?.thrown;
  return {
    flow: running.state.delivered,
    ...(pressure !== undefined && { pressure }),
    ...(thrown?.kind === "throws" && { throw: thrown.radius }),
  };
}
