import { describe, expect, it } from "vitest";
import { jobSchema } from "#contract/documents/job.ts";
import { workingOf } from "#core/formula/working.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { solveJob } from "./solveJob.ts";

const jobs = DEMO_JOBS.flatMap(({ id, job }) =>
  (["coefficient", "equivalent-length"] as const).flatMap((fittings) =>
    (["darcy-weisbach", "hazen-williams"] as const).map((friction) => {
      const document = jobSchema.parse({ ...job, method: { fittings, friction } });
      const solved = solveJob(document);
      if (solved.kind !== "solved") throw new Error(`${id} must solve`);
      return [`${id}, ${friction}, ${fittings}`, document, solved] as const;
    }),
  ),
);

describe.each(jobs)("the working of %s", (_name, job, { solution, verdicts }) => {
  it("ends with the number shown for every item of the ledger", () => {
    const { running } = solution.cases.normal;
    for (const [index, entry] of (running?.ledger ?? []).entries()) {
      const steps = workingOf({ kind: "ledger", index }, solution, job);
      const shown = entry.kind === "hole" ? entry.lost : entry.head;
      if (shown === 0) continue;
      expect((steps.at(-1)?.result.value ?? Number.NaN) / (shown as number)).toBeCloseTo(1, 6);
    }
  });

  it("ends with the duty shown, at every level", () => {
    for (const levelCase of ["low", "normal", "high"] as const) {
      const { running, staticHead } = solution.cases[levelCase];
      const last = (kind: "flow" | "head" | "static" | "power" | "efficiency") =>
        workingOf({ kind, levelCase }, solution, job).at(-1)?.result.value;
      expect(last("flow")).toBe(running?.duty.flow);
      expect(last("head")).toBeCloseTo(running?.duty.head ?? Number.NaN, 6);
      expect(last("static")).toBeCloseTo(staticHead, 9);
      const { delivered = Number.NaN, lost = [] } = running?.flows ?? {};
      if (lost.length > 0) {
        const holes = workingOf({ kind: "lost", levelCase }, solution, job).at(-1)?.result.value;
        expect(holes).toBeCloseTo((running?.duty.flow ?? 0) - delivered, 8);
      }
      const out = workingOf({ kind: "delivered", levelCase }, solution, job).at(-1)?.result.value;
      expect(out).toBeCloseTo(delivered, 8);
      if (running?.power !== undefined) expect(last("power")).toBeCloseTo(running.power, 9);
      if (running?.efficiency !== undefined)
        expect(last("efficiency")).toBeCloseTo(running.efficiency, 9);
    }
  });

  it("ends with the other schools' flows", () => {
    for (const school of ["friction", "fittings"] as const) {
      const steps = workingOf({ kind: `other-${school}` }, solution, job);
      const shown = solution.crossChecks[school].duty?.flow ?? Number.NaN;
      expect((steps.at(-1)?.result.value ?? 0) / shown).toBeCloseTo(1, 9);
    }
  });

  it("holds the pump's head and the line's together where they meet", () => {
    if (!solution.line.single) return;
    const meet = workingOf({ kind: "flow", levelCase: "normal" }, solution, job).at(-1);
    const [, pump, line] = meet?.given ?? [];
    expect(pump?.value).toBeCloseTo(line?.value ?? Number.NaN, 6);
  });

  it("comes, in every verdict that is worked out, to the verdict's number or its limit", () => {
    let worked = 0;
    for (const verdict of verdicts) {
      const steps = workingOf({ kind: "verdict", verdict }, solution, job);
      if (steps.length === 0 || verdict.code === "schools-disagree") continue;
      worked += 1;
      const near = (a: number | undefined) =>
        steps.some(
          ({ result }) =>
            a !== undefined && Math.abs(result.value - a) <= 1e-6 * Math.max(Math.abs(a), 1e-6),
        );
      const sum = steps.reduce((total, { result }) => total + result.value, 0);
      const found =
        near(verdict.value) || near(verdict.limit) || Math.abs(sum - verdict.value) < 1e-9;
      const delivered = solution.cases[verdict.levelCase].running?.flows.delivered;
      // What arrives is what was pumped less what the holes let go.
      expect([verdict.code, found || verdict.value === delivered]).toEqual([verdict.code, true]);
    }
    expect(worked).toBeGreaterThan(5);
  });

  it("shows no broken number", () => {
    for (const verdict of verdicts) {
      for (const { result, given } of workingOf({ kind: "verdict", verdict }, solution, job)) {
        for (const { value } of [result, ...given]) expect(Number.isFinite(value)).toBe(true);
      }
    }
  });
});
