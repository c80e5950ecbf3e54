import { useEffect, useState } from "react";
import { RANGES } from "#contract/documents/ranges.ts";
import { IconButton } from "../../../ui/Button.tsx";
import { Trash2 } from "../../../ui/icons.ts";
import { QuantityField } from "../../../ui/QuantityField.tsx";

const FILLS = { start: "Start filling", stop: "Full: stop", again: "Start the next fill" };

/** Times fills of a bucket with one thumb: the whole width of the hand starts and stops. */
export function Stopwatch({
  times,
  onFill,
  onChange,
  said = FILLS,
  last = times.at(-1),
}: {
  /** what stands on the button before, while and after it runs */
  said?: { start: string; stop: string; again: string };
  /** s that were timed last */
  last?: number | undefined;
  times: readonly number[];
  onFill: (seconds: number) => void;
  onChange: (times: number[]) => void;
}) {
  const [startedAt, setStartedAt] = useState<number | null>(null);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (startedAt === null) return;
    let frame = requestAnimationFrame(function tick() {
      setNow(performance.now());
      frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [startedAt]);

  const running = startedAt !== null;
  // The event's own time: a slow frame must not lengthen the fill.
  const press = (at: number) => {
    if (startedAt === null) {
      setNow(at);
      setStartedAt(at);
    } else {
      const seconds = Math.round((at - startedAt) / 10) / 100;
      setStartedAt(null);
      if (seconds >= 0.1) onFill(seconds);
    }
  };

  return (
    <div>
      <button
        type="button"
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.preventDefault();
          event.currentTarget.focus();
          press(event.timeStamp);
        }}
        onKeyDown={(event) => {
          if ((event.key !== " " && event.key !== "Enter") || event.repeat) return;
          event.preventDefault();
          press(event.timeStamp);
        }}
        className={`plate flex h-28 w-full touch-none flex-col items-center justify-center rounded-lg select-none ${running ? "bg-signal text-paper" : "bg-water text-paper"}`}
      >
        <span className="text-5xl leading-none" data-testid="watch">
          {running
            ? ((now - startedAt) / 1000).toFixed(1)
            : last === undefined
              ? "0.0"
              : last.toFixed(2)}
          <span className="text-2xl"> s</span>
        </span>
        <span className="text-2xl">
          {running ? said.stop : last === undefined ? said.start : said.again}
        </span>
      </button>
      {times.length > 0 && (
        <ol
          aria-label="Fills"
          className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(9.5rem,1fr))] gap-1.5"
        >
          {times.map((seconds, i) => (
            // A fill is known by its place in the list.
            <li key={i} className="flex items-center">
              <QuantityField
                label={`Fill ${i + 1}`}
                visibleLabel={false}
                quantity="time"
                range={RANGES.time}
                value={seconds}
                onChange={(value) => onChange(times.with(i, value))}
                className="flex-1"
              />
              <IconButton
                label={`Remove fill ${i + 1}`}
                onClick={() => onChange(times.toSpliced(i, 1))}
              >
                <Trash2 size={16} aria-hidden />
              </IconButton>
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}
