import fs from "node:fs";
import { bisect } from "fmin/src/bisect.js";
import { lusolve } from "mathjs";
import newtonRaphson from "newton-raphson-method";
import { Solver } from "odex";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { PIPE_STOCK } from "#core/catalogue/pipes.ts";
import { dutyBand, USUAL_DRAWS, USUAL_UNCERTAINTY } from "#core/condition/uncertainty.ts";
import { boundaryAt } from "#core/hydraulics/boundary.ts";
import { hydraulicModel } from "#core/hydraulics/hydraulicModel.ts";
import { type Link, type Network, solveNetwork } from "#core/hydraulics/network.ts";
import { operatingPoint } from "#core/hydraulics/operatingPoint.ts";
import { lineModel, type Solution, solveLine } from "#core/hydraulics/solveLine.ts";
import { compileLine } from "#core/line/compileLine.ts";
import { levelsOf, type PathItem } from "#core/line/path.ts";
import { evaluate } from "#core/numeric/monotoneCubic.ts";
import { darcyWeisbachLoss } from "#core/pipe/darcyWeisbach.ts";
import { lineTable } from "#core/simulation/lineTable.ts";
import { simulate } from "#core/simulation/simulate.ts";
import { trapezoidStore, uprightStore } from "#core/simulation/waterStore.ts";
import { compareSizes } from "#core/sizes/sizes.ts";
import { GLASSHOUSES, TALLOW_MILL } from "#demo/jobs.ts";
import { solveJob } from "#model/job/solveJob.ts";
import { settingOf, simulateSetting } from "#model/simulation/overTime.ts";
import { TIME_DRAWS, timeRange } from "#model/simulation/range.ts";
import { benchChoosing } from "./choose.ts";
import { benchLoad } from "./load.ts";
import { benchMeasuring } from "./measuring.ts";
import { benchPage } from "./page.ts";
import { benchStorage } from "./storage.ts";
import { benchWatering } from "./watering.ts";
import { benchWell } from "./well.ts";

/**
 * npm run bench: what the computation costs. Figures that travel between machines are ratios within
 * this one run; the microseconds belong to this machine.
 */
const job = jobSchema.parse(GLASSHOUSES);

/** The demo job with its discharge repeated until the path holds about `items` items. */
function jobOf(items: number): JobDocument {
  const pump = job.path.findIndex((item) => item.kind === "pump");
  const outlet = job.path.at(-1);
  const body = job.path.slice(pump + 1, -1);
  const discharge: PathItem[] = [];
  for (let i = 0; discharge.length < items - 3; i++) {
    const item = body[i % body.length];
    if (!item) break;
    // Each run shortened and level after the first round, so that the pump still reaches the outlet.
    const share = body.length / items;
    discharge.push(
      item.kind === "pipe"
        ? { ...item, id: `r${i}`, length: item.length * share, rise: item.rise * share }
        : { ...item, id: `r${i}` },
    );
  }
  const suction = job.path.slice(0, pump + 1);
  return { ...job, path: [...suction, ...discharge, outlet] as JobDocument["path"] };
}

function solutionOf(document: JobDocument): Solution {
  const result = solveLine(document, document.pumps);
  if (result.kind !== "solved") throw new Error(JSON.stringify(result.diagnostics));
  return result.solution;
}

/** ms of warm-up: the compiler of the engine has done its work by then */
const WARM = 400;

/** Median time of one call in µs over batches, after a warm-up. */
function microseconds(work: () => unknown): number {
  let sink: unknown;
  const batch = (n: number) => {
    const start = performance.now();
    for (let i = 0; i < n; i++) sink = work();
    return ((performance.now() - start) * 1000) / n;
  };
  const first = batch(1);
  // What takes long is timed three times; what is quick, often enough for the clock.
  if (first > 20_000) return [first, batch(1), batch(1)].sort((a, b) => a - b)[1] as number;
  for (const end = performance.now() + WARM; performance.now() < end; ) batch(20);
  const size = Math.max(5, Math.round(20_000 / Math.max(batch(20), 1)));
  const rounds = Array.from({ length: 15 }, () => batch(size)).sort((a, b) => a - b);
  if (sink === undefined) throw new Error("nothing was computed");
  return rounds[7] as number;
}

