import type { Boundary, PumpState } from "../hydraulics/boundary.ts";
import type { HydraulicModel } from "../hydraulics/hydraulicModel.ts";
import { stateOf } from "../hydraulics/solveLine.ts";
import { monotoneCubic } from "../numeric/monotoneCubic.ts";
import { receivingWater } from "../outlet/outlets.ts";
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

/** Levels at which a line is solved at first, and columns of them where the receiving water counts by itself. */
const ROWS = 21;
const COLUMNS = 9;
/** m: rows are set no closer than this, and within it the flow goes straight to nothing */
const CLOSEST = 5e-4;
/** part of the greatest flow the curve through the rows may be off before another row is set, and the most rows there are */
const OFF = 1e-4;
const MOST_ROWS = 90;

/** What a line does at one state of the water: what the source gives, each outlet lets go, and each pump draws. */
type Flows = number[];

/**
 * What a line does at every level and with every set of its pumps running, tabulated when first asked for, so that a
 * simulation costs no solving: tens of solves for thousands of steps. Flow between two bodies of water through one
 * pipe goes by the difference of their levels alone; where holes or several outlets make it more, both count. Where
 * nothing drives the water there is a row of its own, and more of them about it: the flow begins there like a root, and
 * must never be read across. Outlets into several bodies of water are solved as they come.
 */
export function lineTable(between: LineBetween): LineTable {
  const { model, boundary, stores, source, receivers, levelsThen, states } = between;
  const { outlets } = model.line;
  const levelThen = (store: number | undefined) =>
    store === undefined ? 0 : (levelsThen[store] as number);
  const levelIn = (levels: ArrayLike<number>, store: number | undefined) =>
    store === undefined ? 0 : within(levels[store] as number, stores[store] as WaterStore);

  /** outlets under water that moves, with where their mouths are */
  const drowned = outlets.flatMap(({ item, elevation }, outlet) => {
    const store = receivers[outlet];
    return receivingWater(item.outlet) && store !== undefined
      ? [{ outlet, store, mouth: elevation }]
      : [];
  });
  /** the heads that hold the line's ends at such levels; water under a mouth does not hold it */
  const boundaryAt = (sourceLevel: number, farLevel: (store: number) => number): Boundary => {
    const heads = [...boundary.outlets];
    const bare = outlets.map(() => false);
    for (const { outlet, store, mouth } of drowned) {
      const level = farLevel(store);
      heads[outlet] =
        (heads[outlet] as number) + Math.max(level, mouth) - Math.max(levelThen(store), mouth);
      bare[outlet] = level < mouth;
    }
    return {
      source: boundary.source + (source === undefined ? 0 : sourceLevel - levelThen(source)),
      outlets: heads,
      bare,
    };
  };

  let solves = 0;
  let start: ReturnType<typeof stateOf>;
  const solveAt = (
    bits: number,
    sourceLevel: number,
    farLevel: (store: number) => number,
  ): Flows => {
    const running = states.map(
      (state, k): PumpState => (hasPump(bits, k) ? state : { kind: "stopped" }),
    );
    const found = stateOf(model.solve(boundaryAt(sourceLevel, farLevel), running, start));
    solves++;
    start = found;
    return [
      something(found ? drawnOf(model, found) : 0),
      ...outlets.map((_, i) => something(found?.byOutlet[i] ?? 0)),
      ...running.map((state, k) => powerOf(state, found?.byPump[k] ?? 0) * between.specificGravity),
    ];
  };

  // Its flows as they come, for any levels and any set of its pumps.
  const flowsAt = isTabled(drowned)
    ? tabled(between, drowned[0], solveAt, levelIn)
    : solved(source, solveAt, levelIn);
  const putting = receivers.flatMap((to, i) => (to === undefined ? [] : [{ to, which: 1 + i }]));
  return {
    solves: () => solves,
    drawn: (levels, running) => flowsAt(levels, running)(0),
    line: (levels, running, { taken, power }) => {
      const flow = flowsAt(levels, running);
      taken.fill(0);
      if (source !== undefined) taken[source] = flow(0);
      for (let i = 0; i < putting.length; i++) {
        const { to, which } = putting[i] as (typeof putting)[number];
        taken[to] = (taken[to] as number) - flow(which);
      }
      for (let k = 0; k < power.length; k++) {
        power[k] = running[k] ? flow(1 + receivers.length + k) : 0;
      }
    },
  };
}

/** Flows that rounding alone leaves where nothing drives the water, m³/s, are none. */
const something = (flow: number) => (Math.abs(flow) < 1e-9 ? 0 : flow);

interface Drowned {
  outlet: number;
  store: number;
  mouth: number;
}
type SolveAt = (bits: number, source: number, far: (store: number) => number) => Flows;
type LevelIn = (levels: ArrayLike<number>, store: number | undefined) => number;
/** the flow of a number of `Flows`, at levels and with a set of pumps */
type FlowsAt = (
  levels: ArrayLike<number>,
  running: readonly boolean[],
) => (which: number) => number;

