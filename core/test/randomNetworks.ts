import { WATER_LEVELS, type WaterLevel } from "../fluid/levels.ts";
import { lineModel } from "../hydraulics/solveLine.ts";
import type { Line, PathItem } from "../line/path.ts";
import { latinHypercube } from "../numeric/latinHypercube.ts";
import type { Pump } from "../pump/pump.ts";
import {
  check,
  gun,
  hole,
  levels,
  lineOf,
  open,
  pipe,
  pumpOf,
  set,
  split,
  tank,
} from "./fixtures.ts";

/**
 * Random lines that part, meet, leak and run on one pump to three, each solvable: used with fixed seeds in the
 * tests, and with fresh ones by `npm run endure`.
 */
export interface Drawn {
  seed: number;
  line: Line;
  pumps: Pump[];
}

const SIZES = [
  "pvc-sch40-3-4in",
  "pvc-sch40-1-1-4in",
  "pvc-sch40-1-1-2in",
  "pvc-sch40-2in",
  "pvc-sch40-3in",
  "lay-flat-2in",
];

/** One network a seed, the same each time. */
export function drawNetwork(seed: number): Drawn {
  const numbers = latinHypercube(160, 1, seed * 2 + 1).map(([u]) => u as number);
  let at = 0;
  const draw = (low = 0, high = 1) =>
    low + (high - low) * (numbers[at++ % numbers.length] as number);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(draw(0, list.length))] as T;
  const chance = (part: number) => draw() < part;
  let ids = 0;
  const id = (kind: string) => `${kind}${ids++}`;
  const run = (rise = draw(-0.3, 0.8)): PathItem => {
    const length = draw(1, 60);
    return pipe(id("r"), pick(SIZES), length, rise * Math.min(length, 12));
  };
  const end = (): PathItem => {
    const kind = draw();
    if (kind < 0.4) return open(id("o"));
    return kind < 0.75 ? gun(id("g"), draw(0.004, 0.014)) : tank(id("t"), draw(-2, 12));
  };
  const pumps: Pump[] = [];
  const pump = (): PathItem => {
    const own = pumpOf(id("m"), draw(12, 80), draw(0.002, 0.03));
    pumps.push(own);
    return set(id("p"), own.id);
  };
  const count = 1 + Math.floor(draw(0, 3));
  const head: PathItem[] =
    count === 1
      ? [pump()]
      : [
          split(
            id("s"),
            ...Array.from({ length: count }, () => [
              pump(),
              ...(chance(0.4) ? [hole(id("h"), "vent-hole", draw(0.002, 0.006))] : []),
              ...(chance(0.85) ? [check(id("c"))] : []),
              pipe(id("d"), pick(SIZES), 2, 1),
            ]),
          ),
        ];
  const path: PathItem[] = [...head, run()];
  if (chance(0.5)) path.push(hole(id("h"), "leak", draw(0.001, 0.008)));
  if (chance(0.6)) {
    const rise = draw(-1, 3);
    path.push(
      split(
        id("s"),
        ...Array.from({ length: 2 + Math.floor(draw(0, 2)) }, () => [
          ...(chance(0.2) ? [check(id("c"))] : []),
          pipe(id("l"), pick(SIZES), 4 + draw(0, 40), rise),
        ]),
      ),
      run(),
    );
  }
  if (chance(0.4)) path.push(hole(id("h"), "leak", draw(0.001, 0.008)));
  path.push(
    split(
      id("s"),
      ...Array.from({ length: 2 + Math.floor(draw(0, 2)) }, () => [
        run(),
        ...(chance(0.3) ? [hole(id("h"), "leak", draw(0.001, 0.006))] : []),
        ...(chance(0.2) ? [check(id("c"))] : []),
        end(),
      ]),
    ),
  );
  const level = levels(draw(-1.5, -0.2), 0, draw(0.2, 1.5));
  return { seed, line: lineOf(path, { source: { kind: "open", level, intake: -2 } }), pumps };
}

/** Seeds of those that did not balance, of `count` from a first seed on. */
export function unbalanced(first: number, count: number): number[] {
  const seeds: number[] = [];
  for (let seed = first; seed < first + count; seed++) {
    const { line, pumps } = drawNetwork(seed);
    const ready = lineModel(line, pumps);
    if (ready.kind === "refused") throw new Error(JSON.stringify(ready.diagnostics));
    // One level each, in turn.
    const at = WATER_LEVELS[seed % WATER_LEVELS.length] as WaterLevel;
    const result = ready.model.solve(ready.boundaries[at], ready.states);
    if (result.kind === "not-balanced" && result.diagnostic.code === "not-balanced") {
      seeds.push(seed);
    }
  }
  return seeds;
}
