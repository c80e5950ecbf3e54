import { useEffect, useState } from "react";

/** A sample as it came in: its moment in ms since 1970. */
export interface LiveSample {
  n: number;
  at: number;
  values: (number | null)[];
}

/** Samples of the past that are kept in sight. */
const KEPT = 180;

/** What an instrument stream says from now on, the last samples of the past first; the browser connects again by itself. */
export function useLive(id: string | undefined): { samples: LiveSample[]; connected: boolean } {
  const [samples, setSamples] = useState<LiveSample[]>([]);
  const [connected, setConnected] = useState(false);
  useEffect(() => {
    setSamples([]);
    setConnected(false);
    if (id === undefined) return;
    const source = new EventSource(`/api/streams/${id}/live`);
    source.onopen = () => setConnected(true);
    source.onerror = () => setConnected(false);
    source.onmessage = ({ data }) => {
      const sample = JSON.parse(data as string) as LiveSample;
      setSamples((before) => {
        const last = before.at(-1);
        // Late ones are put where they belong.
        const all = [...before, sample];
        if (last && sample.at < last.at) all.sort((a, b) => a.at - b.at);
        return all.slice(-KEPT);
      });
    };
    return () => source.close();
  }, [id]);
  return { samples, connected };
}
