import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { lastAtOrBefore } from "../numeric/sorted.ts";

/**
 * A body of water: m³ in it at a level in m above datum, and the other way round. Both rise together; what lies
 * under the bottom or over the rim is held at the nearer end.
 */
export interface WaterStore {
  /** m above datum */
  bottom: number;
  rim: number;
  volumeAt: (level: number) => number;
  levelAt: (volume: number) => number;
}

/**
 * Upright walls: a box, a cylinder, a room.
 * @example uprightStore(-1, 2, 0.5).levelAt(0.25) // -0.5
 */
export function uprightStore(bottom: number, depth: number, area: number): WaterStore {
  return {
    bottom,
    rim: bottom + depth,
    volumeAt: (level) => area * held(level - bottom, depth),
    levelAt: (volume) => bottom + held(volume / area, depth),
  };
}

/**
 * A rectangular floor of so many m² that falls by `falls[0]` m along its length and by `falls[1]` m across it: the water
 * stands deepest in one corner, and the volume under a level is that of a plane cut off at the walls.
 */
export function wedgeStore(
  bottom: number,
  depth: number,
  area: number,
  falls: readonly [number, number],
): WaterStore {
  const [less, most] = falls[0] < falls[1] ? falls : [falls[1], falls[0]];
  if (most <= 0) return uprightStore(bottom, depth, area);
  // So little across that the formula for two falls would lose its digits is none.
  const volumeOf = less > 1e-4 * most ? tiltedTwice(area, less, most) : tilted(area, most);
  const full = volumeOf(depth);
  const covered = volumeOf(less + most);
  return {
    bottom,
    rim: bottom + depth,
    volumeAt: (level) => volumeOf(held(level - bottom, depth)),
    levelAt: (volume) => {
      const v = held(volume, full);
      if (v >= covered) return bottom + v / area + (less + most) / 2;
      const top = Math.min(less + most, depth);
      const over = (h: number) => volumeOf(h) - v;
      return bottom + bracketedRoot(over, 0, top, -v, over(top), 1e-13 * top);
    },
  };
}

/** m³ under a depth of h m over the deep end of a floor that falls one way. */
const tilted = (area: number, fall: number) => (h: number) =>
  h < fall ? (area * h * h) / (2 * fall) : area * (h - fall / 2);

/** The same over the deep corner of one that falls both ways: ∫∫ (h − a x − b y)₊ dx dy over the unit square. */
const tiltedTwice = (area: number, a: number, b: number) => {
  const cube = (x: number) => (x > 0 ? x ** 3 : 0);
  return (h: number) =>
    h >= a + b
      ? area * (h - (a + b) / 2)
      : (area * (cube(h) - cube(h - a) - cube(h - b))) / (6 * a * b);
};

/**
 * A body of water with what fills beside it at the same level: gravel round a can, pipes that lead in. The others
 * count between its bottom and its rim.
 */
export function joinedStore(main: WaterStore, others: readonly WaterStore[]): WaterStore {
  if (others.length === 0) return main;
  const depth = main.rim - main.bottom;
  return inverted(main.bottom, depth, (h) => {
    const level = main.bottom + h;
    return others.reduce(
      (sum, own) => sum + own.volumeAt(level) - own.volumeAt(main.bottom),
      main.volumeAt(level),
    );
  });
}

/** A body of water of which only a part can be filled. */
export function porousStore(store: WaterStore, porosity: number): WaterStore {
  return porosity >= 1
    ? store
    : {
        ...store,
        volumeAt: (level) => porosity * store.volumeAt(level),
        levelAt: (volume) => store.levelAt(volume / porosity),
      };
}

/** A round pit or basin wider at the top: diameters in m. Volume of a cone's frustum. */
export function coneStore(
  bottom: number,
  depth: number,
  bottomDiameter: number,
  topDiameter: number,
): WaterStore {
  const widening = (topDiameter - bottomDiameter) / depth;
  return inverted(bottom, depth, (h) => {
    const top = bottomDiameter + widening * h;
    return (Math.PI / 12) * h * (bottomDiameter ** 2 + bottomDiameter * top + top ** 2);
  });
}

