import * as z from "zod";

/** One step of a document from its version to the next; what it does not know it leaves as it is. */
export type Upgrade = (document: Record<string, unknown>) => Record<string, unknown>;

export interface Versions {
  format: string;
  /** the one that is written */
  version: number;
  /** the version of a document that names none; such documents are refused where absent */
  unnamed?: number;
  /** by the version they start from, each one version further */
  upgrades: Readonly<Record<number, Upgrade>>;
}

/**
 * A schema that takes older versions too and brings them up to date before it looks at them. What it writes is
 * always the newest version.
 */
export function versioned<S extends z.ZodType>(shape: S, versions: Versions) {
  return z.preprocess((given) => upgraded(given, versions), shape);
}

/** A document brought to the newest version, or as it was given where it is none of these. */
export function upgraded(
  given: unknown,
  { format, version, unnamed, upgrades }: Versions,
): unknown {
  if (typeof given !== "object" || given === null || Array.isArray(given)) return given;
  let document = given as Record<string, unknown>;
  if (document.format !== format && !(unnamed !== undefined && document.format === undefined)) {
    return given;
  }
  for (;;) {
    const at = document.version ?? unnamed;
    const upgrade = typeof at === "number" && at < version ? upgrades[at] : undefined;
    if (!upgrade || typeof at !== "number") return document;
    document = { ...upgrade(document), format, version: at + 1 };
  }
}
