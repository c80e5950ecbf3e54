import type { PumpDocument } from "#contract/documents/pump.ts";
import { sameDocument } from "#contract/documents/same.ts";

type Kind = PumpDocument["kind"];

/** Kinds that stand in the water they move; of the others the plate says so where they do. */
const IN_THE_WATER: ReadonlySet<Kind> = new Set(["sump", "effluent", "puddle", "battery", "well"]);
const ENGINES: ReadonlySet<Kind> = new Set(["engine-pressure", "engine-trash"]);

/** A pump of another kind, with what follows from that: whether it stands in the water, and whether an engine drives it. */
export function ofKind<P extends Partial<Pick<PumpDocument, "drive">>>(pump: P, kind: Kind) {
  const engine = ENGINES.has(kind);
  const drive: PumpDocument["drive"] = engine ? "engine" : "electric";
  return {
    ...{ ...pump, kind, submersible: IN_THE_WATER.has(kind) },
    ...((engine || pump.drive === "engine") && { drive }),
  };
}

/**
 * What of a pump the library has otherwise than the copy a job keeps. Whose it is and whether it is in the van or still
 * offered is none of it.
 */
export function otherwise(own: PumpDocument, library: PumpDocument): "curve" | "plate" | undefined {
  if (!sameDocument(own.points, library.points)) return "curve";
  return sameDocument(plateOf(own), plateOf(library)) ? undefined : "plate";
}

const plateOf = ({
  archived: _,
  owned: _owned,
  inVan: _van,
  invented: _invented,
  ...plate
}: PumpDocument) => plate;