/** A pond with sloping sides: length and width of its floor in m, run of the slope over its rise. */
export function trapezoidStore(
  bottom: number,
  depth: number,
  length: number,
  width: number,
  slope: number,
): WaterStore {
  return inverted(
    bottom,
    depth,
    (h) => length * width * h + (length + width) * slope * h ** 2 + (4 / 3) * slope ** 2 * h ** 3,
  );
}

/**
 * A lying tank: a circle's segment times its length.
 * @example lyingCylinderStore(0, 1, 2).volumeAt(0.5) // 0.785
 */
export function lyingCylinderStore(bottom: number, diameter: number, length: number): WaterStore {
  const r = diameter / 2;
  return inverted(bottom, diameter, (h) => {
    const fromCentre = Math.min(Math.max((r - h) / r, -1), 1);
    return length * r * r * (Math.acos(fromCentre) - fromCentre * Math.sqrt(1 - fromCentre ** 2));
  });
}

/** Areas in m² at depths in m, straight between the rows, so that volumes are exact. At least two rows. */
export function tableStore(
  bottom: number,
  rows: readonly { depth: number; area: number }[],
): WaterStore {
  const volumes = [0];
  for (let i = 1; i < rows.length; i++) {
    const [a, b] = [row(rows, i - 1), row(rows, i)];
    volumes.push((volumes[i - 1] as number) + ((a.area + b.area) / 2) * (b.depth - a.depth));
  }
  const first = row(rows, 0).depth;
  const depth = row(rows, rows.length - 1).depth - first;
  return inverted(bottom, depth, (h) => {
    const d = h + first;
    let i = 1;
    while (i < rows.length - 1 && row(rows, i).depth < d) i++;
    const [a, b] = [row(rows, i - 1), row(rows, i)];
    const step = d - a.depth;
    const slope = (b.area - a.area) / (b.depth - a.depth);
    return (volumes[i - 1] as number) + a.area * step + (slope * step * step) / 2;
  });
}

/**
 * A pressure tank by Boyle's law: its "level" is the gauge pressure in Pa, its volume the water in it, m³. The
 * gas was `preCharge` Pa (gauge) with the tank empty. p V = constant, on absolute pressures.
 */
export function pressureTankStore(
  volume: number,
  preCharge: number,
  greatest: number,
  air = 101_325,
): WaterStore {
  const gas = (preCharge + air) * volume;
  return {
    bottom: preCharge,
    rim: greatest,
    volumeAt: (pressure) =>
      volume - gas / (Math.min(Math.max(pressure, preCharge), greatest) + air),
    levelAt: (water) =>
      Math.min(
        Math.max(gas / Math.max(volume - water, gas / (greatest + air)) - air, preCharge),
        greatest,
      ),
  };
}

function row(rows: readonly { depth: number; area: number }[], i: number) {
  return rows[i] as { depth: number; area: number };
}

function held(value: number, most: number): number {
  return Math.min(Math.max(value, 0), most);
}

/** Parts of its depth that a store is known at, so that a depth is sought in one of them and not in all of it. */
const PARTS = 64;

/** A store known by its volume at a depth; the depth of a volume is sought. */
function inverted(bottom: number, depth: number, volumeOf: (depth: number) => number): WaterStore {
  const full = volumeOf(depth);
  let volumes: Float64Array | undefined;
  return {
    bottom,
    rim: bottom + depth,
    volumeAt: (level) => volumeOf(held(level - bottom, depth)),
    levelAt: (volume) => {
      if (volume <= 0) return bottom;
      if (volume >= full) return bottom + depth;
      volumes ??= Float64Array.from({ length: PARTS + 1 }, (_, i) =>
        i === PARTS ? full : volumeOf((depth * i) / PARTS),
      );
      const i = lastAtOrBefore(volumes, volume);
      const [low, high] = [volumes[i] as number, volumes[i + 1] as number];
      const off = (h: number) => volumeOf(h) - volume;
      const [from, to] = [(depth * i) / PARTS, (depth * (i + 1)) / PARTS];
      return bottom + bracketedRoot(off, from, to, low - volume, high - volume, depth * 1e-12);
    },
  };
}
