import type { JobDocument, Need } from "#contract/documents/job.ts";
import { type FindingIn, findingsIn } from "#core/finding/registry.ts";
import { grateFlow, USUAL_GRATE } from "#core/pipe/grate.ts";
import { fullFlow, headToPass, MANNING_N } from "#core/pipe/manning.ts";
import { WATER_DENSITY } from "#core/quantity/constants.ts";
import { runoffArea } from "./demand.ts";

export type Run = NonNullable<NonNullable<JobDocument["yard"]>["runs"]>[number];
type Catch = NonNullable<Extract<Need, { kind: "rain" }>["catches"]>[number];

/** What a gravity run has to carry in the hardest hour, and what it can. SI. */
export interface RunAtWork {
  run: Run;
  flow: number;
  /** just full */
  capacity: number;
  /** m the water stands over the crown at its upper end where more comes than it can carry */
  surcharge: number;
  /** m³ it holds, with the gravel round it and the basin at its upper end */
  storage: number;
  /** m³/s its grate lets in under `ponded` m of water, and what comes to it over the ground */
  grate?: { capacity: number; comes: number; ponded: number; blocked: number };
  findings: FindingIn<"yard-run">[];
}

/** Every run of a yard with what all that drains into it brings; of a ring of runs, none twice. */
export function yardAtWork(job: Pick<JobDocument, "need" | "yard">): RunAtWork[] {
  const { need, yard } = job;
  const runs = yard?.runs ?? [];
  if (need?.kind !== "rain") return [];
  const { catches = [], hardestHour = 0 } = need;
  const intensity = hardestHour / 3600;
  const own = (run: Run) => runoffArea(catchesOf(run, catches)) * intensity;
  const flowInto = (id: string, seen: ReadonlySet<string>): number =>
    runs.reduce((sum, run) => {
      if (run.into !== id || seen.has(run.id)) return sum;
      return sum + own(run) + flowInto(run.id, new Set([...seen, run.id]));
    }, 0);
  return runs.map((run) => {
    const { bore, slope, length, n = MANNING_N.smooth, trench, grate, basin } = run;
    const flow = own(run) + flowInto(run.id, new Set([run.id]));
    const pipe = { bore, slope, n };
    const capacity = fullFlow(pipe);
    const needed = headToPass(pipe, length, flow);
    const area = (Math.PI / 4) * bore ** 2;
    const gravel = trench ? Math.max(trench.width * trench.depth - area, 0) * trench.porosity : 0;
    const pocket = basin ? (Math.PI / 4) * basin.across ** 2 * basin.depth : 0;
    const atWork = {
      ...{ flow, capacity },
      surcharge: flow > capacity ? needed - slope * length : 0,
      storage: (area + gravel) * length + pocket,
      ...(grate && { grate: { comes: own(run), ...throughGrate(grate) } }),
    };
    return { run, ...atWork, findings: findingsIn("yard-run", { ...atWork, name: run.name }) };
  });
}

function throughGrate(grate: NonNullable<Run["grate"]>) {
  const { length, width } = grate;
  const { open = USUAL_GRATE.open, blocked = USUAL_GRATE.blocked } = grate;
  const { ponded = USUAL_GRATE.ponded } = grate;
  return { capacity: grateFlow({ length, width, open, blocked }, ponded), ponded, blocked };
}

/** The surfaces a run takes; all of them where it names none. */
function catchesOf({ takes }: Run, catches: readonly Catch[]): Catch[] {
  return takes ? catches.filter((_, i) => takes.includes(i)) : [...catches];
}

/** N with which a jet lifts what stands in its way: F = ρ Q v. */
export function jetForce(flow: number, bore: number): number {
  return (WATER_DENSITY * flow ** 2) / ((Math.PI / 4) * bore ** 2);
}
