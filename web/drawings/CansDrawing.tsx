import { format } from "#contract/units/format.ts";
import type { CansResult } from "#model/irrigation/cans.ts";
import { depthOf } from "#words/irrigation.ts";
import { useUnits } from "../state/settings.ts";

const SIZE = 420;
const MARGIN = 34;
/** px of the largest can, at most */
const LARGEST = 20;
const RINGS = 24;

/** The wetted picture: every can where it stood, as wide as it was full. */
export function CansDrawing({
  cans: { placed, test },
  reach,
}: {
  cans: CansResult;
  reach: number | undefined;
}) {
  const units = useUnits();
  const legs = reach !== undefined;
  const most = Math.max(...placed.map(({ depth }) => depth), 1e-6);
  const xs = placed.map(({ x }) => x);
  const ys = placed.map(({ y }) => y);
  const far = Math.max(...placed.map(({ x, y }) => Math.hypot(x, y)), 1);
  const [left, right] = legs ? [-far, far] : [Math.min(...xs), Math.max(...xs)];
  const [bottom, top] = legs
    ? [Math.min(-0.35 * far, ...ys), far]
    : [Math.min(...ys), Math.max(...ys)];
  const scale = (SIZE - 2 * MARGIN) / Math.max(right - left, top - bottom, 1);
  const width = (right - left) * scale + 2 * MARGIN;
  const height = (top - bottom) * scale + 2 * MARGIN;
  const x = (m: number) => MARGIN + (m - left) * scale;
  const y = (m: number) => MARGIN + (top - m) * scale;
  const steps = test.kind === "tested" ? (test.profile ?? []) : [];
  const wettest = Math.max(...steps, 1e-9);
  const near = nearest(placed) * scale;
  const largest = Math.min(LARGEST, Math.max(near / 2, 5));
  const mean = test.kind === "tested" ? test.evenness.mean : 0;
  return (
    <figure className="grid gap-1">
      <svg
        viewBox={`0 0 ${width.toFixed(0)} ${height.toFixed(0)}`}
        className="max-h-[40vh] w-full"
        role="img"
        aria-label={`${placed.length} cans, the fullest with ${depthOf(most, units)}`}
      >
        {legs && (
          <>
            <circle
              cx={x(0)}
              cy={y(0)}
              r={(reach ?? 0) * scale}
              fill="none"
              stroke="var(--water)"
              strokeDasharray="5 4"
            />
            {steps.length > 1 &&
              Array.from({ length: RINGS }, (_, i) => {
                const part = (i + 0.5) / RINGS;
                const depth = steps[Math.round(part * (steps.length - 1))] ?? 0;
                return (
                  <circle
                    key={i}
                    cx={x(0)}
                    cy={y(0)}
                    r={part * (reach ?? 0) * scale}
                    fill="none"
                    stroke="var(--water)"
                    strokeWidth={((reach ?? 0) * scale) / RINGS + 0.4}
                    strokeOpacity={0.5 * (depth / wettest)}
                  />
                );
              })}
            <circle cx={x(0)} cy={y(0)} r={6} fill="var(--pump)" />
          </>
        )}
        {placed.map((can, i) => (
          <g key={i}>
            <circle
              cx={x(can.x)}
              cy={y(can.y)}
              r={Math.max(largest * Math.sqrt(can.depth / most), 2)}
              fill={can.depth > 0 ? "var(--water)" : "none"}
              fillOpacity={0.25 + 0.6 * (can.depth / most)}
              stroke="var(--ink)"
              strokeWidth={can.depth < mean / 2 ? 2.5 : 1}
              {...(can.depth < mean / 2 && { strokeDasharray: "3 3" })}
            />
            {placed.length <= 60 && (
              <text
                x={x(can.x) + largest + 3}
                y={y(can.y) + 5}
                fontSize={13}
                className="plate"
                fill="var(--ink)"
              >
                {depthOf(can.depth, units).replace(/ (mm|in)$/, "")}
              </text>
            )}
          </g>
        ))}
      </svg>
      <figcaption className="text-[13px] text-soft">
        {units === "us" ? "Inches" : "Millimetres"} in each can
        {legs &&
          `; shaded as it fell on average; the ring is the farthest that was wet, ${format(reach ?? 0, "length", units)}`}
        . A broken outline: less than half the mean.
      </figcaption>
    </figure>
  );
}

/** m between the two cans that stand nearest. */
function nearest(placed: CansResult["placed"]): number {
  let least = Number.POSITIVE_INFINITY;
  for (const [i, a] of placed.slice(0, 200).entries()) {
    for (const b of placed.slice(i + 1, 200)) {
      least = Math.min(least, Math.hypot(a.x - b.x, a.y - b.y));
    }
  }
  return Number.isFinite(least) ? least : 1;
}
