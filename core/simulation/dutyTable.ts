import type { Boundary, PumpState } from "../hydraulics/boundary.ts";
import type { HydraulicModel } from "../hydraulics/hydraulicModel.ts";
import { stateOf } from "../hydraulics/solveLine.ts";
import { evaluate, type MonotoneCubic, monotoneCubic } from "../numeric/monotoneCubic.ts";

/**
 * What a line takes from its source at every level of it, tabulated once so that a simulation costs no solving:
 * tens of solves for thousands of steps. Levels outside the table are held at its ends.
 */
export interface DutyTable {
  /** m³/s drawn from the source; negative where water runs back */
  flowAt: (level: number) => number;
  levels: readonly number[];
}

/** `count` levels from `low` to `high` (m above datum); levels with no duty draw nothing. */
export function dutyTable(
  model: HydraulicModel,
  pumps: readonly PumpState[],
  boundaryAt: (level: number) => Boundary,
  low: number,
  high: number,
  count: number,
): DutyTable {
  const levels: number[] = [];
  const flows: number[] = [];
  let start: ReturnType<typeof stateOf>;
  for (let i = 0; i < count; i++) {
    const level = low + ((high - low) * i) / (count - 1);
    const result = model.solve(boundaryAt(level), pumps, start);
    start = stateOf(result);
    levels.push(level);
    flows.push(start ? drawn(model, start.byStretch, start.byPump) : 0);
  }
  const cubic: MonotoneCubic = monotoneCubic(levels, flows);
  return {
    levels,
    flowAt: (level) => evaluate(cubic, Math.min(Math.max(level, low), high)),
  };
}

/** m³/s that leaves the source, by every way that begins there. */
function drawn(
  { line }: HydraulicModel,
  byStretch: readonly number[],
  byPump: readonly number[],
): number {
  let sum = 0;
  for (const [i, { from, to }] of line.stretches.entries()) {
    if (from === 0) sum += byStretch[i] as number;
    if (to === 0) sum -= byStretch[i] as number;
  }
  for (const [i, { inlet }] of line.pumps.entries()) {
    if (inlet === 0) sum += byPump[i] as number;
  }
  return sum;
}
