import type { FieldDocument } from "#contract/documents/job.ts";
import { besideSide, type KeepOff, type Surveyed, surveyed } from "#core/irrigation/ground.ts";
import type { Point } from "#core/irrigation/plane.ts";

/** The ground of a job with what is kept off it; absent where no ground is told. */
export interface Grounds {
  surveyed: Surveyed;
  keepOff: KeepOff[];
}

export function groundsOf(field: FieldDocument | undefined): Grounds | undefined {
  if (!field?.ground) return undefined;
  const found = surveyed(field.ground);
  const outline = found.kind === "surveyed" ? found.outline : [];
  const keepOff = (field.keepOff ?? []).flatMap(({ side, away = 0, box }): KeepOff[] => {
    if (box) {
      const { x, y, length, width } = box;
      const points: Point[] = [
        [x, y],
        [x + length, y],
        [x + length, y + width],
        [x, y + width],
      ];
      return [{ points, closed: true }];
    }
    // A circle has no sides an edge could stand beside.
    return side === undefined || side >= outline.length || field.ground?.kind === "circle"
      ? []
      : [{ points: besideSide(outline, side, away), closed: false }];
  });
  return { surveyed: found, keepOff };
}
