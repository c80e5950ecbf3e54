import { describe, expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import type { JobFindings } from "#core/finding/registry.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { applyChanges } from "../job/changes.ts";
import { resultsOf } from "../results/computations.ts";
import { type Remedy, remediesInSteps } from "./remedies.ts";

const demo = (which: string) =>
  jobSchema.parse(DEMO_JOBS.find(({ id }) => id === which)?.job) as JobDocument;
const mill = demo("tallow-mill-wheel-pit");
const well = demo("bramble-rigg-borehole");

const remedies = (job: JobDocument) => resultsOf(job)("remedies");
const codes = (job: JobDocument) => {
  const { line, beside } = resultsOf(job)("findings");
  return [...line, ...beside].flatMap(({ code, severity }) =>
    severity === "good" ? [] : [code as string],
  );
};
const stops = (job: JobDocument) =>
  resultsOf(job)("findings").beside.flatMap(({ code, severity }) =>
    severity === "stop" ? [code as string] : [],
  );
function done(job: JobDocument, of: string): { remedy: Remedy; after: JobDocument } {
  const remedy = remedies(job).find((own) => own.of === of);
  const changed = remedy && applyChanges(job, remedy.changes);
  if (!remedy || !changed?.ok) throw new Error(`Nothing mends ${of}`);
  return { remedy, after: changed.job };
}

/** The mill's pit with its floats so close that it starts far too often, and no alarm. */
const short: JobDocument = {
  ...mill,
  overTime: {
    ...mill.overTime,
    controls: (mill.overTime?.controls ?? []).flatMap((own) =>
      own.kind === "alarm"
        ? []
        : own.kind === "float" && own.role === "lead"
          ? [{ ...own, on: own.off + 0.02 }]
          : [own],
    ),
  },
};

describe("remedies", () => {
  it("raise a float so far that the motor bears the starts, and no further than that takes", () => {
    expect(codes(short)).toContain("starts-too-often");
    const { remedy, after } = done(short, "starts-too-often");
    expect(codes(after)).not.toContain("starts-too-often");
    if (remedy.does !== "raise-float") throw new Error(remedy.does);
    const lead = short.overTime?.controls?.findIndex(
      (own) => own.kind === "float" && own.role === "lead",
    );
    const [change] = remedy.changes;
    const less = applyChanges(short, [
      { field: `overTime.controls.${lead}.on`, value: (change?.value as number) - 0.004 },
    ]);
    expect(less.ok && codes(less.job)).toContain("starts-too-often");
  });

  it("hang an alarm over every float and under the rim", () => {
    const { remedy, after } = done(short, "no-alarm");
    expect(codes(after)).not.toContain("no-alarm");
    const starts = (short.overTime?.controls ?? []).flatMap((own) =>
      own.kind === "float" ? [own.on] : [],
    );
    if (remedy.does !== "hang-alarm") throw new Error(remedy.does);
    expect(remedy.at).toBeGreaterThan(Math.max(...starts));
    expect(remedy.at).toBeLessThan(0.01);
  });

  it("let air out of a tank to what its school says, take a larger tank, and a heavier cable", () => {
    const over = {
      ...well,
      pressureTank: { ...well.pressureTank, preCharge: 5e5, volume: 0.02 },
    } as JobDocument;
    expect(codes(over)).toContain("tank-over-charged");
    const { after } = done(over, "tank-over-charged");
    expect(codes(after)).not.toContain("tank-over-charged");
    const small = { ...well, pressureTank: { ...well.pressureTank, volume: 0.02 } } as JobDocument;
    expect(codes(small)).toContain("tank-run");
    expect(codes(done(small, "tank-run").after)).not.toContain("tank-run");
    const thin = {
      ...well,
      site: { ...well.site, cable: { length: 80, conductor: "mm2-1-5" } },
    } as JobDocument;
    expect(stops(thin)).toContain("cable-size");
    const cable = remedies(thin).find(({ does }) => does === "take-cable");
    const changed = cable && applyChanges(thin, cable.changes);
    expect(cable?.of).toBe("cable-size");
    // What nobody told of the heavier one is still to be asked, and no stop.
    expect(changed?.ok && stops(changed.job)).toEqual([]);
  });

  it("that bring something new to stop for, or mend nothing, are not offered", () => {
    const found = resultsOf(short)("findings");
    const given = { line: [], beside: found.beside };
    const run = (then: JobFindings) => {
      const steps = remediesInSteps(short, given, undefined, () => () => then);
      for (;;) {
        const step = steps.next();
        if (step.done) return step.value.map(({ of }) => of);
      }
    };
    expect(run({ line: [], beside: [] })).toContain("starts-too-often");
    expect(run(given)).toEqual([]);
    const stop = { code: "cannot-lift", severity: "stop" } as never;
    expect(run({ line: [stop], beside: [] })).toEqual([]);
  });

  it.each(DEMO_JOBS.map(({ id }) => id))(
    "of %s each do what they say, on the job as it is",
    (id) => {
      const job = demo(id);
      for (const { changes, of, itemId } of remedies(job)) {
        const changed = applyChanges(job, changes);
        expect(changed.ok, of).toBe(true);
        if (!changed.ok) continue;
        const still = resultsOf(changed.job)("findings");
        const alike = [...still.line, ...still.beside].filter(
          (own) => own.code === of && (!itemId || ("itemId" in own && own.itemId === itemId)),
        );
        expect(
          alike.every(({ severity }) => severity !== "stop"),
          of,
        ).toBe(true);
      }
    },
  );
});