/** Two levels at the most make a table: all drowned outlets end in one body of water, at one height. */
function isTabled(drowned: readonly Drowned[]): boolean {
  const [first] = drowned;
  return drowned.every(({ store, mouth }) => store === first?.store && mouth === first.mouth);
}

/** Outlets into several bodies of water: each state is solved when it is asked for. */
function solved(source: number | undefined, solveAt: SolveAt, levelIn: LevelIn): FlowsAt {
  return (levels, running) => {
    const flows = solveAt(setOf(running), levelIn(levels, source), (store) =>
      levelIn(levels, store),
    );
    return (which) => flows[which] as number;
  };
}

function tabled(
  { model, boundary, stores, source, levelsThen }: LineBetween,
  drowned: Drowned | undefined,
  solveAt: SolveAt,
  levelIn: LevelIn,
): FlowsAt {
  const { outlets, holes } = model.line;
  const own = source === undefined ? undefined : (stores[source] as WaterStore);
  const far = drowned && (stores[drowned.store] as WaterStore);
  const mouth = drowned?.mouth ?? 0;
  const [low, high] = own ? [own.bottom, own.rim] : [0, 0];
  // The water that holds the far end: that of the other body, or the mouth while it hangs over that.
  const held = (level: number) => Math.max(level, mouth);
  const [farLow, farHigh] = far ? [held(far.bottom), held(far.rim)] : [0, 0];
  const byDifference = outlets.length === 1 && holes.length === 0;
  const columns =
    !far || byDifference || !(farHigh > farLow) ? [farLow] : spaced(farLow, farHigh, COLUMNS);
  /** where rows are told from: the far water, or nothing */
  const base = (column: number) => (far ? column : 0);
  const sourceThen = source === undefined ? 0 : (levelsThen[source] as number);

  // With every pump standing and no water over an outlet nothing moves, and nothing has to be solved.
  const stillWhenStopped =
    !far && boundary.source - sourceThen + high <= Math.min(...boundary.outlets);

  const columnOf = (bits: number, column: number, bare: boolean): Column => {
    const flowsOf = (row: number) =>
      solveAt(bits, own ? row + base(column) : 0, () => (bare ? Number.NEGATIVE_INFINITY : column));
    // By the difference alone one column serves all levels of both.
    const [from, to] = byDifference
      ? [low - farHigh, high - farLow]
      : [low - column, high - column];
    const span: [number, number] = far ? (own ? [from, to] : [0, 0]) : [low, high];
    // Where the water of the source stands as high as what holds an outlet, nothing drives it that way.
    const level = boundary.outlets.map((head, i) =>
      far && i === drowned?.outlet ? 0 : head - boundary.source + sourceThen - base(column),
    );
    return columnThrough(flowsOf, span, far ? [0, ...level] : level);
  };
  const still: Column = {
    x: [0],
    of: new Array(1 + outlets.length + model.line.pumps.length).fill(0),
  };
  interface Table {
    bare: Column | undefined;
    covered: Column[];
  }
  const sets = new Map<number, Table>();
  const tableOf = (bits: number): Table => {
    let found = sets.get(bits);
    if (!found) {
      found =
        bits === 0 && stillWhenStopped
          ? { bare: undefined, covered: [still] }
          : {
              bare: far && far.bottom <= mouth ? columnOf(bits, mouth, true) : undefined,
              covered: columns.map((column) => columnOf(bits, column, false)),
            };
      sets.set(bits, found);
    }
    return found;
  };
  const step = (farHigh - farLow) / Math.max(columns.length - 1, 1);
  // Asked thousands of times with the same pumps running: the set is looked up when it changes.
  let lastRunning: readonly boolean[] | undefined;
  let lastTable: Table | undefined;
  return (levels, running) => {
    if (running !== lastRunning || !lastTable) {
      lastTable = tableOf(setOf(running));
      lastRunning = running;
    }
    const { bare, covered } = lastTable;
    const farLevel = far && drowned ? levelIn(levels, drowned.store) : 0;
    const there = held(farLevel);
    const row = far ? (own ? levelIn(levels, source) - there : 0) : levelIn(levels, source);
    if (bare && farLevel <= mouth) return (which) => evaluateColumn(bare, which, row);
    if (covered.length === 1) return (which) => evaluateColumn(covered[0] as Column, which, row);
    const along = Math.min(Math.max((there - farLow) / step, 0), covered.length - 1);
    const left = Math.min(Math.floor(along), covered.length - 2);
    const part = along - left;
    return (which) => {
      const first = evaluateColumn(covered[left] as Column, which, row);
      return part <= 0
        ? first
        : first + part * (evaluateColumn(covered[left + 1] as Column, which, row) - first);
    };
  };
}

