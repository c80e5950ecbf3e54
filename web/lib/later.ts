import { type ComponentType, lazy, type ReactNode } from "react";

/** A part of the page in a file of its own: fetched when it is first shown, or when it is told to. */
export interface Later<Props> {
  load: () => Promise<unknown>;
  Shown: (props: Props) => ReactNode;
}

export function later<Props extends object>(
  load: () => Promise<{ default: ComponentType<Props> }>,
): Later<Props> {
  return { load, Shown: lazy(load) as unknown as Later<Props>["Shown"] };
}
