import fc from "fast-check";
import { expect, it } from "vitest";
import { type JobPathItem, jobSchema } from "#contract/documents/job.ts";
import { resultOf } from "#core/formula/formula.ts";
import { changeItems, everyItem } from "#core/line/path.ts";
import { GLASSHOUSES, TALLOW_MILL } from "#demo/jobs.ts";
import { checkWords } from "#words/checks.ts";
import { diagnosticSentence } from "#words/diagnostics.ts";
import { itemName } from "#words/items.ts";
import { derivationOf, solveJob } from "./solveJob.ts";

const base = jobSchema.parse({
  ...GLASSHOUSES,
  pumps: [...GLASSHOUSES.pumps, ...TALLOW_MILL.pumps],
});
const [one, other] = base.pumps.map(({ id }) => id);

const level = (z: number) => ({ low: z - 0.5, normal: z, high: z + 0.5 });
const branchItem = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.record({
      kind: fc.constant("pipe"),
      stock: fc.constantFrom("pvc-sch40-1in", "pvc-sch40-2in", "lay-flat-2in", "suction-hose-3in"),
      length: fc.double({ min: 0.1, max: 120, noNaN: true }),
      rise: fc.constantFrom(0, 0, 0, 0.1, -0.1),
    }),
  },
  {
    weight: 3,
    arbitrary: fc.record({
      kind: fc.constant("fitting"),
      fitting: fc.constantFrom(
        "check-swing",
        "gate-valve",
        "elbow-90",
        "foot-valve-hinged",
        "reducer-tapered",
        "barbed-coupling",
      ),
      count: fc.integer({ min: 1, max: 3 }),
      opening: fc.constantFrom(undefined, undefined, 0.3, 0),
      reversed: fc.constantFrom(undefined, undefined, undefined, true),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({ kind: fc.constant("pump"), pump: fc.constantFrom(one, other) }),
  },
  {
    weight: 1,
    arbitrary: fc.record({ kind: fc.constant("rise"), rise: fc.constantFrom(0, 1, -1) }),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant("orifice"),
      purpose: fc.constantFrom("leak", "vent-hole"),
      bore: fc.constantFrom(0.003, 0.02),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant("outlet"),
      outlet: fc.oneof(
        fc.constant({ type: "free" }),
        fc.constant({ type: "drain" }),
        fc.constant({ type: "submerged", level: level(3) }),
        fc.constant({ type: "submerged", level: level(-4), gasPressure: 50_000 }),
        fc.constant({ type: "pressure", pressure: 100_000 }),
        fc.constant({ type: "nozzle", bore: 0.01, dischargeCoefficient: 0.95 }),
        fc.constant({ type: "emitter", flow: 0.0005, pressure: 200_000 }),
      ),
    }),
  },
);
const branch = fc.array(branchItem, { maxLength: 5 });
const split = fc.record({
  kind: fc.constant("split"),
  branches: fc.array(branch, { minLength: 2, maxLength: 3 }),
});
const path = fc
  .tuple(
    fc.array(fc.oneof({ weight: 3, arbitrary: branchItem }, { weight: 1, arbitrary: split }), {
      maxLength: 8,
    }),
    branch,
  )
  .map(([body, tail]) => {
    const items = [...body, ...tail] as JobPathItem[];
    return [...items, { kind: "outlet", outlet: { type: "free" } } as JobPathItem];
  });

it("any path the document allows is solved, finite and in words, or refused with reasons", () => {
  let solvedCount = 0;
  fc.assert(
    fc.property(path, (drawn) => {
      let n = 0;
      const named = changeItems<JobPathItem>(drawn, (item) => ({ ...item, id: `i${n++}` }));
      const job = jobSchema.parse({ ...base, path: named });
      const solved = solveJob(job);
      if (solved.kind === "refused") {
        expect(solved.diagnostics.length).toBeGreaterThan(0);
        for (const diagnostic of solved.diagnostics)
          expect(diagnosticSentence(diagnostic)).toMatch(/\.$/);
        return;
      }
      solvedCount += 1;
      for (const judgement of solved.judgements) {
        const { title, sentence, advice } = checkWords(judgement, job, "metric");
        expect(`${title} ${sentence} ${advice}`).not.toMatch(/NaN|Infinity|\[object/);
        const steps = derivationOf({ kind: "check", judgement }, solved.solution, job);
        const found = resultOf(steps);
        const apart = Math.abs(found - judgement.value);
        expect([
          judgement.code,
          found,
          judgement.value,
          apart <= 1e-7 + 1e-5 * Math.abs(judgement.value),
        ]).toEqual([judgement.code, found, judgement.value, true]);
      }
      for (const { running } of Object.values(solved.solution.cases)) {
        if (!running) continue;
        const numbers = [running.duty.flow, running.duty.head, ...running.state.nodeHeads];
        for (const number of numbers) expect(Number.isFinite(number)).toBe(true);
      }
      for (const { id } of everyItem<JobPathItem>(job.path)) {
        expect(itemName(job.path, id, "us")).not.toMatch(/undefined|NaN/);
      }
    }),
    { numRuns: 1500 },
  );
  // The draw is there to be solved, not only refused.
  expect(solvedCount).toBeGreaterThan(20);
});
