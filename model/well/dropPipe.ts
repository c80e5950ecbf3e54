import type { JobDocument } from "#contract/documents/job.ts";
import {
  findPipeStock,
  PIPE_STOCK,
  type PipeStock,
  pressureRatingAt,
} from "#core/catalogue/pipes.ts";
import type { Severity } from "#core/check/check.ts";
import { heldBy } from "#core/check/discharge.ts";
import { findConductor } from "#core/driving/conductor.ts";
import { shutHeads } from "#core/hydraulics/shutHeads.ts";
import type { Solution } from "#core/hydraulics/solveLine.ts";
import { levelsOf, type PathItem } from "#core/line/path.ts";
import { keptPressure } from "#core/outlet/outlets.ts";
import {
  DROP_PIPE_STATES,
  type DropPipeState,
  dropPipePressures,
  type HangingPipe,
} from "#core/well/dropPipe.ts";
import { cableMass, type Hangs, hanging } from "#core/well/hanging.ts";
import type { JobWithWell, Season } from "./season.ts";
import { hasWell, topOf } from "./settle.ts";

export interface PipeHolds {
  state: DropPipeState;
  /** Pa across its wall; absent while it is not known */
  pressure?: number;
  severity: Severity;
}

export interface HangingRun {
  itemId: string;
  stock: string;
  length: number;
  /** Pa at this water temperature; absent where none is stocked */
  rating?: number;
  holds: PipeHolds[];
  /** other pipe of the same size or nearly, the cheapest first, with what it is rated and whether it passes all three */
  instead: { stock: string; rating: number; passes: boolean; price: number }[];
}

export interface DropPipeResult {
  runs: HangingRun[];
  /** m from the lowest pumping level to the tank, and Pa of the cut-out, where there is one */
  lift?: number;
  cutOut?: number;
  /** absent while the pump's weight or the pipe is not known */
  hangs?: Hangs;
  /** what its weight needs and is not told */
  lacks: ("pump-weight" | "pipe")[];
}

/** The pipe a pump hangs on: what it holds against, and what pulls at it. */
export function dropPipeOf(
  job: JobWithWell,
  solution: Solution | undefined,
  dry: Season,
): DropPipeResult {
  const top = topOf(job);
  const found = hangingPipes(job, top);
  if (!solution || found.length === 0) {
    return { runs: [], lacks: found.length === 0 ? ["pipe"] : [] };
  }
  const { line, water, boundaries, states, cases } = solution;
  const outlet = line.outlets.find(({ item }) => keptPressure(item.outlet) !== undefined);
  const cutOut = outlet && job.pressureTank?.cutOut;
  const running = cases.low.running;
  const lowestWater = top - (dry.pumping ?? dry.standing);
  const shut = shutHeads(line, boundaries.low, states);
  const shutoff = (node: number) => {
    const { head, published } = shut[node] ?? { head: 0, published: false };
    return published && !solution.asked ? head - levelsOf(line.source).low : undefined;
  };
  const runs = found.map(({ item, lowest }): HangingRun => {
    const stretch = line.stretches.find(({ start, end }) =>
      line.segments.slice(start, end).some(({ itemId }) => itemId === item.id),
    );
    const node = stretch?.from ?? 0;
    const pipe: HangingPipe = {
      ...{ lowest, lowestWater },
      running: running?.state.nodeHeads[node],
      cutOut:
        outlet && cutOut !== undefined ? { tank: outlet.elevation, pressure: cutOut } : undefined,
      shutoff: shutoff(node),
    };
    const pressures = dropPipePressures(pipe, water.density);
    const stock = findPipeStock(item.stock);
    const rating = stock && pressureRatingAt(stock, job.site.waterTemperature);
    const states = DROP_PIPE_STATES.filter((state) => state !== "cut-out" || pipe.cutOut);
    return {
      ...{ itemId: item.id, stock: item.stock, length: item.length },
      ...(rating !== undefined && { rating }),
      holds: states.map((state) => ({
        state,
        ...(pressures[state] !== undefined && { pressure: pressures[state] }),
        severity: severityOf(pressures[state], rating),
      })),
      instead: stock
        ? insteadOf(
            stock,
            item.length,
            states.map((own) => pressures[own]),
            job.site.waterTemperature,
          )
        : [],
    };
  });
  const pump = job.pumps.find(({ id }) => id === solution.pumps[0]?.pump.id);
  const first = runs[0] && findPipeStock(runs[0].stock);
  const conductor = job.site.cable && findConductor(job.site.cable.conductor);
  const hangs =
    first && pump?.mass !== undefined
      ? hanging(
          first,
          runs.reduce((sum, { length }) => sum + length, 0),
          pump.mass,
          cableMass(conductor ? COPPER / conductor.resistance : USUAL_WIRE),
          water.density,
        )
      : undefined;
  return {
    runs,
    ...(outlet && { lift: outlet.elevation - lowestWater }),
    ...(cutOut !== undefined && { cutOut }),
    ...(hangs && { hangs }),
    lacks: solution.asked || pump?.mass !== undefined ? [] : ["pump-weight"],
  };
}

/** Ω·m of copper at 70 °C, for the area of a conductor by its ohms; and m² of a wire nobody chose. */
const COPPER = 2.06e-8;
const USUAL_WIRE = 2.5e-6;

function severityOf(pressure: number | undefined, rating: number | undefined): Severity {
  return pressure === undefined || rating === undefined ? "unknown" : heldBy(pressure, rating);
}

/**
 * The item of the path after which a gauge can be tapped in and read: in a well the pipe that comes up to the casing's
 * top, as no hand reaches the pump's port. Nothing where no pump hangs.
 */
export function wellheadItem(
  job: Pick<JobDocument, "path" | "source" | "well">,
): string | undefined {
  return hasWell(job) ? hangingPipes(job, topOf(job)).at(-1)?.item.id : undefined;
}

/** Runs that climb out of the well, the lowest first. */
function hangingPipes(job: Pick<JobDocument, "path" | "source">, top: number) {
  const found: { item: Extract<PathItem, { kind: "pipe" }>; lowest: number }[] = [];
  let elevation = job.source.intake;
  let after = !job.path.some(({ kind }) => kind === "pump");
  for (const item of job.path as PathItem[]) {
    if (item.kind === "pump") after = true;
    if (item.kind === "split" || item.kind === "outlet") break;
    if (item.kind !== "pipe" && item.kind !== "rise") continue;
    if (after && item.kind === "pipe" && item.rise > 0 && elevation < top - 0.5) {
      found.push({ item, lowest: elevation });
    }
    elevation += item.rise;
  }
  return found;
}

/** Within so much of its bore other pipe takes a pipe's place. */
const SAME_BORE = 0.16;
const MOST_INSTEAD = 5;

function insteadOf(
  own: PipeStock,
  length: number,
  pressures: readonly (number | undefined)[],
  temperature: number,
): HangingRun["instead"] {
  return PIPE_STOCK.flatMap((stock) => {
    const rating = pressureRatingAt(stock, temperature);
    if (rating === undefined || stock.outsideDiameter === undefined) return [];
    if (stock.family === "thin-drain" || Math.abs(stock.bore / own.bore - 1) > SAME_BORE) return [];
    const passes = pressures.every((pressure) => pressure !== undefined && pressure <= rating);
    return [{ stock: stock.id, rating, passes, price: length * stock.price }];
  })
    .filter(({ stock }) => stock !== own.id)
    .toSorted((a, b) => Number(b.passes) - Number(a.passes) || a.price - b.price)
    .slice(0, MOST_INSTEAD);
}
