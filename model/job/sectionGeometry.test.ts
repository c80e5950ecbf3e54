import { describe, expect, it } from "vitest";
import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { newJob } from "../kinds/kinds.ts";
import { acrossScale, extent, sectionGeometry, suctionShades } from "./sectionGeometry.ts";
import { solveJob } from "./solveJob.ts";

const point = (distance: number, height: number, pipe: number) => ({
  itemId: "x",
  at: { distance, height, lane: 0 },
  pipe,
  way: 0,
});

describe("the section", () => {
  it("draws a job whose pump is not chosen yet, one without outlet, and nothing of an empty path", () => {
    const job = newJob("Pond", "pond-to-field", "metric");
    const geometry = sectionGeometry(solveJob(job));
    expect(geometry?.pumps[0]?.at.height).toBeCloseTo(0, 9);
    expect(geometry?.outlets[0]?.at.height).toBeCloseTo(3, 9);
    expect(geometry?.runs.map((run) => run.side)).toEqual(["suction", "discharge"]);
    const part = (path: JobDocument["path"]) => {
      const cut = jobSchema.parse({ ...job, path });
      return sectionGeometry(solveJob(cut));
    };
    expect(part(job.path.slice(0, -1))?.runs).toHaveLength(2);
    expect(part([])).toBeUndefined();
  });

  it("marks the place of what cannot be solved", () => {
    const job = newJob("Pond", "pond-to-field", "metric");
    const path = job.path.map((item) => (item.id === "valve" ? { ...item, opening: 0 } : item));
    const shut = jobSchema.parse({ ...job, path });
    const geometry = sectionGeometry(solveJob(shut));
    expect(geometry?.diagnostics.find(({ itemId }) => itemId === "valve")?.at).toEqual({
      ...geometry?.pumps[0]?.at,
      distance: expect.closeTo(Math.sqrt(21), 9),
    });
  });

  it("marks a loop that leads nowhere where it begins", () => {
    const job = newJob("Pond", "pond-to-field", "metric");
    const way = (id: string) => ({ kind: "pipe", id, stock: "lay-flat-2in", length: 5, rise: 0 });
    const loop = { kind: "split", id: "loop", branches: [[way("x")], [way("y")]] };
    const closed = jobSchema.parse({ ...job, path: [...job.path.slice(0, -1), loop] });
    const geometry = sectionGeometry(solveJob(closed));
    expect(geometry?.diagnostics.map(({ itemId }) => itemId)).toContain("loop");
    expect(geometry?.runs).toHaveLength(4);
  });

  it("keeps the order along the line and gives a short suction room", () => {
    const job = newJob("Pond", "pond-to-field", "us");
    const geometry = sectionGeometry(solveJob(job));
    if (!geometry) throw new Error("should draw");
    const across = acrossScale(geometry, 0.25);
    const { suction, end } = extent(geometry);
    const places = [0, suction / 2, suction, end];
    const drawn = places.map(across);
    expect(drawn).toEqual(drawn.toSorted((a, b) => a - b));
    expect(across(suction)).toBeGreaterThanOrEqual(0.25);
    expect(across(end)).toBeCloseTo(1, 9);
  });

  it("shades suction only where the head line runs below the pipe, cut at the crossing", () => {
    expect(suctionShades([point(0, 5, 1), point(10, 1, 1)])).toEqual([]);
    expect(suctionShades([point(0, 5, 1), point(10, 1 - 1e-9, 1)])).toEqual([]);
    const [crossed] = suctionShades([point(0, 2, 1), point(10, 0, 1)]);
    expect(crossed?.[0]).toEqual({ distance: 5, height: 1, lane: 0 });
    expect(crossed?.[1]).toEqual({ distance: 10, height: 0, lane: 0 });
    expect(suctionShades([point(0, 0, 1), point(10, 0, 1)])[0]?.[3]).toEqual({
      distance: 0,
      height: 1,
      lane: 0,
    });
  });
});
