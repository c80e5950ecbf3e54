import { useEffect, useRef } from "react";

/** A key of the keyboard and what it does, as the list of keys says it. */
export interface Key {
  /** as "l", "?", "mod+z" or "mod+shift+z"; `mod` is Ctrl, or ⌘ */
  press: string;
  does: string;
}

/**
 * What was pressed, as a `Key` says it.
 * @example pressed({ key: "Z", ctrlKey: true, metaKey: false, altKey: false, shiftKey: true }) // "mod+shift+z"
 */
export function pressed(
  event: Pick<KeyboardEvent, "key" | "ctrlKey" | "metaKey" | "altKey" | "shiftKey">,
): string {
  const mod = event.ctrlKey || event.metaKey;
  // What shift makes of a key is the key itself, unless it is a letter held with others.
  return [
    mod && "mod",
    event.altKey && "alt",
    mod && event.shiftKey && "shift",
    mod ? event.key.toLowerCase() : event.key,
  ]
    .filter(Boolean)
    .join("+");
}

/** Answers keys wherever the page has the cursor; a letter by itself only where it is not typed into something. */
export function useKeys(bound: readonly (readonly [Key, () => void])[]): void {
  const newest = useRef(bound);
  newest.current = bound;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const press = pressed(event);
      const own = newest.current.find(([key]) => key.press === press);
      if (!own || (!press.startsWith("mod+") && isTypedInto(event.target))) return;
      event.preventDefault();
      own[1]();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, []);
}

const isTypedInto = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.closest("input, textarea, select, [role=dialog]") !== null;