function row(name: string, value: string, note = ""): void {
  console.log(`${name.padEnd(52)} ${value.padStart(12)}  ${note}`);
  const { FIGURES } = process.env;
  if (FIGURES) fs.appendFileSync(FIGURES, `${JSON.stringify([name.trim(), value, note])}\n`);
}

// npm run bench -- pages: only what pages cost.
if (process.argv[2] === "pages") {
  if (process.env.CHROMIUM) await benchPage(row, process.env.CHROMIUM);
  process.exit();
}

const ten = jobOf(10);
const { pumps, line, model, boundaries, states } = solutionOf(ten);
const { curve } = pumps[0] as (typeof pumps)[number];
const { context } = model;
const asks = model.systemHead(boundaries.normal);
const lineHead = (flow: number) => asks(flow) as number;
const surplus = (flow: number) => evaluate(curve.head, flow) - lineHead(flow);

const ours = microseconds(() => operatingPoint(curve, lineHead));
const general = microseconds(() =>
  bisect(surplus, 1e-9, curve.lastFlow, { tolerance: 1e-12 * curve.lastFlow, maxIterations: 200 }),
);
const newton = microseconds(() =>
  newtonRaphson(
    (x: number) => surplus(Math.min(Math.max(x, 1e-9), curve.lastFlow)),
    curve.lastFlow / 2,
    {
      tolerance: 1e-12,
      h: 1e-7,
    },
  ),
);
const outcome = operatingPoint(curve, lineHead);
const check = bisect(surplus, 1e-9, curve.lastFlow, { tolerance: 1e-15, maxIterations: 300 });
if (outcome.kind !== "runs" || Math.abs(outcome.duty.flow / check - 1) > 1e-9) {
  throw new Error("The two solvers disagree.");
}

console.log(
  `Ten-item line, ${line.segments.length} segments, Darcy–Weisbach, duty to 1e-12 of the last flow\n`,
);
row("operating point, every crossing found", `${ours.toFixed(1)} µs`);
row(
  "the same with its outcome, flows and heads",
  `${microseconds(() => model.solve(boundaries.normal, states)).toFixed(1)} µs`,
);
row("compiling the line", `${microseconds(() => compileLine(ten)).toFixed(1)} µs`);
row(
  "the same root, general bisection (fmin)",
  `${general.toFixed(1)} µs`,
  `ratio ours/general ${(ours / general).toFixed(2)}`,
);
row(
  "the same root, general Newton (newton-raphson-method)",
  `${newton.toFixed(1)} µs`,
  `ratio ours/general ${(ours / newton).toFixed(2)}`,
);

const edit = microseconds(() => solveJob(ten));
row(
  "one edit, warm: three levels, ledger, checks, sizes",
  `${(edit / 1000).toFixed(3)} ms`,
  `${((100 * edit) / 16_000).toFixed(1)} % of a 16 ms frame`,
);

const band = (document: JobDocument) => () =>
  dutyBand(lineModel(document, document.pumps), USUAL_UNCERTAINTY, USUAL_DRAWS);
const ofTen = microseconds(band(ten));
/** The band's work by a general solver: as many roots of the same line against the same pump. */
const bandGeneral = microseconds(() => {
  let sum = 0;
  for (let i = 0; i < USUAL_DRAWS; i++) sum += rootOf(ten);
  return sum;
});
row(
  `band of the duty, ${USUAL_DRAWS} draws`,
  `${(ofTen / 1000).toFixed(1)} ms`,
  `in a worker of the page; ratio ours/general ${(ofTen / bandGeneral).toFixed(2)}`,
);

