import { LIBRARY } from "#library/pumps.ts";

/**
 * A job whose path names pumps of the shipped library that it does not hold itself gets copies of them.
 * Anything else is handed on untouched for the schema to judge.
 */
export function withNamedPumps(job: unknown): unknown {
  if (!isRecord(job) || !Array.isArray(job.path)) return job;
  const own = Array.isArray(job.pumps) ? job.pumps : [];
  if (job.pumps !== undefined && !Array.isArray(job.pumps)) return job;
  const held = new Set(own.map((pump) => (isRecord(pump) ? pump.id : undefined)));
  const named = pumpsNamed(job.path);
  const missing = LIBRARY.filter((pump) => named.includes(pump.id) && !held.has(pump.id));
  return { ...job, pumps: [...own, ...missing] };
}

function pumpsNamed(path: unknown): unknown[] {
  if (!Array.isArray(path)) return [];
  return path.flatMap((item) => {
    if (!isRecord(item)) return [];
    if (item.kind === "pump") return [item.pump];
    return Array.isArray(item.branches) ? item.branches.flatMap(pumpsNamed) : [];
  });
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}
