import { describe, expect, it } from "vitest";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobKindId } from "#contract/documents/jobKinds.ts";
import { PIPE_STOCK } from "#core/catalogue/pipes.ts";
import { compareSizes } from "#core/sizes/sizes.ts";
import { LINE_KINDS, newJob } from "../kinds/kinds.ts";
import {
  type Asked,
  derivationOf,
  type Solved,
  sizeGains,
  solveJob,
  withRemedies,
} from "./solveJob.ts";

const wanting = (kind: JobKindId, wantedFlow: number): JobDocument => ({
  ...newJob("Line before pump", kind, "metric"),
  wantedFlow,
});
function asked(job: JobDocument): Asked {
  const solved = solveJob(job);
  if (solved.kind !== "asked") throw new Error(JSON.stringify(solved));
  return solved;
}
const flows = [0.0004, 0.0011, 0.0025];
const cases = LINE_KINDS.flatMap((kind) => flows.map((flow) => [kind, flow] as const));

/** A pump that makes just this head at just this flow. */
const through = (flow: number, head: number) => ({
  format: "upright-gusher/pump" as const,
  version: 2 as const,
  id: "just-so",
  maker: "Ennet",
  model: "Just so",
  kind: "centrifugal" as const,
  drive: "electric" as const,
  submersible: true,
  ratedSpeedRpm: 2900,
  tolerance: "small" as const,
  points: [0, 0.5, 1, 1.5, 2].map((part) => ({
    flow: part * flow,
    head: head + (1 - part) * (0.5 * Math.abs(head) + 1),
  })),
});

describe("a line asked before its pump is chosen", () => {
  it.each(cases)("%s at %s m³/s: a pump that makes the head delivers the flow", (kind, wanted) => {
    const job = wanting(kind, wanted);
    const { solution } = asked(job);
    const { running } = solution.cases.normal;
    const { flow, head } = running?.duty ?? { flow: 0, head: 0 };
    expect(running?.state.delivered).toBeCloseTo(wanted, 9);
    expect(flow).toBeGreaterThanOrEqual(wanted);
    const pump = through(flow, head) as unknown as JobDocument["pumps"][number];
    const path = job.path.map((item) =>
      item.kind === "pump" ? { ...item, pump: pump.id } : item,
    ) as JobDocument["path"];
    const chosen = solveJob({ ...job, path, pumps: [pump] }) as Solved;
    expect(chosen.solution.cases.normal.running?.state.delivered).toBeCloseTo(wanted, 8);
    expect(chosen.solution.cases.normal.running?.duty.head).toBeCloseTo(head, 5);
    // The bill is the same bill, and adds up to the head.
    const heads = (running?.ledger ?? []).map((entry) => entry.head);
    const theirs = (chosen.solution.cases.normal.running?.ledger ?? []).map((entry) => entry.head);
    for (const [i, own] of heads.entries()) expect(theirs[i]).toBeCloseTo(own, 5);
    expect(heads.reduce((sum, own) => sum + own, 0)).toBeCloseTo(head, 6);
  });

  it.each(cases)(
    "%s at %s m³/s: says nothing of a pump, and what it says is derived",
    (kind, q) => {
      const job = wanting(kind, q);
      const found = asked(job);
      const codes = found.judgements.map(({ code }) => code);
      expect(codes.filter((code) => /pump|npsh|region|curve|wanted|lift-pump/.test(code))).toEqual(
        [],
      );
      expect(codes.some((code) => code.startsWith("discharge-velocity"))).toBe(true);
      for (const judgement of withRemedies(job, found)) {
        const steps = derivationOf({ kind: "check", judgement }, found.solution, job);
        expect(steps.at(-1)?.result.value).toBeCloseTo(judgement.value, 6);
      }
      const steps = derivationOf({ kind: "head", at: "normal" }, found.solution, job);
      expect(steps.at(-1)?.result.value).toBeCloseTo(
        found.solution.cases.normal.running?.duty.head ?? Number.NaN,
        6,
      );
    },
  );

  // With a vent hole the flow through each size is found, and is the wanted one to a dozen figures only.
  it.each<[JobKindId, string[]]>([
    ["tank-to-tank", ["run"]],
    // All of the discharge, or a run wider than its riser would lose head where the bore changes.
    ["sump-riser", ["riser", "run"]],
  ])(
    "%s compares sizes by the head they take at the flow, never more in a larger one",
    (kind, runs) => {
      const job = wanting(kind, 0.002);
      const sizes = PIPE_STOCK.filter(({ family }) => family === "pvc-sch40");
      const { rows, kneeId } = compareSizes(job, [], runs, sizes, "normal", job.wantedFlow);
      expect(rows.length).toBe(sizes.length);
      for (const { flow } of rows) expect(flow).toBeCloseTo(0.002, 9);
      const heads = rows.map(({ head }) => head as number);
      expect(heads).toEqual(heads.toSorted((a, b) => b - a));
      const knee = rows.findIndex(({ stock }) => stock.id === kneeId);
      expect(heads[knee + 1]).toBeGreaterThan((heads[knee] as number) * 0.95);
      expect(heads[knee]).toBeLessThanOrEqual((heads[knee - 1] as number) * 0.95);
      const gains = sizeGains(job, asked(job));
      for (const { flowGain } of gains) expect(flowGain).toBeCloseTo(0, 9);
      expect(gains.find(({ itemId }) => itemId === "run")?.headGain).toBeGreaterThan(0);
    },
  );

  it("needs a wanted flow, and one pump alone to be chosen", () => {
    const job = newJob("No flow", "sump-riser", "metric");
    expect(solveJob(job)).toMatchObject({
      kind: "refused",
      diagnostics: [{ code: "pump-not-chosen" }],
    });
    const second = { kind: "pump", id: "second", pump: null } as const;
    const path = [...job.path.slice(0, 4), second, ...job.path.slice(4)];
    expect(solveJob({ ...job, path, wantedFlow: 0.001 }).kind).toBe("refused");
  });

  it("takes the water and the height into account: hot water high up cannot be drawn", () => {
    const job = wanting("pond-to-field", 0.004);
    const lift = (over: Partial<JobDocument["site"]>) =>
      asked({ ...job, site: { ...job.site, ...over } }).judgements.find(
        ({ code }) => code === "suction-lift-barometric",
      );
    expect(lift({})?.severity).toBe("good");
    expect(lift({ altitude: 3000, waterTemperature: 363.15 })?.severity).toBe("stop");
  });
});