const sizes = PIPE_STOCK.filter(({ bore }) => bore > 0.03 && bore < 0.16).slice(0, 40);
const compare = (document: JobDocument) => () =>
  compareSizes(document, document.pumps, [longestRun(document)], sizes, "normal");
const compared = microseconds(compare(ten));
const comparedGeneral = microseconds(() => {
  let sum = 0;
  for (const stock of sizes) sum += rootOf(laidIn(ten, stock.id));
  return sum;
});
row(
  `${sizes.length} sizes compared, normal water and ledger each`,
  `${(compared / 1000).toFixed(2)} ms`,
  `ratio to one general root each ${(compared / comparedGeneral).toFixed(2)}`,
);

/** Duty at normal water by a general bisection on the line compiled anew. */
function rootOf(document: JobDocument): number {
  const compiled = compileLine(document);
  if (compiled.kind === "refused") throw new Error("refused");
  const boundary = boundaryAt(compiled.line, "normal", context.water);
  const head = hydraulicModel(compiled.line, context).systemHead(boundary);
  return bisect(
    (q: number) => evaluate(curve.head, q) - (head(q) as number),
    1e-9,
    curve.lastFlow,
    {
      tolerance: 1e-12 * curve.lastFlow,
      maxIterations: 200,
    },
  );
}

function longestRun(document: JobDocument): string {
  const runs = document.path.filter((item) => item.kind === "pipe");
  return runs.reduce((best, run) => (run.length > best.length ? run : best)).id;
}

function laidIn(document: JobDocument, stock: string): JobDocument {
  const id = longestRun(document);
  const path = document.path.map((item) =>
    item.kind === "pipe" && item.id === id ? { ...item, stock } : item,
  );
  return { ...document, path };
}

console.log("\nGrowth with the line: three levels, 40 sizes, band\n");
let before: number[] | undefined;
for (const items of [10, 32, 100, 316, 1000]) {
  const document = jobOf(items);
  const costs = [
    microseconds(() => solveLine(document, document.pumps)),
    microseconds(compare(document)),
    microseconds(band(document)),
  ];
  const [levels = 0, forty = 0, drawn = 0] = costs;
  row(
    `${document.path.length} items`,
    `${levels.toFixed(0)} µs`,
    `${(forty / 1000).toFixed(1)} ms, ${(drawn / 1000).toFixed(0)} ms  ${
      before ? costs.map((cost, i) => `×${(cost / (before?.[i] ?? 1)).toFixed(2)}`).join(", ") : ""
    }`,
  );
  before = costs;
}

/** A ladder of `rungs` squares: 3 links and 2 junctions each, water in at one end, out at the other. */
function ladder(rungs: number): Network {
  const link = (from: number, to: number, length: number): Link => {
    const run = { length, bore: 0.0525, roughness: 1.5e-6, hazenWilliamsC: 150 };
    return {
      from,
      to,
      loss: (q) => Math.sign(q) * darcyWeisbachLoss(run, Math.abs(q), context.water),
    };
  };
  const junctions = 2 * rungs;
  const links = [link(junctions, 0, 5), link(junctions - 1, junctions + 1, 5)];
  for (let i = 0; i < rungs; i++) {
    links.push(link(2 * i, 2 * i + 1, 8));
    if (i + 1 < rungs) links.push(link(2 * i, 2 * i + 2, 20), link(2 * i + 1, 2 * i + 3, 30));
  }
  return { junctions, fixedHeads: [30, 5], inflows: new Array(junctions).fill(0), links };
}

benchChoosing(row);

