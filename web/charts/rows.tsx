import type { ReactNode } from "react";

/** Strips are drawn so wide, and stretched to the room there is. */
export const WIDE = 1000;

/** One strip of several, with its name and what its edges mean. */
export function Row({
  name,
  top,
  bottom,
  height,
  label,
  slim,
  children,
}: {
  name: string;
  top?: string;
  bottom?: string;
  height: number;
  label: string;
  slim?: boolean;
  children: ReactNode;
}) {
  return (
    <div className={slim ? "pt-0.5" : "pt-1"}>
      <p className="flex justify-between gap-2 text-[13px] leading-tight text-soft">
        <span className="min-w-0 truncate">{name}</span>
        {top && <span className="shrink-0">{top}</span>}
      </p>
      <svg
        role="img"
        aria-label={label}
        viewBox={`0 0 ${WIDE} ${height}`}
        preserveAspectRatio="none"
        className="block w-full border-b border-rule"
        style={{ height }}
      >
        {children}
      </svg>
      {bottom && <p className="-mt-4.5 h-4.5 text-[13px] leading-none text-soft">{bottom}</p>}
    </div>
  );
}

/** Where the marker stands, over all strips. */
export function MarkerLine({ at, span }: { at: number; span: number }) {
  return (
    <div
      aria-hidden
      className="pointer-events-none absolute inset-y-0 w-0.5 -translate-x-1/2 bg-signal"
      style={{ left: `${(100 * at) / span}%` }}
    />
  );
}

/** The slider that moves it, for keys and for thumbs. */
export function MarkerSlider({
  at,
  span,
  said,
  onAt,
}: {
  at: number;
  span: number;
  /** the time, in words */
  said: string;
  onAt: (time: number) => void;
}) {
  return (
    <input
      type="range"
      aria-label="Time of the run"
      aria-valuetext={said}
      className="block w-full accent-(--signal)"
      min={0}
      max={span}
      step={span / 1000}
      value={at}
      onChange={(event) => onAt(Number(event.target.value))}
    />
  );
}

/** A level that matters, across a strip. */
export function Mark({ y, colour, dashed }: { y: number; colour: string; dashed?: boolean }) {
  return (
    <path
      d={`M0 ${y}H${WIDE}`}
      stroke={colour}
      strokeWidth={1}
      strokeDasharray={dashed ? "5 4" : undefined}
      vectorEffect="non-scaling-stroke"
      opacity={0.8}
    />
  );
}

/** A curve as part of a path, going on from wherever that is. */
export function points(
  curve: readonly (readonly [number, number])[],
  x: (time: number) => number,
  y: (value: number) => number,
): string {
  return curve.map(([time, value]) => `L${x(time).toFixed(1)} ${y(value).toFixed(2)}`).join("");
}

/** The times one pump runs, as a path of bars; those too near to tell apart are drawn as one. */
export function bars(
  times: readonly number[],
  runs: (index: number) => boolean,
  span: number,
  x: (time: number) => number,
  high: number,
): string {
  const near = span / WIDE / 2;
  let path = "";
  let from: number | undefined;
  let to = 0;
  const draw = () => {
    if (from !== undefined)
      path += `M${x(from).toFixed(1)} 0H${x(to).toFixed(1)}V${high}H${x(from).toFixed(1)}Z`;
  };
  for (let i = 0; i < times.length; i++) {
    if (!runs(i)) continue;
    const start = times[i] as number;
    if (from === undefined || start - to > near) {
      draw();
      from = start;
    }
    to = times[i + 1] ?? span;
  }
  draw();
  return path;
}
