import type { JobDocument } from "#contract/documents/job.ts";
import { findPipeStock } from "#core/catalogue/pipes.ts";
import { countOf } from "#core/finding/count.ts";
import type { JobFindings } from "#core/finding/registry.ts";
import { settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { Solution } from "#core/hydraulics/solveLine.ts";
import type { GunAtWork } from "#core/irrigation/gunsOnLine.ts";
import { everyItem, type PathItem } from "#core/line/path.ts";
import type { Steps } from "#core/numeric/steps.ts";
import { volumeOf } from "#core/well/useOfDay.ts";
import { radiusOf } from "../irrigation/fieldPlan.ts";
import type { IrrigationResult } from "../irrigation/irrigation.ts";
import { waters } from "../irrigation/waters.ts";
import { applyChanges, type Variant } from "../job/changes.ts";
import type { JobSolution } from "../job/solveJob.ts";
import type { RunAnswers } from "../simulation/answers.ts";
import type { SimulationResult } from "../simulation/result.ts";
import { boosterOf, workForWater } from "../well/booster.ts";
import { drawsOf } from "../well/day.ts";
import { seasonOf } from "../well/season.ts";
import { fitOf } from "../well/settle.ts";

/** What one job, or one change of it, comes to: beside the others. SI. */
export interface Column {
  /** m³/s at the outlets and m of total head, at normal water */
  duty?: { flow: number; head: number };
  stops: number;
  overTime?: RunAnswers;
  watering?: IrrigationColumn;
  well?: WellColumn;
  /** the money of pipes and pumps whose price is known, and whether that is all of them */
  price?: { known: number; whole: boolean };
  /** why there is nothing to show */
  refused?: "not-there" | "no-line";
}

/** What guns come to: the one that does worst, and the field by them. */
export interface IrrigationColumn {
  guns: number;
  /** Pa at the base of the weakest, and what it does there */
  pressure: number;
  does: GunAtWork["thrown"]["kind"];
  /** m, of the one that throws least */
  radius?: number;
  sets?: number;
  /** s */
  perSet?: number;
  whole?: number;
  /** m³ of fuel */
  fuel?: number;
}

/** What a well and its pressure come to: m down in the dry season, J a m³ at the taps, and J a day. */
export interface WellColumn {
  pumping?: number;
  lifting?: number;
  boosting?: number;
  whole?: number;
  perDay?: number;
}

/**
 * The job as it is, and each of its changes tried on it, all worked out alike.
 * @param look gives what follows from the job as it is
 * @param lookAt gives the same of a changed job
 */
export function* columnsInSteps(
  job: JobDocument,
  variants: readonly Variant[],
  look: Looked,
  lookAt: (changed: JobDocument) => Looked,
): Steps<Column[]> {
  const columns = [columnOf(job, look)];
  for (const { changes } of variants) {
    yield { done: columns.length / (variants.length + 1) };
    const changed = applyChanges(job, changes);
    columns.push(
      changed.ok ? columnOf(changed.job, lookAt(changed.job)) : { stops: 0, refused: "not-there" },
    );
  }
  return columns;
}

/** What a column is made of. */
interface Made {
  solved: JobSolution;
  run: SimulationResult;
  irrigation: IrrigationResult;
  findings: JobFindings;
}
type Looked = <K extends keyof Made>(name: K) => Made[K];

function columnOf(job: JobDocument, look: Looked): Column {
  const solved = look("solved");
  const price = priceOf(job);
  if (solved.kind === "refused") return { stops: 0, price, refused: "no-line" };
  const { normal } = solved.solution.cases;
  const duty = settledDuty(normal.outcome);
  const run = look("run");
  return {
    ...(normal.running && {
      duty: {
        flow: normal.running.state.delivered,
        head: duty?.head ?? normal.running.duty.head,
      },
    }),
    stops: countOf(look("findings"), "stop"),
    ...(run.kind === "run" && { overTime: run.answers }),
    ...(waters(job) && wateringColumn(look("irrigation"))),
    ...(job.source.kind === "well" && { well: wellColumn(job, solved.solution) }),
    price,
  };
}

function wateringColumn({ guns, sets, timing }: IrrigationResult): {
  watering?: IrrigationColumn;
} {
  const [worst] = guns.toSorted((a, b) => a.pressure - b.pressure);
  if (!worst) return {};
  const radius = radiusOf(guns);
  return {
    watering: {
      ...{ guns: guns.length, pressure: worst.pressure, does: worst.thrown.kind },
      ...(radius !== undefined && { radius }),
      ...(sets?.kind === "planned" && { sets: sets.sets }),
      ...(timing && { perSet: timing.perSet, whole: timing.whole }),
      ...(timing?.fuel !== undefined && { fuel: timing.fuel }),
    },
  };
}

function wellColumn(job: JobDocument, solution: Solution): WellColumn {
  const { pumping } = seasonOf(job, "low", solution, fitOf(job));
  const { well, booster, whole } = workForWater(job, solution);
  const { draws } = drawsOf({ ...job.house, days: 1 });
  return {
    ...(pumping !== undefined && { pumping }),
    ...(well !== undefined && { lifting: well }),
    ...(booster !== undefined && { boosting: booster }),
    ...(whole !== undefined && { whole, perDay: whole * volumeOf(draws) }),
  };
}

function priceOf(job: JobDocument): { known: number; whole: boolean } {
  const { path, pumps } = job;
  const booster = boosterOf(job);
  let known = 0;
  let whole = true;
  for (const item of everyItem<PathItem>(path)) {
    if (item.kind === "pipe") known += item.length * (findPipeStock(item.stock)?.price ?? 0);
    if (item.kind !== "pump") continue;
    const price = pumps.find(({ id }) => id === item.pump)?.price;
    if (price === undefined) whole = false;
    else known += price;
  }
  if (booster) {
    if (booster.price === undefined) whole = false;
    else known += booster.price;
  }
  return { known, whole };
}
