import type { Boundary, PumpState } from "../hydraulics/boundary.ts";
import type { HydraulicModel } from "../hydraulics/hydraulicModel.ts";
import { stateOf } from "../hydraulics/solveLine.ts";
import { monotoneCubic } from "../numeric/monotoneCubic.ts";
import { powerAt, publishedValue } from "../pump/curve.ts";
import type { LineFlows } from "./dynamics.ts";
import { hasPump, setOf } from "./runningSet.ts";
import type { WaterStore } from "./waterStore.ts";

/** A line between bodies of water: where it takes from and puts into, by the number of the store. */
export interface LineBetween {
  model: HydraulicModel;
  /** of all pumps running, in the order of the path */
  states: readonly PumpState[];
  /** at which the levels of `stores` are `levelsThen` */
  boundary: Boundary;
  stores: readonly WaterStore[];
  /** the store that is the source; absent where its level stays */
  source?: number | undefined;
  /** the store each outlet puts into; absent where what it lets go is gone */
  receivers: readonly (number | undefined)[];
  levelsThen: readonly number[];
  /** times the power published for water */
  specificGravity: number;
}

export interface LineTable {
  /** writes what the line does; levels outside their stores are held at the ends */
  line: (levels: ArrayLike<number>, running: readonly boolean[], flows: LineFlows) => void;
  /** m³/s out of the source, less what vent holes let back into it */
  drawn: (levels: ArrayLike<number>, running: readonly boolean[]) => number;
  /** solves it took so far */
  solves: () => number;
}

/** Levels at which a line is solved, and columns of them where the receiving water counts by itself. */
const ROWS = 21;
const COLUMNS = 9;

/**
 * What a line does at every level and with every set of its pumps running, tabulated when first asked for, so that a
 * simulation costs no solving: tens of solves for thousands of steps. Flow between two bodies of water through one
 * pipe goes by the difference of their levels alone; where holes or several outlets make it more, both count.
 */
export function lineTable(between: LineBetween): LineTable {
  const { model, boundary, stores, source, receivers, levelsThen } = between;
  const { outlets } = model.line;
  const submerged = receivers.findIndex(
    (store, i) => store !== undefined && outlets[i]?.item.outlet.type === "submerged",
  );
  const far = submerged >= 0 ? receivers[submerged] : undefined;
  const byDifference = far !== undefined && outlets.length === 1 && model.line.holes.length === 0;
  const levelIn = (levels: ArrayLike<number>, store: number | undefined) =>
    store === undefined ? 0 : within(levels[store] as number, stores[store] as WaterStore);
  const rangeOf = (store: number | undefined): [number, number] => {
    const own = store === undefined ? undefined : (stores[store] as WaterStore);
    return own ? [own.bottom, own.rim] : [0, 0];
  };
  const [low, high] = rangeOf(source);
  const [farLow, farHigh] = rangeOf(far);
  const rows = byDifference
    ? spaced(low - farHigh, high - farLow, ROWS)
    : spaced(low, high, high > low ? ROWS : 1);
  const columns = byDifference || far === undefined ? [0] : spaced(farLow, farHigh, COLUMNS);
  const levelThen = (store: number | undefined) =>
    store === undefined ? 0 : (levelsThen[store] as number);
  const boundaryAt = (row: number, column: number): Boundary => {
    const [sourceLevel, farLevel] = byDifference
      ? [row + levelThen(far), levelThen(far)]
      : [row, column];
    return {
      source:
        boundary.source +
        (source === undefined && !byDifference ? 0 : sourceLevel - levelThen(source)),
      outlets: boundary.outlets.map((head, i) =>
        i === submerged && !byDifference ? head + farLevel - levelThen(far) : head,
      ),
    };
  };

  // With every pump standing and no water over an outlet nothing moves, and nothing has to be solved.
  const lowestOutlet = Math.min(...boundary.outlets);
  const stillWhenStopped =
    far === undefined && boundary.source - levelThen(source) + high <= lowestOutlet;

  let solves = 0;
  const sets = new Map<number, Column[]>();
  const solved = (bits: number): Column[] => {
    if (bits === 0 && stillWhenStopped) return [{ of: new Array(1 + outlets.length).fill(0) }];
    const states = between.states.map(
      (state, k): PumpState => (hasPump(bits, k) ? state : { kind: "stopped" }),
    );
    return columns.map((column): Column => {
      const values = Array.from(
        { length: 1 + outlets.length + states.length },
        () => [] as number[],
      );
      let start: ReturnType<typeof stateOf>;
      for (const row of rows) {
        const result = model.solve(boundaryAt(row, column), states, start);
        solves++;
        start = stateOf(result);
        const drawn = start ? drawnOf(model, start) : 0;
        values[0]?.push(drawn);
        for (const i of outlets.keys()) values[1 + i]?.push(start?.byOutlet[i] ?? 0);
        for (const [k, state] of states.entries()) {
          const flow = start?.byPump[k] ?? 0;
          values[1 + outlets.length + k]?.push(powerOf(state, flow) * between.specificGravity);
        }
      }
      return { of: values.map((own) => curveOf(rows, own)) };
    });
  };
  const tableOf = (bits: number): Column[] => {
    let found = sets.get(bits);
    if (!found) {
      found = solved(bits);
      sets.set(bits, found);
    }
    return found;
  };
  const span = (farHigh - farLow) / Math.max(columns.length - 1, 1);
  const rowAt = (levels: ArrayLike<number>) =>
    byDifference ? levelIn(levels, source) - levelIn(levels, far) : levelIn(levels, source);
  const columnAt = (levels: ArrayLike<number>) =>
    columns.length > 1 ? (levelIn(levels, far) - farLow) / span : 0;
  // Asked thousands of times with the same pumps running: the set is looked up when it changes.
  let lastRunning: readonly boolean[] | undefined;
  let lastTable: Column[] = [];
  const tableFor = (running: readonly boolean[]): Column[] => {
    if (running !== lastRunning) {
      lastTable = tableOf(setOf(running));
      lastRunning = running;
    }
    return lastTable;
  };
  const putting = receivers.flatMap((to, i) => (to === undefined ? [] : [{ to, which: 1 + i }]));
  return {
    solves: () => solves,
    drawn: (levels, running) =>
      valueAt(tableOf(setOf(running)), 0, rowAt(levels), columnAt(levels)),
    line: (levels, running, { taken, power }) => {
      const table = tableFor(running);
      const row = rowAt(levels);
      const along = columnAt(levels);
      taken.fill(0);
      if (source !== undefined) taken[source] = valueAt(table, 0, row, along);
      for (let i = 0; i < putting.length; i++) {
        const { to, which } = putting[i] as (typeof putting)[number];
        taken[to] = (taken[to] as number) - valueAt(table, which, row, along);
      }
      for (let k = 0; k < power.length; k++) {
        power[k] = running[k] ? valueAt(table, 1 + receivers.length + k, row, along) : 0;
      }
    },
  };
}

