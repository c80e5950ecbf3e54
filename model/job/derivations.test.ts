import { describe, expect, it } from "vitest";
import { jobSchema } from "#contract/documents/job.ts";
import { resultOf } from "#core/formula/formula.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { derivationOf, solveJob } from "./solveJob.ts";

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

describe.each(jobs)("the working of %s", (_name, job, { solution, judgements }) => {
  it("ends with the number shown for every item of the ledger", () => {
    const { running } = solution.cases.normal;
    for (const [index, entry] of (running?.ledger ?? []).entries()) {
      const steps = derivationOf({ kind: "ledger", index }, solution, job);
      const shown = entry.kind === "hole" ? entry.lost : entry.head;
      if (shown === 0) continue;
      expect((steps.at(-1)?.result.value ?? Number.NaN) / (shown as number)).toBeCloseTo(1, 6);
    }
  });

  it("ends with the duty shown, at every level", () => {
    for (const at of ["low", "normal", "high"] as const) {
      const { running, staticHead } = solution.cases[at];
      const last = (kind: "flow" | "head" | "static" | "power" | "efficiency") =>
        derivationOf({ kind, at }, solution, job).at(-1)?.result.value;
      expect((last("flow") ?? 0) / (running?.duty.flow ?? 1)).toBeCloseTo(1, 6);
      expect(last("head")).toBeCloseTo(running?.duty.head ?? Number.NaN, 6);
      expect(last("static")).toBeCloseTo(staticHead, 9);
      const { delivered = Number.NaN, lost = [] } = running?.state ?? {};
      if (lost.length > 0) {
        const holes = derivationOf({ kind: "lost", at }, solution, job).at(-1)?.result.value;
        expect(holes).toBeCloseTo((running?.duty.flow ?? 0) - delivered, 8);
      }
      const out = derivationOf({ kind: "delivered", at }, solution, job).at(-1)?.result.value;
      expect(out).toBeCloseTo(delivered, 8);
      if (running?.power !== undefined) expect(last("power")).toBeCloseTo(running.power, 9);
      if (running?.efficiency !== undefined)
        expect(last("efficiency")).toBeCloseTo(running.efficiency, 9);
    }
  });

  it("ends with the other schools' flows", () => {
    for (const school of ["friction", "fittings"] as const) {
      const steps = derivationOf({ kind: `other-${school}` }, solution, job);
      const shown = solution.crossChecks[school].duty?.flow ?? Number.NaN;
      expect((steps.at(-1)?.result.value ?? 0) / shown).toBeCloseTo(1, 6);
    }
  });

  it("comes, in every judgement, to the number the judgement stands on", () => {
    for (const judgement of judgements) {
      const found = resultOf(derivationOf({ kind: "check", judgement }, solution, job));
      const apart = Math.abs(found - judgement.value);
      expect([judgement.code, apart <= 1e-9 + 1e-6 * Math.abs(judgement.value)]).toEqual([
        judgement.code,
        true,
      ]);
    }
  });

  it("shows no broken number", () => {
    for (const judgement of judgements) {
      for (const { result, given } of derivationOf({ kind: "check", judgement }, solution, job)) {
        for (const { value } of [result, ...given]) expect(Number.isFinite(value)).toBe(true);
      }
    }
  });
});
