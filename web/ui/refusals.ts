import { useEffect } from "react";
import { create } from "zustand";

/** The entries on the page whose text is refused, by their id: what files or begins something waits for them. */
const useRefusals = create<{ labels: ReadonlyMap<string, string> }>(() => ({ labels: new Map() }));

/** Says of an entry that its text is refused, for as long as it is and stands on the page. */
export function useRefusal(id: string, label: string, refused: boolean): void {
  useEffect(() => {
    if (!refused) return;
    useRefusals.setState(({ labels }) => ({ labels: new Map(labels).set(id, label) }));
    return () =>
      useRefusals.setState(({ labels }) => {
        const rest = new Map(labels);
        rest.delete(id);
        return { labels: rest };
      });
  }, [id, label, refused]);
}

/** Why nothing can be filed or begun while an entry is refused; nothing while all can be read. */
export function useRefused(): string | undefined {
  const first = useRefusals(({ labels }) => labels.values().next().value);
  return first === undefined
    ? undefined
    : `Put right “${first}” first: what stands there cannot be read.`;
}
