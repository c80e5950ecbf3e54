import type { Key } from "../lib/keys.ts";
import { PARTS, type Part } from "../openJob/part.ts";
import type { View } from "../openJob/stage.ts";
import { STAGES, stageOf } from "./stages.ts";

/** What a job's page does on a key, beside what its stages do. */
export const JOB_KEYS = {
  undo: { press: "mod+z", does: "Undo" },
  redo: { press: "mod+shift+z", does: "Redo" },
  redoToo: { press: "mod+y", does: "Redo" },
  fold: { press: "f", does: "Fold the section, or unfold it" },
} satisfies Record<string, Key>;

/** A part of the line comes to hand by its place in the water's way. */
export const PART_KEYS = Object.fromEntries(
  PARTS.map((part, i) => [part, { press: String(i + 1), does: partName(part) }]),
) as Record<Part, Key>;

function partName(part: Part): string {
  const stage = stageOf(part);
  const own = stage.frame === "line" ? stage.parts.find((each) => each.part === part) : undefined;
  return own?.name ?? part;
}

export const viewKey = ({ key, name }: View): Key | undefined =>
  key === undefined ? undefined : { press: key, does: name };

/** The keys of all stages; a view that several have is told once. */
export function stageKeys(): Key[] {
  const keys = STAGES.flatMap((stage) =>
    stage.frame === "whole"
      ? []
      : (stage.views as readonly View[]).flatMap((view) => viewKey(view) ?? []),
  );
  return [...new Map(keys.map((key) => [key.press, key])).values()];
}
