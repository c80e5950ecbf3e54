import { describe, expect, it } from "vitest";
import type { JobDocument } from "#contract/documents/job.ts";
import { pumpSchema } from "#contract/documents/pump.ts";
import { HALF_HORSE } from "#core/test/fixtures.ts";
import { singleChanges, type Tried } from "#core/whatif/changes.ts";
import { checkClaim } from "#core/whatif/claim.ts";
import { changeWords, claimWords } from "#words/changes.ts";
import { type Solved, solveJob } from "../job/solveJob.ts";
import { newJob } from "../kinds/kinds.ts";
import { readClaim } from "./readClaim.ts";

const [gpm, foot, inch] = [3.785411784e-3 / 60, 0.3048, 0.0254];

/** The half-horse pump of the trade's own check, on 100 ft of 1-1/2 in, 5 ft up, with a 3/16 in hole and an elbow. */
const half = pumpSchema.parse({
  ...{
    format: "upright-gusher/pump",
    version: 2,
    id: "half",
    maker: "Ennet",
    model: "Half",
    kind: "sump",
  },
  ...{ drive: "electric", submersible: true, ratedSpeedRpm: 2900, tolerance: "small", price: 250 },
  points: HALF_HORSE.map(([q, h]) => ({ flow: q * gpm, head: h * foot })),
});
const stock = "pvc-sch40-1-1-2in";
const job = {
  ...newJob("Claimed", "sump-riser", "us"),
  pumps: [half],
  source: { kind: "open", level: { low: 0, normal: 0, high: 0 }, intake: 0 },
  path: [
    { kind: "pump", id: "p", pump: "half" },
    { kind: "orifice", id: "v", purpose: "vent-hole", bore: (3 / 16) * inch },
    { kind: "fitting", id: "c", fitting: "check-swing", count: 1 },
    { kind: "pipe", id: "r", stock, length: 5 * foot, rise: 5 * foot },
    { kind: "fitting", id: "e", fitting: "elbow-90", count: 1 },
    { kind: "pipe", id: "d", stock, length: 95 * foot, rise: 0 },
    { kind: "outlet", id: "o", outlet: { type: "free" } },
  ],
} as unknown as JobDocument;
const solved = solveJob(job) as Solved;
const on = { line: job, pumps: job.pumps, solution: solved.solution };
const changes = singleChanges(job, job.pumps, []);
const said = (text: string) => {
  const claim = readClaim(text, "us");
  if (!claim.ok) throw new Error(claim.message);
  const checked = checkClaim(claim.claim, on, changes);
  if (!checked) throw new Error("not checked");
  const name = ({ change }: Tried) => changeWords(change, job, "us", () => "another");
  return { checked, words: claimWords(checked, "us", name) };
};

describe("what the seller says", () => {
  it("“90 gpm” on 1-1/2 in is contradicted with the number", () => {
    const { checked, words } = said("90 gpm");
    if (checked.kind !== "flow") throw new Error("read otherwise");
    expect(checked.arrives / gpm).toBeCloseTo(39.6, 0);
    expect(checked.holds).toBe(false);
    // No larger pipe makes it true: the curve ends at 80 gpm.
    expect(checked.remedy).toBeUndefined();
    expect(words.sentence).toBe("39.6 gpm arrive, not 90.0 gpm.");
    expect(words.advice).toContain("No single change makes it true.");
    // With a stronger pump in the library there is one, and it is named.
    const points = half.points.map(({ flow, head }) => ({ flow: flow * 2, head: head * 4 }));
    const strong = { ...half, id: "strong", points, price: 900 };
    const found = checkClaim(
      { kind: "flow", flow: 90 * gpm },
      on,
      singleChanges(job, job.pumps, [strong]),
    );
    if (found?.kind !== "flow") throw new Error("not checked");
    expect(found.remedy?.change).toMatchObject({ kind: "pump", pump: { id: "strong" } });
    const path = found.remedy?.path as JobDocument["path"];
    const then = solveJob({
      ...job,
      path,
      pumps: [strong as JobDocument["pumps"][number]],
    }) as Solved;
    const arrives = then.solution.cases.normal.running?.state.delivered ?? 0;
    expect(arrives / gpm).toBeGreaterThanOrEqual(90 * 0.98);
    expect(arrives).toBeCloseTo(found.remedy?.flow ?? 0, 12);
  });

  it("and where a single change makes it true, the cheapest that does is named", () => {
    const { checked, words } = said("50 gpm");
    if (checked.kind !== "flow" || !checked.remedy) throw new Error("no change found");
    const enough = changes.filter(({ flow }) => flow >= 50 * gpm * 0.98);
    expect(enough.length).toBeGreaterThan(1);
    const price = Math.min(...enough.flatMap((tried) => tried.price ?? []));
    expect(checked.remedy.price).toBe(price);
    expect(words.advice).toMatch(
      /^True with this: Lay 95\.0 ft of 1-1\/2 in PVC sch 40 in 2 in, and \d\d\.\d gpm arrive\.$/,
    );
    expect(said("39 gpm").words.title).toBe("It holds");
  });

  it("a pressure is the most at the pump with nothing running, and next to none at an open outlet", () => {
    const nine = said("9.5 psi");
    expect(nine.checked).toMatchObject({ kind: "pressure", holds: false });
    expect(nine.words.title).toBe("Only with nothing running");
    expect(said("94 psi").words.title).toBe("Not by this pump");
  });

  it("“twice as much” by the next bore up is not twice: about 1.6 at most, by the ratio of bores", () => {
    const { checked } = said("twice as much with 2 in");
    if (checked.kind !== "times") throw new Error("read otherwise");
    expect(checked.times).toBeGreaterThan(1.2);
    expect(checked.times).toBeLessThan(1.7);
    expect(checked.holds).toBe(false);
    expect(said("1.2 times with 2 in").checked).toMatchObject({ holds: true });
    expect(said("twice as much with 1-1/2 in").checked).toMatchObject({ kind: "no-such-size" });
  });

  it.each(["", "lots", "90 horses", "twice as much with gold"])("“%s” is asked again", (text) => {
    expect(readClaim(text, "us").ok).toBe(false);
  });
});
