import type { CompiledLine } from "../line/compileLine.ts";

/** m³ of water a stretch of segments holds. */
function volumeOf(segments: CompiledLine["segments"]): number {
  return segments.reduce(
    (sum, s) =>
      s.kind === "pipe" && s.run ? sum + (Math.PI / 4) * s.bore ** 2 * s.run.length : sum,
    0,
  );
}

/** m³ of air a pump above the water has to clear from its suction line before it pumps. */
export function primingVolume(line: CompiledLine): number {
  return volumeOf(line.segments.slice(0, line.pumpIndex));
}

/**
 * m³ that runs back through the pump at each stop when nothing holds it: every run of the discharge whose
 * water stands above the source, up to the first check valve. A run counts by the part of it above the
 * surface.
 */
export function drainBackVolume(line: CompiledLine, sourceLevel: number): number {
  let volume = 0;
  for (const s of line.segments.slice(line.pumpIndex)) {
    if (s.fitting?.group === "check") break;
    if (s.kind !== "pipe" || !s.run) continue;
    const top = Math.max(s.startElevation, s.endElevation);
    const bottom = Math.min(s.startElevation, s.endElevation);
    const above =
      top <= sourceLevel
        ? 0
        : bottom >= sourceLevel
          ? 1
          : (top - sourceLevel) / Math.max(top - bottom, 1e-9);
    volume += (Math.PI / 4) * s.bore ** 2 * s.run.length * above;
  }
  return volume;
}

/** A check or foot valve anywhere on the line keeps the water from running back to the source. */
export function holdsWater(line: CompiledLine): boolean {
  return line.segments.some((segment) => segment.fitting?.group === "check");
}

/**
 * Items after which the line falls although it rose before: air gathers there. The outlet itself does
 * not count, since air leaves with the water.
 */
export function highPoints(
  segments: CompiledLine["segments"],
): { itemId: string; elevation: number }[] {
  const found: { itemId: string; elevation: number }[] = [];
  let rising: { itemId: string; elevation: number } | undefined;
  for (const { itemId, startElevation, endElevation } of segments) {
    const rise = endElevation - startElevation;
    if (rise > SLACK) rising = { itemId, elevation: endElevation };
    else if (rise < -SLACK) {
      if (rising) found.push(rising);
      rising = undefined;
    }
  }
  return found;
}

/** m: a fall smaller than this over a run is level for air's purposes. */
const SLACK = 0.02;
