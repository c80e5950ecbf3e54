import { type KeyboardEvent, useId, useRef, useState } from "react";
import { useRefusal } from "./refusals.ts";

/** What a text says, or the sentence that refuses it. */
export type ReadText<T> = { problem: string } | { problem?: undefined; value: T };

/**
 * A text being typed for a value. It takes effect with every key that leaves it readable; a text that is refused stays
 * in the entry with its sentence and leaves no value behind: `without` where there may be none, else the one that stood
 * there before.
 */
export function useEntry<T>({
  label,
  value,
  read,
  without,
  onChange,
  onVisit,
}: {
  label: string;
  value: T;
  read: (text: string) => ReadText<T>;
  /** what an entry that may be left out comes to while its text is refused */
  without?: { value: T } | undefined;
  onChange: (value: T) => void;
  onVisit?: ((inside: boolean) => void) | undefined;
}) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  // Before the first key of this visit: there is none where the entry was never left with a good text.
  const before = useRef<{ value: T }>(undefined);
  const problem = draft === null ? undefined : read(draft).problem;
  useRefusal(id, label, problem !== undefined);
  const put = (next: T) => {
    if (next !== value) onChange(next);
  };
  return {
    id,
    draft,
    problem,
    input: {
      id,
      "aria-invalid": problem !== undefined,
      "aria-describedby": problem ? `${id}-problem` : undefined,
      onFocus: () => {
        if (!problem) before.current = { value };
        onVisit?.(true);
      },
      onChange: (event: { target: { value: string } }) => {
        const text = event.target.value;
        before.current ??= { value };
        setDraft(text);
        const result = read(text);
        put(result.problem === undefined ? result.value : (without ?? before.current).value);
      },
      onBlur: () => {
        if (!problem) setDraft(null);
        onVisit?.(false);
      },
      onKeyDown: (event: KeyboardEvent) => {
        if (event.key === "Escape" && draft !== null) {
          event.stopPropagation();
          setDraft(null);
          if (before.current) put(before.current.value);
        }
        if (event.key === "Enter" && !problem) {
          setDraft(null);
          before.current = { value };
        }
      },
    },
  };
}
