import { describe, expect, it } from "vitest";
import { type ReadingDocument, readingSchema } from "#contract/documents/fieldTest.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { PUMP_FAMILIES, pumpSchema } from "#contract/documents/pump.ts";
import { compareWithRated } from "#core/measurement/acceptance.ts";
import { isGauged } from "#core/measurement/reading.ts";
import { bestEfficiencyFlow, pumpCurve } from "#core/pump/curve.ts";
import { LIBRARY } from "#library/pumps.ts";
import { uncertaintyOf } from "#model/job/assumed.ts";
import { solveJob } from "#model/job/solveJob.ts";
import { judgeTests } from "#model/measurement/fieldTests.ts";
import { checkWords } from "#words/checks.ts";
import { DEMO_TESTS } from "./fieldTests.ts";
import { DEMO_JOBS } from "./jobs.ts";

describe("the pump library", () => {
  const pumps = LIBRARY.map((input) => pumpSchema.parse(input));

  it("holds at least sixty pumps of every family, and says of each that it is invented", () => {
    expect(pumps.length).toBeGreaterThanOrEqual(60);
    expect([...new Set(pumps.map((pump) => pump.kind))].toSorted()).toEqual(
      PUMP_FAMILIES.toSorted(),
    );
    for (const family of PUMP_FAMILIES) {
      expect(pumps.filter(({ kind }) => kind === family).length).toBeGreaterThanOrEqual(4);
    }
    expect(new Set(pumps.map((pump) => pump.id)).size).toBe(pumps.length);
    expect(new Set(pumps.map(({ maker, model }) => `${maker} ${model}`)).size).toBe(pumps.length);
    expect(pumps.filter(({ invented }) => !invented)).toEqual([]);
  });

  it("has motors whose current falls less than their power when throttled, and engines with power in hand", () => {
    for (const { id, drive, points, electric, engine } of pumps) {
      const [shut, ...others] = points;
      const runout = others.at(-1);
      if (!shut || !runout) throw new Error(id);
      if (drive === "engine") {
        expect([id, (engine?.power ?? 0) > 1.15 * (runout.power ?? 0)]).toEqual([id, true]);
        continue;
      }
      const { volts = 0, phase = 1, direct = false, runningCurrent = 0 } = electric ?? {};
      const factor = ({ power = 0, current = 0 }: typeof shut) =>
        power / (volts * current * (phase === 3 ? Math.sqrt(3) : 1));
      expect(runout.current).toBeCloseTo(runningCurrent, 6);
      expect((electric?.startingCurrent ?? 0) / runningCurrent).toBeGreaterThan(2);
      if (direct) expect(factor(shut)).toBeCloseTo(1, 1);
      else {
        expect([id, factor(shut) < factor(runout) - 0.03]).toEqual([id, true]);
        expect((shut.current ?? 0) / runningCurrent).toBeGreaterThan(
          (shut.power ?? 0) / (runout.power ?? 1),
        );
        expect(factor(runout)).toBeLessThan(0.92);
      }
    }
  });

  // Proportions of small centrifugal pumps: common practice, no source.
  it.each(pumps.map((pump) => [pump.id, pump] as const))(
    "%s has a believable curve",
    (_id, pump) => {
      const curve = pumpCurve(pump);
      const best = bestEfficiencyFlow(curve);
      const heads = pump.points.map((point) => point.head);
      expect(pump.points[0]?.flow).toBe(0);
      expect(heads).toEqual(heads.toSorted((a, b) => b - a));
      expect(best.flow / curve.lastFlow).toBeGreaterThan(0.55);
      expect(best.flow / curve.lastFlow).toBeLessThan(0.75);
      const powers = pump.points.map((point) => point.power ?? 0);
      expect(powers).toEqual(powers.toSorted((a, b) => a - b));
      expect((powers.at(-1) ?? 0) / (powers[0] ?? 1)).toBeGreaterThan(1.2);
      for (const { flow, head, power } of pump.points) {
        expect((998 * 9.80665 * flow * head) / (power ?? 0)).toBeLessThan(0.75);
      }
    },
  );
});

describe("the demo jobs", () => {
  const jobs = DEMO_JOBS.map(({ id, job }) => ({ id, job: jobSchema.parse(job) as JobDocument }));

  it.each(jobs.map(({ id, job }) => [id, job] as const))(
    "%s runs, and nothing stops it",
    (_id, job) => {
      const solved = solveJob(job);
      if (solved.kind !== "solved") throw new Error(JSON.stringify(solved));
      expect(solved.solution.cases.normal.outcome.kind).toBe("runs");
      expect(solved.judgements.filter((judgement) => judgement.severity === "stop")).toEqual([]);
      for (const system of ["us", "metric"] as const) {
        for (const judgement of solved.judgements) {
          const { title, sentence, advice: mend } = checkWords(judgement, job, system);
          expect(`${title} ${sentence} ${mend}`).not.toMatch(/NaN|Infinity|\[object/);
        }
      }
    },
  );

  it("shows all three judgements: cannot tell, meets, falls short", () => {
    const judgements = DEMO_TESTS.flatMap(({ test, readings }) => {
      const job = jobs.find(({ id }) => id === test.jobId)?.job;
      const solved = job && solveJob(job);
      if (!job || solved?.kind !== "solved") throw new Error("demo job must solve");
      const { model, pumps } = solved.solution;
      const pump = pumps[0]?.pump;
      if (!pump) throw new Error("demo job must have a pump");
      return readings.map(({ reading }) => {
        const document = readingSchema.parse({ ...reading, testId: "t" }) as ReadingDocument;
        return isGauged(document)
          ? compareWithRated(model, pump, document)?.acceptance
          : "no gauge";
      });
    });
    expect(new Set(judgements)).toEqual(new Set(["cannot-tell", "meets", "falls-short"]));
  });

  it.each([
    ["glasshouses-as-found", "tight"],
    ["glasshouses-as-left", "as-worked-out"],
  ])("%s: the pump is short, and the line is %s", (id, line) => {
    const demo = DEMO_TESTS.find((test) => test.id === id);
    const job = jobs.find((own) => own.id === demo?.test.jobId)?.job;
    const solved = job && solveJob(job);
    if (!demo || !job || solved?.kind !== "solved") throw new Error("demo job must solve");
    const readings = demo.readings.map(({ id: readingId, reading }) => ({
      id: readingId,
      document: readingSchema.parse({ ...reading, testId: id }) as ReadingDocument,
    }));
    const [judged] = judgeTests(solved, job, readings, uncertaintyOf(job));
    expect(judged?.whole?.acceptance).toBe("falls-short");
    expect(judged?.parting).toMatchObject({
      kind: "parted",
      pump: { is: "weak" },
      line: { is: line },
    });
    expect(judged?.outliers).toEqual([]);
  });
});
