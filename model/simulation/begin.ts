import type { BodyOfWater, JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { changeItems, levelsOf } from "#core/line/path.ts";
import { mayFill } from "#core/outlet/outlets.ts";
import { bottomOf, depthOf, type Shape } from "../demand/bodies.ts";

/** Of clean gravel, the part that water fills. Common practice, no source: 0.35 to 0.4. */
export const GRAVEL = 0.38;

/** A shape of each kind about so deep, to be typed over. m. */
export const SHAPES: Record<Shape["kind"], (depth: number) => Shape> = {
  box: (depth) => ({ kind: "box", length: 2, width: 1, depth }),
  wedge: (depth) => ({ kind: "wedge", length: 5, width: 4, fall: depth / 3, depth }),
  cylinder: (depth) => ({ kind: "cylinder", diameter: 0.6, depth }),
  cone: (depth) => ({ kind: "cone", bottom: 0.5, top: 0.7, depth }),
  trapezoid: (depth) => ({ kind: "trapezoid", length: 10, width: 6, depth, slope: 1.5 }),
  "horizontal-cylinder": (depth) => ({
    kind: "horizontal-cylinder",
    diameter: depth,
    length: 2 * depth,
  }),
  table: (depth) => ({
    kind: "table",
    rows: [
      { depth: 0, area: 1 },
      { depth, area: 2 },
    ],
  }),
};

/** The source as a body of water: from the intake to the highest the water stands, or a little over. */
export function withSourceBody(job: JobDocument): JobDocument {
  const { source, bodies = [] } = job;
  if (source.kind !== "open" && source.kind !== "tank") return job;
  const { high } = levelsOf(source);
  const id = freeId(bodies, "source-water");
  const depth = Math.max(high - source.intake, 0.1);
  const body: BodyOfWater = {
    id,
    ...(source.name && { name: source.name }),
    shape: SHAPES.cylinder(depth),
    bottom: source.intake,
  };
  return { ...job, source: { ...source, body: id }, bodies: [...bodies, body] };
}

/** The water an outlet lets go into as a body of water, a metre deep under it. */
export function withReceiver(job: JobDocument, outletId: string, elevation: number): JobDocument {
  const { bodies = [] } = job;
  const id = freeId(bodies, "receiver");
  const body: BodyOfWater = { id, name: "Tank", shape: SHAPES.cylinder(1), bottom: elevation - 1 };
  const path = changeItems<JobPathItem>(job.path, (item) =>
    item.kind === "outlet" && item.id === outletId && mayFill(item.outlet)
      ? { ...item, outlet: { ...item.outlet, body: id } }
      : item,
  );
  return { ...job, path, bodies: [...bodies, body] };
}

/** One more body of water, such as a pit the first one overflows into. */
export function withAnotherBody(job: JobDocument): JobDocument {
  const { bodies = [] } = job;
  const id = freeId(bodies, "pit");
  const bottom = Math.min(...bodies.map((body) => bottomOf(body, job)), 0);
  const body: BodyOfWater = { id, name: "Second pit", shape: SHAPES.cylinder(1), bottom };
  const [first] = bodies;
  const others = bodies.map((own) =>
    own === first && own.overflowTo === undefined ? { ...own, overflowTo: id } : own,
  );
  return { ...job, bodies: [...others, body] };
}

/** The job without a body of water, nor anything that hangs in it. */
export function withoutBody(job: JobDocument, id: string): JobDocument {
  const { bodies = [], overTime, source } = job;
  const { body: own, ...open } = "body" in source ? source : { body: undefined, ...source };
  const controls = overTime?.controls?.filter((each) => !("body" in each) || each.body !== id);
  return {
    ...job,
    source: own === id ? (open as typeof source) : source,
    bodies: bodies
      .filter((body) => body.id !== id)
      .map(({ overflowTo, ...body }) =>
        overflowTo === undefined || overflowTo === id ? body : { ...body, overflowTo },
      ),
    path: changeItems<JobPathItem>(job.path, (item) => {
      if (item.kind !== "outlet" || !("body" in item.outlet) || item.outlet.body !== id)
        return item;
      const { body: _, ...outlet } = item.outlet;
      return { ...item, outlet: outlet as typeof item.outlet };
    }),
    ...(overTime && { overTime: { ...overTime, ...(controls && { controls }) } }),
  };
}

type Control = NonNullable<NonNullable<JobDocument["overTime"]>["controls"]>[number];

/** A float for a body: in the source it empties, elsewhere it fills; the next one a step over the last. */
export function nextFloat(job: JobDocument, body: BodyOfWater): Control {
  const own = (job.overTime?.controls ?? []).filter(
    (each) => each.kind === "float" && each.body === body.id,
  );
  const bottom = bottomOf(body, job);
  const depth = depthOf(body.shape);
  const at = (part: number) => Number((bottom + part * depth).toFixed(3));
  const empties = "body" in job.source && job.source.body === body.id;
  if (!empties) return { kind: "float", body: body.id, role: "lead", on: at(0.3), off: at(0.9) };
  return own.length === 0
    ? { kind: "float", body: body.id, role: "lead", on: at(0.45), off: at(0.15) }
    : { kind: "float", body: body.id, role: "lag", on: at(0.65), off: at(0.3) };
}

/** An alarm a little under the rim. */
export function alarmFor(job: JobDocument, body: BodyOfWater): Control {
  const at = bottomOf(body, job) + 0.85 * depthOf(body.shape);
  return { kind: "alarm", body: body.id, at: Number(at.toFixed(3)) };
}

function freeId(bodies: readonly BodyOfWater[], wanted: string): string {
  const taken = new Set(bodies.map(({ id }) => id));
  if (!taken.has(wanted)) return wanted;
  let n = 2;
  while (taken.has(`${wanted}-${n}`)) n++;
  return `${wanted}-${n}`;
}
