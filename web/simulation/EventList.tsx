import { useRef } from "react";
import type { TimelineEvent } from "#core/simulation/dynamics.ts";
import { clockOf } from "#words/simulation.ts";
import { useLongList } from "../ui/useLongList.ts";

/** Everything that happens in a run, by the clock; a tap puts the marker there. */
export function EventList({
  events,
  wordsOf,
  onAt,
}: {
  events: readonly TimelineEvent[];
  wordsOf: (event: TimelineEvent) => string;
  onAt: (time: number) => void;
}) {
  const list = useRef<HTMLOListElement>(null);
  const { indexes, before, after } = useLongList(list, events.length, ROW);
  if (events.length === 0) return <p className="text-soft">Nothing switches, fills or empties.</p>;
  return (
    <ol
      ref={list}
      aria-label="What happens"
      style={{ paddingTop: before, paddingBottom: after }}
      className="border-t border-rule"
    >
      {indexes.map((index) => {
        const event = events[index] as TimelineEvent;
        return (
          <li key={index} className="h-8.5 border-b border-rule pointer-coarse:h-11">
            <button
              type="button"
              className="flex h-full w-full items-center gap-3 px-1 text-left text-[15px] hover:bg-press"
              onClick={() => onAt(event.time)}
            >
              <span className="plate w-18 shrink-0 text-right text-[17px]">
                {clockOf(event.time)}
              </span>
              <span className="min-w-0 truncate">{wordsOf(event)}</span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}

/** px of an event */
const ROW = 34;
