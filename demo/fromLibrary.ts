import type { PumpInput } from "#contract/documents/pump.ts";
import { LIBRARY } from "#library/pumps.ts";

/** A pump that ships, as it is copied into a job. */
export function fromLibrary(id: string): PumpInput {
  const pump = LIBRARY.find((candidate) => candidate.id === id);
  if (!pump) throw new Error(`The library has no pump ${id}`);
  return pump;
}