interface Column {
  /** rows, rising */
  x: readonly number[];
  /** what the source gives, what each outlet lets go, and what each pump draws */
  of: (Float64Array | number)[];
}

/**
 * Curves through what `flowsOf` gives over a span: rows evenly, one at each of `bends`, and more where the flow bends
 * faster than the curve between two rows could follow.
 */
function columnThrough(
  flowsOf: (row: number) => Flows,
  [low, high]: readonly [number, number],
  bends: readonly number[],
): Column {
  if (!(high > low)) return { x: [low], of: flowsOf(low) };
  const at = [...spaced(low, high, ROWS), ...bends.filter((row) => row > low && row < high)];
  let rows = spread(at).map((x) => ({ x, y: flowsOf(x) }));
  while (rows.length < MOST_ROWS) {
    const bent = bentBetween(rows);
    if (bent.length === 0) break;
    const more = bent.map((i) => {
      const x = ((rows[i]?.x as number) + (rows[i + 1]?.x as number)) / 2;
      return { x, y: flowsOf(x) };
    });
    rows = [...rows, ...more].toSorted((a, b) => a.x - b.x);
  }
  const x = rows.map((row) => row.x);
  const count = rows[0]?.y.length ?? 0;
  return {
    x,
    of: Array.from({ length: count }, (_, which) =>
      curveOf(
        x,
        rows.map(({ y }) => y[which] as number),
      ),
    ),
  };
}

/** Rising, none nearer than the closest two may be; what is exact stays. */
function spread(rows: readonly number[]): number[] {
  const exact = new Set(rows.slice(ROWS));
  return rows
    .toSorted((a, b) => a - b)
    .filter((row, i, all) => {
      const near = all.some(
        (other, k) => k !== i && Math.abs(other - row) < CLOSEST && exact.has(other),
      );
      return exact.has(row) ? all.indexOf(row) === i : !near;
    });
}

/**
 * Numbers of the gaps in whose middle a curve through the rows may be off: slopes that change more from gap to gap than
 * a plain bend does, as they do where a flow begins or turns.
 */
function bentBetween(rows: readonly { x: number; y: Flows }[]): number[] {
  const found = new Set<number>();
  const count = rows[0]?.y.length ?? 0;
  const gap = (i: number) => (rows[i + 1]?.x as number) - (rows[i]?.x as number);
  for (let which = 0; which < count; which++) {
    const y = rows.map((row) => row.y[which] as number);
    const scale = y.reduce((most, own) => Math.max(most, Math.abs(own)), 0);
    if (scale === 0) continue;
    const slope = (i: number) => ((y[i + 1] as number) - (y[i] as number)) / gap(i);
    for (let i = 0; i + 1 < rows.length; i++) {
      if (gap(i) < 2 * CLOSEST) continue;
      const own = slope(i);
      const before = i > 0 ? own - slope(i - 1) : undefined;
      const after = i + 2 < rows.length ? slope(i + 1) - own : undefined;
      // A steady change of slope is a parabola, which the curve follows.
      const odd =
        before !== undefined && after !== undefined
          ? Math.abs(after - before)
          : Math.abs(before ?? after ?? 0) / 4;
      if ((odd * gap(i)) / 16 > OFF * scale) found.add(i);
    }
  }
  return [...found];
}

function evaluateColumn({ x, of }: Column, which: number, row: number): number {
  const c = of[which] as Float64Array | number;
  if (typeof c === "number") return c;
  const last = x.length - 2;
  let low = 0;
  let high = last;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((x[middle] as number) <= row) low = middle;
    else high = middle - 1;
  }
  const t = Math.min(Math.max(row, x[0] as number), x[last + 1] as number) - (x[low] as number);
  const k = 4 * low;
  return (
    (c[k] as number) +
    t * ((c[k + 1] as number) + t * ((c[k + 2] as number) + t * (c[k + 3] as number)))
  );
}

/** Pieces of a curve through points, each by the coefficients of its cubic from its left end. */
function curveOf(rows: readonly number[], values: readonly number[]): Float64Array | number {
  if (values.every((value) => value === values[0])) return values[0] as number;
  const { y, slope } = monotoneCubic(rows, values);
  const pieces = rows.length - 1;
  const coefficients = new Float64Array(4 * pieces);
  for (let i = 0; i < pieces; i++) {
    const h = (rows[i + 1] as number) - (rows[i] as number);
    const [a, b] = [y[i] as number, y[i + 1] as number];
    const [from, to] = [slope[i] as number, slope[i + 1] as number];
    const secant = (b - a) / h;
    coefficients.set(
      [a, from, (3 * secant - 2 * from - to) / h, (from + to - 2 * secant) / (h * h)],
      4 * i,
    );
  }
  return coefficients;
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
