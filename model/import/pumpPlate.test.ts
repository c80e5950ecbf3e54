import { expect, it } from "vitest";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { pumpSchema } from "#contract/documents/pump.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { LIBRARY } from "#library/pumps.ts";
import { ofKind, otherwise } from "./pumpPlate.ts";

const pumps = LIBRARY.map((pump) => pumpSchema.parse(pump) as PumpDocument);

it("a kind says whether a pump stands in the water and what drives it, as every plate of the library has it", () => {
  for (const pump of pumps) {
    const { submersible: _, ...bare } = pump;
    const { submersible, drive } = ofKind(bare, pump.kind);
    expect([pump.model, submersible, drive ?? pump.drive]).toEqual([
      pump.model,
      pump.submersible,
      pump.drive,
    ]);
  }
  const well = ofKind({ drive: "electric", model: "x" } as const, "well");
  expect(well).toEqual({ drive: "electric", model: "x", kind: "well", submersible: true });
  // An engine goes with its kind, both ways.
  const trash = ofKind(well, "engine-trash");
  expect(trash).toMatchObject({ drive: "engine", submersible: false });
  expect(ofKind(trash, "sump")).toMatchObject({ drive: "electric", submersible: true });
});

it("a copy is older where the library's curve or plate is another, whoever owns it", () => {
  const [pump] = pumps as [PumpDocument];
  const points = pump.points.map((point, i) =>
    i === 1 ? { ...point, head: 0.97 * point.head } : point,
  );
  expect(otherwise(pump, pump)).toBeUndefined();
  expect(otherwise(pump, { ...pump, owned: 3, inVan: true, archived: true })).toBeUndefined();
  expect(otherwise(pump, { ...pump, points })).toBe("curve");
  expect(otherwise(pump, { ...pump, mass: (pump.mass ?? 0) + 1 })).toBe("plate");
  // Kept by a database, its keys come in another order.
  const turned = Object.fromEntries(Object.entries(pump).toReversed()) as unknown as PumpDocument;
  expect(otherwise(pump, turned)).toBeUndefined();
});

it("no job of the demo holds an older pump than the library that ships with it", () => {
  const known = new Map(pumps.map((pump) => [pump.id, pump]));
  for (const { id, job } of DEMO_JOBS) {
    for (const own of job.pumps ?? []) {
      const theirs = known.get(own.id ?? "");
      const parsed = pumpSchema.parse(own) as PumpDocument;
      expect([id, own.model, theirs && otherwise(parsed, theirs)]).toEqual([
        id,
        own.model,
        undefined,
      ]);
    }
  }
});
