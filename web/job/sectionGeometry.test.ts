import { describe, expect, it } from "vitest";
import { jobSchema } from "#contract/documents/job.ts";
import { solveJob } from "#contract/solveJob.ts";
import { newJob } from "../jobs/newJob.ts";
import { acrossScale, sectionGeometry, suctionShades } from "./sectionGeometry.ts";

const point = (distance: number, height: number, pipe: number) => ({
  itemId: "x",
  at: { distance, height },
  pipe,
});

describe("the section", () => {
  it("draws a job whose pump is not chosen yet, and nothing of one without outlet", () => {
    const job = newJob("Pit", "above", "metric");
    const geometry = sectionGeometry(job, solveJob(job));
    expect(geometry?.pump.height).toBeCloseTo(0.5, 9);
    expect(geometry?.outlet.height).toBeCloseTo(3.5, 9);
    expect(geometry?.runs.map((run) => run.side)).toEqual(["suction", "discharge", "discharge"]);
    const cut = jobSchema.parse({ ...job, path: job.path.slice(0, -1) });
    expect(sectionGeometry(cut, solveJob(cut))).toBeUndefined();
  });

  it("keeps the order along the line and gives a short suction room", () => {
    const job = newJob("Pit", "above", "us");
    const geometry = sectionGeometry(job, solveJob(job));
    if (!geometry) throw new Error("should draw");
    const across = acrossScale(geometry, 0.25);
    const places = [
      0,
      geometry.pump.distance / 2,
      geometry.pump.distance,
      geometry.outlet.distance,
    ];
    const drawn = places.map(across);
    expect(drawn).toEqual(drawn.toSorted((a, b) => a - b));
    expect(across(geometry.pump.distance)).toBeGreaterThanOrEqual(0.25);
    expect(across(geometry.outlet.distance)).toBeCloseTo(1, 9);
  });

  it("shades suction only where the head line runs below the pipe, cut at the crossing", () => {
    expect(suctionShades([point(0, 5, 1), point(10, 1, 1)])).toEqual([]);
    expect(suctionShades([point(0, 5, 1), point(10, 1 - 1e-9, 1)])).toEqual([]);
    const [crossed] = suctionShades([point(0, 2, 1), point(10, 0, 1)]);
    expect(crossed?.[0]).toEqual({ distance: 5, height: 1 });
    expect(crossed?.[1]).toEqual({ distance: 10, height: 0 });
    expect(suctionShades([point(0, 0, 1), point(10, 0, 1)])[0]?.[3]).toEqual({
      distance: 0,
      height: 1,
    });
  });
});
