import { useEffect, useState } from "react";
import { SHUT_SECONDS } from "#core/measurement/sweep.ts";

/** Counts the seconds a pump runs against a shut valve down, with what that does to it. */
export function ShutClock() {
  const [shutAt, setShutAt] = useState<number>();
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (shutAt === undefined) return;
    const timer = setInterval(() => setNow(performance.now()), 200);
    return () => clearInterval(timer);
  }, [shutAt]);
  const left = shutAt === undefined ? SHUT_SECONDS : SHUT_SECONDS - (now - shutAt) / 1000;
  const running = shutAt !== undefined;
  const over = running && left <= 0;
  return (
    <div className="grid gap-1.5">
      <button
        type="button"
        className={`plate flex h-24 w-full flex-col items-center justify-center rounded-lg text-paper select-none ${over ? "bg-ink" : running ? "bg-signal" : "bg-water"}`}
        onClick={() => {
          setNow(performance.now());
          setShutAt(running ? undefined : performance.now());
        }}
      >
        <span className="text-5xl leading-none" data-testid="shut-clock">
          {over ? "Open it now" : `${Math.ceil(Math.max(left, 0))} s`}
        </span>
        <span className="text-xl">
          {running ? "It is open again: stop" : "Valve is shut: start the countdown"}
        </span>
      </button>
      <p role="alert" className="text-[14px] font-medium text-signal">
        Shut off, the water in the pump heats: it can scald, and burst the casing. Stay at the
        valve, read at once, open again within {SHUT_SECONDS} s.
      </p>
    </div>
  );
}
