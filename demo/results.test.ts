import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { type PumpDocument, pumpSchema } from "#contract/documents/pump.ts";
import { PIPE_STOCK } from "#core/catalogue/pipes.ts";
import { countOf } from "#core/finding/count.ts";
import { everyItem } from "#core/line/path.ts";
import { LIBRARY as SHIPPED } from "#library/pumps.ts";
import { COMPUTATIONS, resultsOf } from "#model/results/computations.ts";
import { type Look, ResultGraph } from "#model/results/graph.ts";
import { DECLARED, type Inputs, type ResultName } from "#model/results/results.ts";
import { summariseJob } from "#model/results/summaries.ts";
import { slimPump } from "#model/selection/slim.ts";
import { DEMO_JOBS } from "./jobs.ts";

const JOBS = DEMO_JOBS.map(({ id, job }) => ({ id, job: jobSchema.parse(job) as JobDocument }));
const pumpIn = ({ path }: JobDocument) =>
  everyItem(path).find(({ kind }) => kind === "pump")?.id ?? "";

/** With every field that a demo job may not have, and one whose line nobody has drawn yet. */
const RICHER: typeof JOBS = [
  ...JOBS.map(({ id, job }) => ({
    id,
    job: {
      ...job,
      doubt: { level: 0.1, roughnessFactor: 1.5, hazenWilliamsC: 0.04, fittings: 0.3 },
      assumed: [...(job.assumed ?? []), "source.level.low"],
      ...(job.bodies && {
        overTime: {
          ...job.overTime,
          battery: { ampereHours: 70, volts: 12, pumps: [pumpIn(job)] },
        },
      }),
    },
  })),
  {
    id: "undrawn",
    job: {
      ...(JOBS[0]?.job as JobDocument),
      kind: "measuring" as const,
      assumed: ["path.line.length"],
    },
  },
];
const LIBRARY = SHIPPED.slice(0, 12).map((pump) => pumpSchema.parse(pump) as PumpDocument);

/** A job with something to stand beside it for every result that asks for it. */
function inputsOf(job: JobDocument): Inputs {
  const items = everyItem(job.path);
  const pipe = items.find(({ kind }) => kind === "pipe");
  return {
    job,
    ...BESIDE,
    place: pumpIn(job),
    sizing: { itemIds: pipe ? [pipe.id] : [], sizes: PIPE_STOCK.slice(0, 4) },
    pairing: {
      place: { itemId: pumpIn(job), others: [] },
      itemIds: pipe ? [pipe.id] : [],
      sizes: PIPE_STOCK.slice(0, 2),
    },
  };
}
const BESIDE = {
  libraryText: JSON.stringify(LIBRARY.map(slimPump)),
  documents: LIBRARY,
  jets: LIBRARY.filter(({ kind }) => kind === "jet"),
  weighing: "balanced",
  money: "price",
  readings: [],
  limits: undefined,
  visits: [],
} as const;

/** Those that are plain data, and quick enough to be worked out many hundred times. */
const TOLD = (Object.keys(DECLARED) as ResultName[]).filter(
  (name) =>
    !["line", "solved", "filledBy", "timeRange", "band", "chosen", "columns"].includes(name),
);

/** The same without the graph: every computation is given all there is, and nothing is kept. */
function fresh(inputs: Inputs): Look {
  const all = { ...inputs.job, ...inputs };
  const look: Look = (name) => {
    const compute = COMPUTATIONS[name] as (seen: unknown, look: Look) => unknown;
    const found = compute(all, look);
    if (typeof found !== "object" || found === null || !("next" in found)) return found as never;
    const steps = found as Generator<unknown, never>;
    for (;;) {
      const step = steps.next();
      if (step.done) return step.value;
    }
  };
  return look;
}

/**
 * As it would be sent on, to nine digits: a line remembers where it was solved last and begins from there, so that the
 * last digit of all may be another.
 */
const sent = (value: unknown) =>
  JSON.stringify(value, (_key, own) =>
    typeof own === "number" && Number.isFinite(own)
      ? Math.abs(own) < 1e-10
        ? 0
        : Number(own.toPrecision(9))
      : own,
  ) ?? "";

type Leaf = { at: (string | number)[]; value: unknown };

function leavesOf(value: unknown, at: Leaf["at"] = []): Leaf[] {
  if (typeof value !== "object" || value === null) return [{ at, value }];
  const inner = Array.isArray(value)
    ? value.map((own, i): [number, unknown] => [i, own])
    : Object.entries(value);
  return [
    ...(at.length > 1 ? [{ at, value }] : []),
    ...inner.flatMap(([key, own]) => leavesOf(own, [...at, key])),
  ];
}

