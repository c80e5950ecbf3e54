import type { JobDocument } from "#contract/documents/job.ts";
import { findPipeStock } from "#core/catalogue/pipes.ts";
import { everyItem, type PathItem } from "#core/line/path.ts";
import { FOOT } from "#core/quantity/constants.ts";
import { cableLength, pumpDepth } from "./settle.ts";

/** What goes down a well beside pump and pipe, by what it is; the words are elsewhere. */
export type WellPart =
  | { what: "torque-arrestor" | "splice-kit" | "well-head"; count: number }
  /** m */
  | { what: "rope" | "cable"; length: number }
  | { what: "joints" | "clamps" | "cable-ties" | "more-checks"; count: number };

/** m between cable ties, 10 ft, and of drop pipe to each further check valve, 200 ft. Common practice, no source. */
const TIE_EVERY = 10 * FOOT;
const CHECK_EVERY = 200 * FOOT;
/** m of rope and cable beyond the depth, to tie off and to join. Common practice, no source. */
const SPARE = 3;

/** Joints, ties, splices and what holds the pump, from the pipe that is laid and the depth. */
export function partsOfWell(job: Pick<JobDocument, "path" | "source" | "well">): WellPart[] {
  const depth = pumpDepth(job);
  if (depth <= 0) return [];
  const down = everyItem<PathItem>(job.path as PathItem[]).find(
    (item) => item.kind === "pipe" && item.rise > 0.5 * depth,
  );
  const stock = down?.kind === "pipe" ? findPipeStock(down.stock) : undefined;
  const length = down?.kind === "pipe" ? down.length : depth;
  const barbed = stock?.family.startsWith("pe") ?? false;
  const lengths = stock ? Math.ceil(length / stock.soldLength - 1e-6) : 1;
  const joints = Math.max(lengths - 1, 0);
  const stiff = stock?.family.startsWith("steel") || stock?.family === "copper-l";
  const checks = everyItem<PathItem>(job.path as PathItem[]).filter(
    (item) => item.kind === "fitting" && item.fitting.startsWith("check"),
  ).length;
  const more = Math.max(Math.ceil(depth / CHECK_EVERY) - checks, 0);
  return [
    ...(stiff ? [] : [{ what: "torque-arrestor" as const, count: 1 }]),
    ...(stiff ? [] : [{ what: "rope" as const, length: depth + SPARE }]),
    { what: "cable", length: cableLength(job) + SPARE },
    { what: "splice-kit", count: 1 },
    { what: "cable-ties", count: Math.ceil(depth / TIE_EVERY) },
    ...(joints > 0 ? [{ what: "joints" as const, count: joints }] : []),
    // Two clamps on each end of each barb.
    ...(barbed ? [{ what: "clamps" as const, count: 2 * (2 * joints + 2) }] : []),
    ...(more > 0 ? [{ what: "more-checks" as const, count: more }] : []),
    { what: "well-head", count: 1 },
  ];
}