/** The value of a column at a row, straight between two columns where there are several. */
function valueAt(table: readonly Column[], which: number, row: number, along: number): number {
  if (table.length === 1) return evaluateColumn(table[0] as Column, which, row);
  const left = Math.min(Math.floor(along), table.length - 1);
  const first = evaluateColumn(table[left] as Column, which, row);
  const part = along - left;
  if (part <= 0) return first;
  return first + part * (evaluateColumn(table[left + 1] as Column, which, row) - first);
}

interface Column {
  /** what the source gives, what each outlet lets go, and what each pump draws */
  of: (Even | number)[];
}

/** A curve through evenly spaced points, each piece by the coefficients of its cubic from its left end. */
interface Even {
  first: number;
  step: number;
  pieces: number;
  coefficients: Float64Array;
}

function evaluateColumn({ of }: Column, which: number, row: number): number {
  const own = of[which] as Even | number;
  if (typeof own === "number") return own;
  const { first, step, pieces, coefficients: c } = own;
  const along = Math.min(Math.max((row - first) / step, 0), pieces);
  const piece = Math.min(Math.floor(along), pieces - 1);
  const t = along - piece;
  const k = 4 * piece;
  return (
    (c[k] as number) +
    t * ((c[k + 1] as number) + t * ((c[k + 2] as number) + t * (c[k + 3] as number)))
  );
}

function curveOf(rows: readonly number[], values: readonly number[]): Even | number {
  const [first, second] = rows as [number, number];
  if (rows.length < 2 || values.every((value) => value === values[0])) return values[0] as number;
  const { y, slope } = monotoneCubic(rows, values);
  const step = second - first;
  const pieces = rows.length - 1;
  const coefficients = new Float64Array(4 * pieces);
  for (let i = 0; i < pieces; i++) {
    const [a, b] = [y[i] as number, y[i + 1] as number];
    const [from, to] = [step * (slope[i] as number), step * (slope[i + 1] as number)];
    coefficients.set([a, from, 3 * (b - a) - 2 * from - to, 2 * (a - b) + from + to], 4 * i);
  }
  return { first, step, pieces, coefficients };
}

const spaced = (low: number, high: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) =>
    count > 1 ? low + ((high - low) * i) / (count - 1) : low,
  );

const within = (level: number, { bottom, rim }: WaterStore) =>
  Math.min(Math.max(level, bottom), rim);

function powerOf(state: PumpState, flow: number): number {
  return state.kind === "running" ? (publishedValue(powerAt(state.curve, flow)) ?? 0) : 0;
}

/** m³/s that leaves the source by every way that begins there, less what vent holes spray back into it. */
function drawnOf(
  { line }: HydraulicModel,
  { byStretch, byPump, lost }: NonNullable<ReturnType<typeof stateOf>>,
): number {
  let sum = 0;
  for (const [i, { from, to }] of line.stretches.entries()) {
    if (from === 0) sum += byStretch[i] as number;
    if (to === 0) sum -= byStretch[i] as number;
  }
  for (const [i, { inlet }] of line.pumps.entries()) {
    if (inlet === 0) sum += byPump[i] as number;
  }
  const vents = new Set(
    line.holes.flatMap(({ itemId, purpose }) => (purpose === "vent-hole" ? [itemId] : [])),
  );
  for (const { itemId, flow } of lost) if (vents.has(itemId)) sum -= flow;
  return sum;
}