function withChanged(value: unknown, [key, ...rest]: Leaf["at"], to: unknown): unknown {
  if (key === undefined) return to;
  if (Array.isArray(value)) {
    if (to === GONE && rest.length === 0) return value.toSpliced(Number(key), 1);
    return value.with(Number(key), withChanged(value[Number(key)], rest, to));
  }
  const { [key]: own, ...others } = value as Record<string, unknown>;
  if (to === GONE && rest.length === 0) return others;
  return { ...others, [key]: withChanged(own, rest, to) };
}
const GONE = Symbol("gone");

/** A job with one thing in it another number, another answer, or gone; nothing where that is no job. */
function changed(job: JobDocument, which: number, by: number): JobDocument | undefined {
  const fields = Object.keys(job).filter((field) => !["format", "version"].includes(field));
  const field = fields[which % fields.length] as keyof JobDocument;
  const leaves = leavesOf(job[field], [field]);
  const leaf = leaves[Math.floor(which / fields.length) % leaves.length] ?? {
    at: [field],
    value: job[field],
  };
  const { value } = leaf;
  const to =
    by < 0.2
      ? GONE
      : typeof value === "number"
        ? value * (0.8 + 0.4 * by)
        : typeof value === "boolean"
          ? !value
          : GONE;
  const parsed = jobSchema.safeParse(withChanged(job, leaf.at, to));
  // Only what changed is another: the rest stays the very same, as with an edit.
  return parsed.success ? (withChanged(job, leaf.at, to) as JobDocument) : undefined;
}

describe("what follows from a job", () => {
  it.each(RICHER)("$id: kept or worked out anew, it is the same after any change", ({ job }) => {
    const graph = new ResultGraph(COMPUTATIONS);
    const looked = new Map<string, number>();
    let now = job;
    const steps = fc.array(fc.tuple(fc.nat(100_000), fc.nat(1000)), {
      minLength: 10,
      maxLength: 10,
    });
    fc.assert(
      fc.property(steps, (all) => {
        for (const [which, by] of all) {
          const next = changed(now, which, by / 1000) ?? now;
          const inputs = inputsOf(next);
          const [kept, anew] = [graph.look(inputs), fresh(inputs)];
          for (const name of TOLD.filter((_, i) => (which + i) % 4 === 0)) {
            expect(sent(kept(name)), `${name} after ${which} ${by}`).toBe(sent(anew(name)));
            looked.set(name, (looked.get(name) ?? 0) + 1);
          }
          now = next;
        }
      }),
      { numRuns: 3, endOnFailure: true },
    );
    expect(looked.size).toBe(TOLD.length);
  });

  it("is not worked out anew for a field it does not read", () => {
    const [{ job }] = JOBS as [(typeof JOBS)[number]];
    const graph = new ResultGraph(COMPUTATIONS);
    const before = graph.look(inputsOf(job));
    const renamed = graph.look(inputsOf({ ...job, name: "Another name" }));
    const rained = graph.look(inputsOf({ ...job, overTime: { ...job.overTime, span: 7200 } }));
    for (const name of ["solved", "tried", "run"] as const) {
      expect(renamed(name), name).toBe(before(name));
    }
    expect(rained("solved")).toBe(before("solved"));
    expect(rained("run")).not.toBe(before("run"));
  });

  it.each(JOBS)("$id: list, columns and findings count the same stops", ({ job }) => {
    const look = resultsOf(job);
    const stops = countOf(look("findings"), "stop");
    expect(summariseJob(job).stops).toBe(stops);
    expect(look("columns")[0]?.stops).toBe(stops);
  });

  it("a floor that gets wet stops a job on the list, and one that stays dry does not", () => {
    const { job } = JOBS.find(({ id }) => id === "tallow-mill-wheel-pit") as (typeof JOBS)[number];
    const storm = (depth: number) => ({
      ...job,
      overTime: {
        ...job.overTime,
        span: 6 * 3600,
        storm: { kind: "block" as const, depth, duration: 3600, start: 0 },
      },
    });
    const stops = (of: JobDocument) =>
      resultsOf(of)("findings").beside.flatMap(({ code, severity }) =>
        severity === "stop" ? [code] : [],
      );
    const catches = { kind: "rain", catches: [{ surface: "roof", area: 4000 }] } as never;
    const wet = { ...storm(0.2), need: catches } as JobDocument;
    const dry = { ...storm(0.001), need: catches } as JobDocument;
    expect(stops(wet)).toContain("floor-wet");
    expect(stops(dry)).not.toContain("floor-wet");
    expect(summariseJob(wet).stops).toBe(summariseJob(dry).stops + 1);
  });

  it("is the same in Node, by its name alone", () => {
    const [{ job }] = JOBS as [(typeof JOBS)[number]];
    const { kind } = resultsOf(job)("solved");
    expect(kind).toBe("solved");
  });
});