console.log("\nA pit over time\n");
{
  const [volume, area, pumped, inflow] = [0.04, 0.2, 0.0022, 0.0011];
  const cycle = (4 * volume) / pumped;
  const run = (events: number) =>
    simulate(
      {
        stores: [uprightStore(-1, 3, area)],
        pumps: [{ supply: "mains" }],
        inflow: (_, into) => into.fill(inflow),
        controls: [{ pumps: [0], store: 0, on: volume / area, off: 0 }],
        line: (_, [on], { taken }) => taken.fill(on ? pumped : 0),
      },
      { levels: [0.1] },
      (events / 2 + 1) * cycle,
      { longestStep: 3600, mostEvents: events },
    );
  if (run(10_000).events.length !== 10_000) throw new Error("Not as many events as asked for.");
  const costs = [1000, 10_000].map((events) => microseconds(() => run(events)) / 1000);
  const [few = 0, many = 0] = costs;
  row("10 000 float events", `${many.toFixed(1)} ms`, `×${(many / few).toFixed(1)} for ×10 events`);

  // A pond emptied by the ten-item line, beside the general solver on the same table.
  const pond = trapezoidStore(-3, 4, 30, 20, 1.5);
  const table = lineTable({
    ...{ model, states, boundary: boundaries.normal, stores: [pond], source: 0 },
    ...{ receivers: [undefined], levelsThen: [levelsOf(line.source).normal], specificGravity: 1 },
  });
  const running = [true];
  const hours = 20 * 3600;
  const volumeAt = pond.volumeAt(0.5);
  const oursCost = microseconds(() =>
    simulate(
      {
        stores: [pond],
        pumps: [{ supply: "mains" }],
        inflow: (_, into) => into.fill(0.0005),
        controls: [],
        line: (levels, _, { taken }) => taken.fill(table.drawn(levels, running)),
      },
      { levels: [0.5] },
      hours,
      { longestStep: 7200 },
    ),
  );
  const generalCostOf = microseconds(() => {
    const solver = new Solver(1);
    solver.absoluteTolerance = 1e-8 * volumeAt;
    solver.relativeTolerance = 1e-8;
    return solver.solve(
      (_: number, [v = 0]: number[]) => [0.0005 - table.drawn([pond.levelAt(v)], running)],
      0,
      [volumeAt],
      hours,
    );
  });
  row(
    "a pond emptied over twenty hours",
    `${oursCost.toFixed(0)} µs`,
    `ratio ours/general (odex) ${(oursCost / generalCostOf).toFixed(2)}`,
  );

  // A day of rain on a small pit with two pumps: some five hundred starts, its duties tabulated with it.
  const mill = jobSchema.parse(TALLOW_MILL) as JobDocument;
  const { controls = [], storm, ...over } = mill.overTime ?? {};
  const day = (hours: number): JobDocument => ({
    ...mill,
    bodies: mill.bodies?.map((body) => ({
      ...body,
      shape: { kind: "box", length: 0.6, width: 0.5, depth: 2.5 },
    })) as JobDocument["bodies"],
    overTime: {
      ...over,
      controls: controls.map((own) =>
        own.kind === "float" ? { ...own, on: own.role === "lag" ? -1.6 : -1.9, off: -2.2 } : own,
      ),
      storm: {
        ...{ kind: "block", depth: 0.0037 * hours, duration: hours * 3600, start: 0 },
        ...(storm?.catches && { catches: storm.catches }),
      },
      span: hours * 3600,
    },
  });
  const ran = (hours: number) => {
    const setting = settingOf(day(hours));
    if (setting.kind !== "setting") throw new Error(setting.kind);
    return simulateSetting(setting.setting);
  };
  const starts = (hours: number) => ran(hours).totals.starts.reduce((sum, own) => sum + own, 0);
  // Warm, as a worker that has run it before, and the middle of many: single runs differ by half.
  const times = [24, 48].map((): number[] => []);
  for (let i = 0; i < 60; i++) {
    for (const [k, hours] of [24, 48].entries()) {
      const start = performance.now();
      ran(hours);
      if (i >= 30) times[k]?.push(performance.now() - start);
    }
  }
  const [one, two] = times.map((own) => own.sort((a, b) => a - b)[15]);
  row(
    `a day of rain on a two-pump pit, ${starts(24)} starts`,
    `${(one as number).toFixed(1)} ms`,
    `×${((two as number) / (one as number)).toFixed(1)} for two days, ${starts(48)} starts; tables solved anew each time`,
  );
  const began = performance.now();
  const range = timeRange(day(24), USUAL_UNCERTAINTY, TIME_DRAWS);
  if (range.kind !== "range") throw new Error(range.kind);
  row(`${TIME_DRAWS} draws of it`, `${((performance.now() - began) / 1000).toFixed(1)} s`);
}

