import { lossCoefficient } from "../fitting/resistance.ts";
import { throttleCoefficient } from "../fitting/throttle.ts";
import type { WaterLevel } from "../fluid/levels.ts";
import type { Boundary, PumpState } from "../hydraulics/boundary.ts";
import { type HydraulicModel, hydraulicModel } from "../hydraulics/hydraulicModel.ts";
import type { LineModel } from "../hydraulics/solveLine.ts";
import type { CompiledLine, Segment } from "../line/compiledLine.ts";
import { isWayOut, receivingWater } from "../outlet/outlets.ts";
import { type PumpCondition, pumpCurve } from "../pump/curve.ts";

/**
 * "What if" about the state of things, as data over a line that is already compiled: inputs in doubt, wear,
 * silting, faults. What is not named stays as the job has it. Another size or pump is a change of the job
 * instead.
 */
export interface Condition {
  /** for every item that has no condition of its own */
  everywhere?: ItemCondition;
  /** by the item of the path */
  items?: Readonly<Record<string, ItemCondition>>;
  /** by the item of the path */
  pumps?: Readonly<Record<string, PumpCondition>>;
  levels?: LevelCondition;
  /** by the item of the path */
  orifices?: Readonly<Record<string, OrificeCondition>>;
}

export interface ItemCondition {
  /** on the roughness of pipe and hose */
  roughnessFactor?: number;
  /** on Hazen–Williams C */
  hazenWilliamsFactor?: number;
  /** on the bore water meets */
  boreFactor?: number;
  /** on K, or the equivalent length, of a fitting; what a jet carries away is no loss of a table */
  lossFactor?: number;
  /** K on the velocity in its bore */
  addedK?: number;
  /** of a valve, 0 shut … 1 open */
  opening?: number;
}

/** m, added to the level of the source and of the water at an outlet, at every state of the water. */
export interface LevelCondition {
  source?: number;
  /** by the item of the path; outlets into the open have no level to move */
  outlets?: Readonly<Record<string, number>>;
}

export interface OrificeCondition {
  boreFactor?: number;
  blocked?: boolean;
}

/** A line as a condition leaves it, ready to be solved. */
export interface ConditionedModel {
  model: HydraulicModel;
  states: PumpState[];
  boundaryAt: (at: WaterLevel) => Boundary;
}

export function conditioned(ready: LineModel, condition: Condition): ConditionedModel {
  const line = conditionedLine(ready.line, condition);
  return {
    model: hydraulicModel(line, ready.model.context),
    states: pumpStates(ready, condition),
    boundaryAt: (at) => conditionedBoundary(ready.boundaries[at], ready.line, condition),
  };
}

export function conditionedLine(line: CompiledLine, condition: Condition): CompiledLine {
  const { everywhere, items = {}, orifices = {} } = condition;
  const segments =
    everywhere || Object.keys(items).length > 0
      ? line.segments.map((segment) => {
          const own = items[segment.itemId] ?? everywhere;
          return own ? conditionedSegment(segment, own) : segment;
        })
      : line.segments;
  const holes = line.holes.flatMap((hole) => {
    const own = orifices[hole.itemId];
    if (own?.blocked) return [];
    return [own?.boreFactor ? { ...hole, bore: hole.bore * own.boreFactor } : hole];
  });
  const stretches =
    segments === line.segments
      ? line.stretches
      : line.stretches.map((stretch) => {
          const shut = segments.slice(stretch.start, stretch.end).some((own) => own.shut);
          return shut === stretch.shut ? stretch : { ...stretch, shut };
        });
  return { ...line, segments, stretches, holes };
}

function conditionedSegment(segment: Segment, own: ItemCondition): Segment {
  const {
    roughnessFactor = 1,
    hazenWilliamsFactor = 1,
    boreFactor = 1,
    lossFactor = 1,
    addedK = 0,
  } = own;
  const { kind, run, fitting, count, emitter, drawdown } = segment;
  if (kind === "supply") return segment;
  const tabled = isWayOut(segment) ? 1 : lossFactor;
  const opening = fitting?.throttles ? (own.opening ?? segment.opening) : segment.opening;
  let k = segment.k * tabled + addedK;
  if (fitting && opening !== segment.opening) {
    const bore = segment.bore * boreFactor;
    const open = run ? 0 : lossCoefficient(fitting, bore);
    k = count * (open + throttleCoefficient(fitting, bore, opening)) * tabled + addedK;
  }
  return {
    itemId: segment.itemId,
    kind,
    side: segment.side,
    stock: segment.stock,
    fitting,
    count,
    opening,
    bore: segment.bore * boreFactor,
    k,
    run: run && {
      length: run.length * (kind === "pipe" ? 1 : tabled),
      bore: run.bore * boreFactor,
      roughness: run.roughness * roughnessFactor,
      hazenWilliamsC: run.hazenWilliamsC * hazenWilliamsFactor,
    },
    emitter,
    drawdown,
    shut: fitting?.throttles ? opening === 0 : segment.shut,
    startElevation: segment.startElevation,
    endElevation: segment.endElevation,
    startDistance: segment.startDistance,
    endDistance: segment.endDistance,
  };
}

function conditionedBoundary(
  boundary: Boundary,
  line: CompiledLine,
  { levels }: Condition,
): Boundary {
  if (!levels) return boundary;
  const { source = 0, outlets = {} } = levels;
  return {
    ...boundary,
    source: boundary.source + (line.source.kind === "mains" ? 0 : source),
    outlets: boundary.outlets.map((head, i) => {
      const item = line.outlets[i]?.item;
      return item && receivingWater(item.outlet) ? head + (outlets[item.id] ?? 0) : head;
    }),
  };
}

function pumpStates({ pumps, line, states }: LineModel, condition: Condition): PumpState[] {
  const { pumps: conditions = {} } = condition;
  return pumps.map(({ itemId, pump }, i): PumpState => {
    const own = conditions[itemId];
    if (!own) return states[i] as PumpState;
    if (own.stopped) return { kind: "stopped" };
    const speed = own.speedRatio ?? line.pumps[i]?.item.speedRatio ?? 1;
    return { kind: "running", curve: pumpCurve(pump, speed, own) };
  });
}
