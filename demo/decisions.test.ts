import { describe, expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { JOB_KINDS } from "#contract/documents/jobKinds.ts";
import { decisionsOf, kindOf } from "#model/decisions/decisions.ts";
import { confirmed } from "#model/job/assumed.ts";
import type { Decided, DecisionId } from "#model/kinds/decision.ts";
import { beginJob, newJob } from "#model/kinds/kinds.ts";
import { resultsOf } from "#model/results/computations.ts";
import { DECISION_NAMES, decisionWords } from "#words/decisions.ts";
import { DEMO_JOBS } from "./jobs.ts";

const JOBS = DEMO_JOBS.map(({ id, job }) => ({ id, job: jobSchema.parse(job) as JobDocument }));
const demo = (which: string) => JOBS.find(({ id }) => id === which)?.job as JobDocument;

function decided<D extends DecisionId>(job: JobDocument, id: D): Decided<D> {
  const found = resultsOf(job)("decisions").find((own) => own.id === id);
  if (!found) throw new Error(`${id} is not decided on this job`);
  return found as Decided<D>;
}
const wordsOf = (job: JobDocument, id: DecisionId) =>
  decisionWords(decided(job, id), job, "metric");

const BROKEN = /undefined|NaN|null|\[object|Infinity/;

describe("what has to be decided", () => {
  it.each(JOBS)("$id: everything its kind declares is told, in both systems", ({ job }) => {
    const all = resultsOf(job)("decisions");
    expect(all.map(({ id }) => id)).toEqual(decisionsOf(job));
    for (const own of all) {
      for (const system of ["us", "metric"] as const) {
        const { value, why } = decisionWords(own, job, system);
        expect(`${DECISION_NAMES[own.id]} ${value}: ${why}`).not.toMatch(BROKEN);
      }
      expect(own.state === "stopped").toBe(own.stop !== undefined);
    }
  });

  it.each(JOB_KINDS)("a %s with nothing measured has its decisions open or as usual", (kind) => {
    for (const system of ["us", "metric"] as const) {
      const job = newJob("Begun", kind, system);
      const all = resultsOf(job)("decisions");
      expect(all.length).toBeGreaterThan(2);
      expect(all[0]).toMatchObject({ id: "pump", state: "open", pumps: [] });
      for (const own of all) {
        const { value, why } = decisionWords(own, job, system);
        expect(`${value}: ${why}`).not.toMatch(BROKEN);
      }
    }
  });

  it("a job from before there were kinds is of the one it looks like", () => {
    const { kind: _, ...pit } = demo("tallow-mill-wheel-pit");
    expect(kindOf(pit)).toBe("sump-riser");
    const { kind: _transfer, ...transfer } = demo("ennet-glasshouses-transfer");
    expect(kindOf(transfer)).toBe("tank-to-tank");
    const { kind: _well, ...well } = demo("bramble-rigg-borehole");
    expect(kindOf(well)).toBe("well-to-tank");
    expect(kindOf({ ...demo("ketterby-hurling-ground"), kind: undefined } as never)).toBe(
      "pond-to-field",
    );
    expect(kindOf({ ...pit, overTime: {}, bodies: [] })).toBe("plain-line");
  });

  it("a pump is open until it is chosen: then it says what it moves of what is wanted", () => {
    const typed = { depth: 1.5, across: 0.5, riseTime: 120, up: 1.5, along: 12 };
    const job = beginJob({ kind: "sump-riser", typed }, "Pit", "metric");
    expect(decided(job, "pump").state).toBe("open");
    expect(wordsOf(job, "pump").why).toMatch(/^has to make [\d.]+ m at [\d.]+ L\/s$/);
    const mill = demo("tallow-mill-wheel-pit");
    expect(decided(mill, "pump")).toMatchObject({ state: "chosen" });
    expect(wordsOf(mill, "pump").value).toBe("2 × Tarnfold Pit 9");
  });

  it("a time that waits for the line, or for a float put right, says so and not what is there", () => {
    const mill = demo("tallow-mill-wheel-pit");
    const dry = (job: JobDocument) => wordsOf(job, "stays-dry").why;
    expect(dry(mill)).toMatch(/under the rim$/);
    expect(dry({ ...mill, path: [] })).toBe("told once the line can be solved");
    const controls = (mill.overTime?.controls ?? []).map((own) =>
      own.kind === "float" && own.role === "lead" ? { ...own, on: 0.2 } : own,
    );
    expect(dry({ ...mill, overTime: { ...mill.overTime, controls } })).toBe(
      "told once floats and water are right",
    );
    const { overTime: _, ...still } = { ...mill, kind: "sump-riser" as const, bodies: [] };
    expect(dry(still)).toBe("say what comes in, and what the pit is like");
  });

  it("what is usual stands as usual until somebody confirms it", () => {
    const job = newJob("Pit", "sump-riser", "metric");
    expect([decided(job, "floats").state, decided(job, "discharge").state]).toEqual([
      "advised",
      "advised",
    ]);
    const sure = confirmed(job, job.assumed ?? []);
    expect([decided(sure, "floats").state, decided(sure, "discharge").state]).toEqual([
      "chosen",
      "chosen",
    ]);
  });

  it("a floor that gets wet stops the decision that it stays dry, and nothing else", () => {
    const mill = demo("tallow-mill-wheel-pit");
    const rained = (depth: number): JobDocument => ({
      ...mill,
      need: { kind: "rain", catches: [{ surface: "roof", area: 4000 }] } as never,
      overTime: {
        ...mill.overTime,
        span: 6 * 3600,
        storm: { kind: "block", depth, duration: 3600, start: 0 },
      },
    });
    expect(decided(rained(0.2), "stays-dry")).toMatchObject({
      state: "stopped",
      stop: { of: "beside", finding: { code: "floor-wet" } },
    });
    expect(wordsOf(rained(0.2), "stays-dry")).toMatchObject({
      value: "no",
      why: "The floor gets wet",
    });
    expect(decided(rained(0.2), "pump").state).toBe("chosen");
    expect(decided(rained(0.001), "stays-dry").state).toBe("chosen");
    expect(wordsOf(rained(0.001), "stays-dry").value).toBe("yes");
  });

  it("a pump that hangs where it must not stops its depth; a pipe that is too small, the pipe", () => {
    const well = demo("bramble-rigg-borehole");
    const shallow = { ...well, source: { ...well.source, intake: -24 } };
    expect(decided(shallow, "hang").state).toBe("stopped");
    expect(decided(well, "hang").state).toBe("chosen");
    const transfer = demo("ennet-glasshouses-transfer");
    const stops = resultsOf(transfer)("decisions").filter(({ state }) => state === "stopped");
    const counted = resultsOf(transfer)("findings").line.filter(
      ({ severity }) => severity === "stop",
    );
    expect(stops.length === 0).toBe(counted.length === 0);
  });

  it.each(JOBS)("$id: where there is something to stop for, a decision says so", ({ job }) => {
    const look = resultsOf(job);
    const { line, beside } = look("findings");
    const stops = [...line, ...beside].some(({ severity }) => severity === "stop");
    expect(look("decisions").some(({ state }) => state === "stopped")).toBe(stops);
  });
});