{
  const thousand = jobOf(1000);
  const cost = microseconds(() => solveJob(thousand));
  row(
    "what a key computes on 1 000 items",
    `${(cost / 1000).toFixed(1)} ms`,
    `×${(cost / edit).toFixed(1)} of 10 items`,
  );
}

console.log("\nKeeping\n");
benchMeasuring(row);
benchWatering(row);
benchWell(row);
await benchStorage(row);
await benchLoad(row);
if (process.env.CHROMIUM) await benchPage(row, process.env.CHROMIUM);

console.log("\nNetworks, global gradient method\n");
let last: { cost: number; links: number } | undefined;
for (const rungs of [10, 32, 100, 316]) {
  const network = ladder(rungs);
  const solution = solveNetwork(network);
  if (solution.kind !== "balanced") throw new Error(JSON.stringify(solution));
  const cost = microseconds(() => solveNetwork(network));
  const links = network.links.length;
  const growth = last
    ? `×${(cost / last.cost).toFixed(2)} for ×${(links / last.links).toFixed(2)} links`
    : "";
  const note =
    rungs === 10 ? `ratio ours/general ${(cost / generalCost(network)).toFixed(3)}` : growth;
  row(`${links} links, ${solution.steps} steps`, `${cost.toFixed(0)} µs`, note);
  last = { cost, links };
}

/**
 * The same network by Newton's method on all flows and heads at once, with a Jacobian by differences and
 * the linear equations of a general package (mathjs).
 */
function generalCost({ junctions, fixedHeads, inflows, links }: Network): number {
  const size = links.length + junctions;
  const headAt = (x: readonly number[], node: number) =>
    node < junctions
      ? (x[links.length + node] as number)
      : (fixedHeads[node - junctions] as number);
  const residuals = (x: readonly number[]) => {
    const net = [...inflows];
    const energy = links.map(({ from, to, loss }, k) => {
      const q = x[k] as number;
      if (from < junctions) net[from] = (net[from] as number) - q;
      if (to < junctions) net[to] = (net[to] as number) + q;
      return headAt(x, from) - headAt(x, to) - loss(q);
    });
    return [...energy, ...net];
  };
  const solve = () => {
    let x = [...links.map(() => 1e-3), ...new Array<number>(junctions).fill(15)];
    for (let step = 0; step < 60; step++) {
      const f = residuals(x);
      if (Math.max(...f.map(Math.abs)) < 1e-6) return x;
      const jacobian = Array.from({ length: size }, () => new Array<number>(size).fill(0));
      for (let j = 0; j < size; j++) {
        const h = Math.max(Math.abs(x[j] as number) * 1e-6, 1e-9);
        const moved = residuals(x.with(j, (x[j] as number) + h));
        for (let i = 0; i < size; i++) {
          (jacobian[i] as number[])[j] = ((moved[i] as number) - (f[i] as number)) / h;
        }
      }
      const change = lusolve(jacobian, f) as number[][];
      x = x.map((value, i) => value - (change[i]?.[0] ?? 0));
    }
    throw new Error("The general solver did not come to rest.");
  };
  const found = solve();
  const ours = solveNetwork({ junctions, fixedHeads, inflows, links });
  if (ours.kind !== "balanced") throw new Error("not balanced");
  for (const [k, q] of ours.flows.entries()) {
    if (Math.abs(q - (found[k] as number)) > 1e-7) throw new Error("The two solvers disagree.");
  }
  return microseconds(solve);
}
