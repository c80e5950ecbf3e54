import type { Spot } from "#core/trace/projective.ts";
import type { Held, Line, LineRead, Marks } from "./marks.ts";
import type { Opened } from "./usePicture.ts";

/** The marks, and the trace of every line, over the picture. */
export function Overlay({
  picture,
  marks,
  lines,
  held,
  read,
}: {
  picture: Opened;
  marks: Marks;
  lines: readonly Line[];
  held: Held | undefined;
  read: readonly (LineRead | undefined)[];
}) {
  const r = picture.width / 160;
  const isHeld = (own: Held) => JSON.stringify(own) === JSON.stringify(held);
  const wild = read.map(
    (own) => new Set(own?.remarks.flatMap((said) => (said.kind === "wild" ? [said.index] : []))),
  );
  return (
    <svg
      viewBox={`0 0 ${picture.width} ${picture.height}`}
      className="absolute inset-0 h-full w-full"
      aria-hidden
    >
      {marks.askew && marks.corners.length === 4 && (
        <polygon
          points={marks.corners.map(([x, y]) => `${x},${y}`).join(" ")}
          className="fill-none stroke-pump"
          strokeWidth={r / 2}
          strokeDasharray={`${2 * r} ${r}`}
        />
      )}
      {marks.askew &&
        marks.corners.map((own, index) => (
          <circle
            key={index}
            cx={own[0]}
            cy={own[1]}
            r={r}
            className="fill-none stroke-pump"
            strokeWidth={isHeld({ what: "corner", index }) ? r / 2 : r / 4}
          />
        ))}
      {(["flow", "head"] as const).flatMap((what) =>
        marks[what].flatMap(({ at, value }, index) =>
          at
            ? [
                <g key={`${what} ${index}`} className="stroke-signal">
                  <line
                    x1={at[0] - 2 * r}
                    x2={at[0] + 2 * r}
                    y1={at[1]}
                    y2={at[1]}
                    strokeWidth={r / 4}
                  />
                  <line
                    x1={at[0]}
                    x2={at[0]}
                    y1={at[1] - 2 * r}
                    y2={at[1] + 2 * r}
                    strokeWidth={r / 4}
                  />
                  <text
                    x={at[0] + 1.5 * r}
                    y={at[1] - 1.5 * r}
                    fontSize={3 * r}
                    className="fill-signal stroke-none"
                  >
                    {value}
                  </text>
                </g>,
              ]
            : [],
        ),
      )}
      {lines.map(({ clicks }, line) => {
        const sorted = clicks.toSorted((a, b) => a[0] - b[0]);
        const isWild = (own: Spot) => wild[line]?.has(sorted.indexOf(own));
        return (
          <g key={line}>
            <polyline
              points={sorted.map(([x, y]) => `${x},${y}`).join(" ")}
              className="fill-none stroke-water"
              strokeWidth={r / 3}
            />
            {clicks.map((own, index) => (
              <circle
                key={index}
                cx={own[0]}
                cy={own[1]}
                r={r * 0.8}
                strokeWidth={r / 4}
                className={
                  isHeld({ what: "line", line, index })
                    ? "fill-water stroke-paper"
                    : isWild(own)
                      ? "fill-none stroke-signal"
                      : "fill-paper stroke-water"
                }
              />
            ))}
          </g>
        );
      })}
    </svg>
  );
}
