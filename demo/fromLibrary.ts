import type { PumpInput } from "#contract/documents/pump.ts";
import { findGun, outletOf } from "#core/irrigation/guns.ts";
import type { NozzleOutlet } from "#core/outlet/gun.ts";
import { LIBRARY } from "#library/pumps.ts";

/** A pump that ships, as it is copied into a job. */
export function fromLibrary(id: string): PumpInput {
  const pump = LIBRARY.find((candidate) => candidate.id === id);
  if (!pump) throw new Error(`The library has no pump ${id}`);
  return pump;
}

/** A gun of the catalogue, as it is copied into a job. */
export function fromCatalogue(id: string): NozzleOutlet {
  const gun = findGun(id);
  if (!gun) throw new Error(`The catalogue has no gun ${id}`);
  return outletOf(gun);
}
