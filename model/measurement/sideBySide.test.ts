import { expect, it } from "vitest";
import type { ReadingDocument } from "#contract/documents/fieldTest.ts";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { expectedThrow } from "#core/irrigation/gun.ts";
import { GLASSHOUSES, KETTERBY } from "#demo/jobs.ts";
import { ratioWords } from "#words/fieldTests.ts";
import { irrigationOf } from "../irrigation/irrigation.ts";
import { applyChanges } from "../job/changes.ts";
import { solveJob } from "../job/solveJob.ts";
import { compareSetups } from "./sideBySide.ts";

const label = "Next size for the main";
const changes = [{ field: "path.main.stock", value: "pe100-sdr11-75mm" }];
const job = jobSchema.parse({ ...GLASSHOUSES, variants: [{ label, changes }] }) as JobDocument;
const setups = [
  { id: "old", name: "Old main" },
  { id: "new", name: "New main", variant: label },
];

function flowOf(own: JobDocument): number {
  const solved = solveJob(own);
  if (solved.kind !== "solved") throw new Error("must solve");
  return solved.solution.cases.normal.running?.state.delivered as number;
}
const changed = applyChanges(job, changes);
if (!changed.ok) throw new Error(changed.field);
const flows = { old: flowOf(job), new: flowOf(changed.job) };

const reading = (setup: string, flow: number) => ({
  id: setup,
  document: {
    ...{
      format: "upright-gusher/reading",
      version: 5,
      testId: "t",
      takenAt: "2026-05-01T10:00:00Z",
    },
    ...{ setup, flow: { method: "meter", flow, tolerance: 0.01 } },
  } as ReadingDocument,
});

it("holds two set-ups against what the model says of the change between them", () => {
  const [found] = compareSetups(job, setups, [
    reading("old", flows.old),
    reading("new", flows.new),
  ]);
  const [row] = found?.rows ?? [];
  if (!row) throw new Error("nothing compared");
  expect(row.model).toBeCloseTo(row.ratio.value, 9);
  expect(ratioWords(row, "New main")).toMatch(/The model says 1\.\d\d times, and so it is\.$/);
  // The change brought far less than it should.
  const [poor] = compareSetups(job, setups, [reading("old", flows.old), reading("new", flows.old)]);
  expect(ratioWords(poor?.rows[0] ?? row, "New main")).toContain("no difference");
  expect(ratioWords(poor?.rows[0] ?? row, "New main")).toContain("more or other things");
});

it("says nothing of a set-up that was not read, nor by a change that is not there any more", () => {
  expect(compareSetups(job, setups, [reading("old", flows.old)])).toEqual([]);
  const gone = [
    { id: "old", name: "Old" },
    { id: "new", name: "New", variant: "gone" },
  ];
  const [found] = compareSetups(job, gone, [reading("old", flows.old), reading("new", flows.new)]);
  expect(found?.rows[0]?.model).toBeUndefined();
});

it("throws are held against the model too: a larger hose throws as the root of its pressure says", () => {
  const hose = ["bank", "field"].map((id) => ({
    field: `path.${id}.stock`,
    value: "lay-flat-2-1-2in",
  }));
  const own = jobSchema.parse({
    ...KETTERBY,
    variants: [{ label, changes: hose }],
  }) as JobDocument;
  const thrown = (setup: string, throwDistance: number) => {
    const { id, document } = reading(setup, 3.5e-3);
    return { id, document: { ...document, throwDistance } };
  };
  const [found] = compareSetups(own, setups, [thrown("old", 21), thrown("new", 23)]);
  const row = found?.rows.find(({ of }) => of === "throw");
  const at = (one: JobDocument) => {
    const [gun] = irrigationOf(one).guns;
    return gun ? expectedThrow(gun.gun, gun.pressure) : 0;
  };
  const larger = applyChanges(own, hose);
  expect(row?.model).toBeGreaterThan(1.03);
  expect(row?.model).toBeCloseTo(larger.ok ? at(larger.job) / at(own) : 0, 9);
});
