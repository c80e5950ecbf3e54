import type { JobDocument } from "#contract/documents/job.ts";
import { topArea } from "./bodies.ts";
import { flowOfDemand } from "./demand.ts";

/**
 * What a job knows of the water its pump draws from, for a test by its fall: m² where its walls stand upright, and m³/s
 * that come in by themselves. What was not surveyed is absent.
 */
export function pitOf({ source, bodies, need }: Pick<JobDocument, "source" | "bodies" | "need">): {
  area?: number;
  inflow?: number;
} {
  const body = "body" in source ? bodies?.find(({ id }) => id === source.body) : undefined;
  const upright = body && (body.shape.kind === "box" || body.shape.kind === "cylinder");
  const ofTest = need?.kind === "rise-test" ? need.area : undefined;
  const area = upright ? topArea(body.shape) : ofTest;
  const inflow =
    body?.inflow ?? (need?.kind === "rise-test" ? flowOfDemand(need)?.flow : undefined);
  return { ...(area !== undefined && { area }), ...(inflow !== undefined && { inflow }) };
}
