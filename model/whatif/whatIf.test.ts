import { describe, expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { type PumpDocument, pumpSchema } from "#contract/documents/pump.ts";
import { DEMO_JOBS, KETTERBY, TALLOW_MILL } from "#demo/jobs.ts";
import { LIBRARY } from "#library/pumps.ts";
import { offerLabel } from "#words/whatif.ts";
import type { Variant } from "../job/changes.ts";
import { applyChanges } from "../job/changes.ts";
import { resultsOf } from "../results/computations.ts";
import { offersFor } from "./offers.ts";

const LIBRARY_PUMPS = LIBRARY.map((pump) => pumpSchema.parse(pump) as PumpDocument);
const mill = jobSchema.parse(TALLOW_MILL) as JobDocument;

describe("changes kept as data", () => {
  it.each(DEMO_JOBS.map(({ id, job }) => [id, jobSchema.parse(job) as JobDocument] as const))(
    "%s: every offer can be made, changes something, and stands under a label of its own",
    (_, job) => {
      const offers = offersFor(job, LIBRARY_PUMPS);
      expect(offers.length).toBeGreaterThan(0);
      for (const { changes } of offers) {
        const changed = applyChanges(job, changes);
        expect(changed.ok && changed.job).not.toEqual(job);
        expect(changed.ok).toBe(true);
      }
      const labels = offers.map((offer) => offerLabel(offer, "metric"));
      expect(new Set(labels).size).toBe(labels.length);
    },
  );

  it("change a field, an item, or take either out, and nothing else", () => {
    const changed = applyChanges(mill, [
      { field: "overTime.controls.0.on", value: -1.4 },
      { field: "path.riser.stock", value: "pvc-sch40-3in" },
      { field: "path.check-1", value: null },
      { field: "overTime.powerCut", value: null },
    ]);
    if (!changed.ok) throw new Error(changed.field);
    const text = JSON.stringify(changed.job);
    expect(changed.job.overTime?.controls?.[0]).toMatchObject({ on: -1.4, off: -2.2 });
    expect(text).toContain('"stock":"pvc-sch40-3in","length":2.5');
    expect(text).not.toContain('"check-1"');
    expect(text).toContain('"check-2"');
    expect(changed.job.overTime?.powerCut).toBeUndefined();
    expect(changed.job.bodies).toEqual(mill.bodies);
  });

  it("say which field is not there, or makes no job", () => {
    for (const field of ["path.nothing.stock", "overTime.controls.9.on", "name.first"]) {
      expect(applyChanges(mill, [{ field, value: 1 }])).toEqual({ ok: false, field });
    }
    expect(applyChanges(mill, [{ field: "name", value: "" }]).ok).toBe(false);
  });
});

const columnsOf = (job: JobDocument, variants: Variant[]) =>
  resultsOf({ ...job, variants })("columns");

describe("columns", () => {
  const [bigger, floats, noCheck] = ["bigger-pipe", "float-higher", "no-check"].map((kind) => {
    const offer = offersFor(mill).find((own) => own.kind === kind);
    return { label: kind, changes: offer?.changes ?? [] };
  });
  it("are the job as it is, and each change worked out by itself", () => {
    const variants = [bigger, floats, noCheck].flatMap((own) => (own ? [own] : []));
    const [now, pipe, higher, open] = columnsOf(mill, variants);
    expect(pipe?.duty?.flow).toBeGreaterThan(now?.duty?.flow ?? 0);
    expect(pipe?.price?.known).toBeGreaterThan(now?.price?.known ?? 0);
    expect(higher?.duty).toEqual(now?.duty);
    expect(higher?.overTime?.switching?.worst.startsPerHour).toBeLessThan(
      now?.overTime?.switching?.worst.startsPerHour ?? 0,
    );
    expect(higher?.overTime?.unpumped?.fromOn).toBeLessThan(now?.overTime?.unpumped?.fromOn ?? 0);
    // Without check valves one standing pump lets the other's water back, and the riser falls at each stop.
    expect(open?.stops).toBeGreaterThan(now?.stops ?? 0);
    expect(open?.overTime?.survives).toBeGreaterThan(0);
    expect(open?.overTime?.ranBack).toBeGreaterThan(now?.overTime?.ranBack ?? 0);
    const gone = columnsOf(mill, [{ label: "x", changes: [{ field: "path.no", value: null }] }]);
    expect(gone[1]?.refused).toBe("not-there");
  });

  it("of a watering: two guns or a trash pump leave the gun in a ring, a bigger hose saves sets", () => {
    const ground = jobSchema.parse(KETTERBY) as JobDocument;
    const offers = offersFor(ground, LIBRARY_PUMPS);
    const variants = (["second-gun", "trash-pump", "bigger-pipe"] as const).map((kind) => {
      const offer = offers.find((own) => own.kind === kind);
      if (!offer) throw new Error(kind);
      return { label: kind, changes: offer.changes };
    });
    const columns = columnsOf(ground, variants).map(({ watering }) => watering);
    const [now, two, trash, hose] = columns;
    expect(columns.map((own) => own?.does)).toEqual(["throws", "ring", "ring", "throws"]);
    expect([now?.guns, two?.guns]).toEqual([1, 2]);
    expect(trash?.pressure).toBeLessThan(now?.pressure ?? 0);
    expect(hose?.sets).toBeLessThan(now?.sets ?? 0);
    expect(two?.sets).toBeUndefined();
    // And back from two to one.
    const both = applyChanges(ground, variants[0]?.changes ?? []);
    const back = both.ok ? offersFor(both.job).find(({ kind }) => kind === "one-gun") : undefined;
    const again = both.ok && back ? applyChanges(both.job, back.changes) : undefined;
    const single = again?.ok ? columnsOf(again.job, [])[0]?.watering : undefined;
    expect(single?.does).toBe("throws");
    expect(offerLabel(offers.find(({ kind }) => kind === "trash-pump") as never, "us")).toMatch(
      /^Trash pump: \S/,
    );
  });
});
