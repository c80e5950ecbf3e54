import type { BodyOfWater, JobDocument } from "#contract/documents/job.ts";
import {
  coneStore,
  joinedStore,
  lyingCylinderStore,
  porousStore,
  tableStore,
  trapezoidStore,
  uprightStore,
  type WaterStore,
  wedgeStore,
} from "#core/simulation/waterStore.ts";

export type Shape = BodyOfWater["shape"];

/** m from the bottom of a shape to its rim. */
export function depthOf(shape: Shape): number {
  if (shape.kind === "horizontal-cylinder") return shape.diameter;
  if (shape.kind !== "table") return shape.depth;
  return (shape.rows.at(-1)?.depth ?? 0) - (shape.rows[0]?.depth ?? 0);
}

/** m above datum: as typed, or where the line takes its water from it. */
export function bottomOf(body: BodyOfWater, job: Pick<JobDocument, "source">): number {
  if (body.bottom !== undefined) return body.bottom;
  const { source } = job;
  return "body" in source && source.body === body.id ? source.intake : 0;
}

/** A body of water as the simulation needs it, with gravel round it and pipes that lead in. */
export function storeOf(body: BodyOfWater, bottom: number): WaterStore {
  const own = porousStore(plainStore(body.shape, bottom), body.porosity ?? 1);
  const { surround, inflowPipes = [] } = body;
  const depth = own.rim - own.bottom;
  const beside: WaterStore[] = inflowPipes.map(({ bore, length, invert }) =>
    lyingCylinderStore(invert, bore, length),
  );
  if (surround && depth > 0) {
    // What is left between the vessel and the hole it stands in, at every depth of both.
    const vessel = plainStore(body.shape, bottom);
    const hole = uprightStore(bottom, depth, (Math.PI / 4) * surround.across ** 2);
    const round = (level: number) =>
      surround.porosity * Math.max(hole.volumeAt(level) - vessel.volumeAt(level), 0);
    if (round(own.rim) > 0) beside.push({ ...hole, volumeAt: round });
  }
  return joinedStore(own, beside);
}

function plainStore(shape: Shape, bottom: number): WaterStore {
  switch (shape.kind) {
    case "box":
      return uprightStore(bottom, shape.depth, shape.length * shape.width);
    case "wedge":
      return wedgeStore(bottom, shape.depth, shape.length * shape.width, [
        shape.fall,
        shape.fallAcross ?? 0,
      ]);
    case "cylinder":
      return uprightStore(bottom, shape.depth, (Math.PI / 4) * shape.diameter ** 2);
    case "cone":
      return coneStore(bottom, shape.depth, shape.bottom, shape.top);
    case "trapezoid":
      return trapezoidStore(bottom, shape.depth, shape.length, shape.width, shape.slope);
    case "horizontal-cylinder":
      return lyingCylinderStore(bottom, shape.diameter, shape.length);
    case "table":
      return tableStore(bottom, shape.rows);
  }
}

/** m² at its rim. */
export function topArea(shape: Shape): number {
  switch (shape.kind) {
    case "box":
    case "wedge":
      return shape.length * shape.width;
    case "cylinder":
      return (Math.PI / 4) * shape.diameter ** 2;
    case "cone":
      return (Math.PI / 4) * shape.top ** 2;
    case "trapezoid": {
      const wider = 2 * shape.slope * shape.depth;
      return (shape.length + wider) * (shape.width + wider);
    }
    case "horizontal-cylinder":
      return shape.diameter * shape.length;
    case "table":
      return shape.rows.at(-1)?.area ?? 0;
  }
}
