import { useEffect, useRef, useState } from "react";
import { type Entry, entries, onChange, unattended } from "./outbox.ts";

/** ms that a change may take to be saved before it is news */
const MOMENT = 3000;

/**
 * Of what this device holds, whoever is at work on it, what is asked for.
 * @param of what `isAsked` goes by: asked anew when it changes
 */
function useEntries(of: string, isAsked: (entry: Entry) => boolean): readonly Entry[] {
  const [held, setHeld] = useState<readonly Entry[]>(NOT_LOOKED);
  const asked = useRef(isAsked);
  asked.current = isAsked;
  useEffect(() => {
    let gone = false;
    const look = async () => {
      const found = (await entries()).filter((entry) => asked.current(entry));
      if (!gone) setHeld((before) => (found.length > 0 ? found : before === NONE ? before : NONE));
    };
    void look();
    const stop = onChange(() => void look());
    return () => {
      gone = true;
      stop();
    };
  }, [of]);
  return held;
}

/** What this device holds that was taken on a job. */
export const useHeld = (job: string): readonly Entry[] =>
  useEntries(job, (entry) => entry.job === job);

/** The bytes of a picture while this device holds them; nobody knows before it was `looked` for. */
export function useHeldContent(id: string): { looked: boolean; content?: Blob | undefined } {
  const held = useEntries(id, (entry) => entry.id === id);
  return { looked: held !== NOT_LOOKED, content: held[0]?.content };
}

const NONE: readonly Entry[] = [];
/** Before the first look. */
const NOT_LOOKED: readonly Entry[] = [];

/** What this device holds and no open page is at work on, once that is news: of one job, or of all. */
export function useUnsaved(id?: string): Entry[] {
  const [held, setHeld] = useState<Entry[]>([]);
  useEffect(() => {
    let gone = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = async () => {
      const found = (await unattended()).filter(
        (entry) => id === undefined || entry.id === id || entry.job === id,
      );
      if (gone) return;
      // What was typed a moment ago is on its way, and no news; a new test goes with its readings.
      const isNews = ({ state, at, collection, base }: Entry) =>
        state !== "waiting" ||
        ((collection !== "tests" || base > 0) && Date.now() - Date.parse(at) > MOMENT);
      const now = found.filter(isNews);
      setHeld((before) => (before.length === 0 && now.length === 0 ? before : now));
      clearTimeout(timer);
      if (now.length < found.length) timer = setTimeout(() => void look(), MOMENT);
    };
    void look();
    const stop = onChange(() => void look());
    return () => {
      gone = true;
      clearTimeout(timer);
      stop();
    };
  }, [id]);
  return held;
}
