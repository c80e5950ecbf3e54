import type { JobDocument } from "#contract/documents/job.ts";

/** The drawing of a well, in its own units. */
export const WIDE = 400;
export const HIGH = 600;
export const TOP = 74;
export const FOOT = 26;
export const MIDDLE = WIDE / 2;

/** Ground, casing, water, pipe, pump. */
export function Hole({
  job,
  y,
  standing,
  pumping,
  depth,
  deepest,
}: {
  job: JobDocument;
  y: (down: number) => number;
  standing: Record<"low" | "normal" | "high", number>;
  pumping: number | undefined;
  depth: number;
  deepest: number;
}) {
  const { casings = [], bottom = deepest, screen, sleeve, motor = 0.6 } = job.well ?? {};
  const widest = Math.max(...casings.map(({ bore }) => bore), 0.1);
  const half = (bore: number) => 12 + 14 * (bore / widest);
  const lined = casings.length > 0 ? casings : [{ bore: widest, from: 0, to: bottom }];
  const water = standing.normal;
  const length = Math.max((motor / deepest) * (HIGH - TOP - FOOT), 20);
  return (
    <g>
      <rect y={TOP} width={WIDE} height={HIGH - TOP} className="fill-press" opacity={0.55} />
      {/* the ground's own water, and how pumping dents it */}
      <path
        d={`M0 ${y(water)}${
          pumping === undefined
            ? "L"
            : `C${MIDDLE - 90} ${y(water)} ${MIDDLE - 34} ${(y(water) + y(pumping)) / 2} ${MIDDLE - 24} ${y(pumping)}L${MIDDLE + 24} ${y(pumping)}C${MIDDLE + 34} ${(y(water) + y(pumping)) / 2} ${MIDDLE + 90} ${y(water)} `
        }${WIDE} ${y(water)}V${HIGH}H0Z`}
        className="fill-water"
        opacity={0.13}
      />
      <path
        d={`M0 ${TOP}H${WIDE}`}
        className="stroke-ink"
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
      {lined.map(({ bore, from, to }, i) => (
        <rect
          key={i}
          x={MIDDLE - half(bore)}
          y={y(from) - (from === 0 ? 14 : 0)}
          width={2 * half(bore)}
          height={Math.max(y(Math.min(to, bottom)) - y(from) + (from === 0 ? 14 : 0), 1)}
          className="fill-sheet"
        />
      ))}
      <rect
        x={MIDDLE - half(lined[0]?.bore ?? widest) + 2}
        y={y(pumping ?? water)}
        width={2 * half(lined[0]?.bore ?? widest) - 4}
        height={Math.max(y(bottom) - y(pumping ?? water), 0)}
        className="fill-water"
        opacity={0.35}
      />
      {pumping !== undefined && (
        <rect
          x={MIDDLE - half(lined[0]?.bore ?? widest) + 2}
          y={y(standing.low)}
          width={2 * half(lined[0]?.bore ?? widest) - 4}
          height={Math.max(y(pumping) - y(standing.low), 0)}
          className="fill-water"
          opacity={0.14}
        />
      )}
      {lined.map(({ bore, from, to }, i) => (
        <path
          key={i}
          d={`M${MIDDLE - half(bore)} ${y(from) - (from === 0 ? 14 : 0)}V${y(Math.min(to, bottom))}M${MIDDLE + half(bore)} ${y(from) - (from === 0 ? 14 : 0)}V${y(Math.min(to, bottom))}`}
          className="stroke-ink"
          strokeWidth={2.5}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {screen && (
        <path
          d={`M${MIDDLE - 26} ${y(screen.from)}V${y(screen.to)}M${MIDDLE + 26} ${y(screen.from)}V${y(screen.to)}`}
          className="stroke-sheet"
          strokeWidth={4}
          strokeDasharray="4 5"
          vectorEffect="non-scaling-stroke"
        />
      )}
      <path
        d={`M${MIDDLE - half(widest)} ${y(bottom)}H${MIDDLE + half(widest)}`}
        className="stroke-ink"
        strokeWidth={2}
        vectorEffect="non-scaling-stroke"
      />
      {(["high", "normal", "low"] as const).map((season) => (
        <path
          key={season}
          d={`M${MIDDLE - half(widest)} ${y(standing[season])}H${MIDDLE + half(widest)}`}
          className="stroke-water"
          strokeWidth={season === "normal" ? 2.5 : 1.5}
          strokeDasharray={season === "normal" ? undefined : "5 4"}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      {pumping !== undefined && (
        <path
          d={`M${MIDDLE - half(widest)} ${y(pumping)}H${MIDDLE + half(widest)}`}
          className="stroke-water"
          strokeWidth={3}
          vectorEffect="non-scaling-stroke"
        />
      )}
      <path
        d={`M${MIDDLE} ${TOP - 26}V${y(depth)}`}
        className="stroke-ink"
        strokeWidth={4}
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={`M${MIDDLE} ${TOP - 26}H${WIDE * 0.62}`}
        className="stroke-ink"
        strokeWidth={4}
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={`M${MIDDLE + 5} ${TOP - 14}V${y(depth)}`}
        className="stroke-soft"
        strokeWidth={1.2}
        vectorEffect="non-scaling-stroke"
      />
      {sleeve !== undefined && (
        <path
          d={`M${MIDDLE - 12} ${y(depth) - 6}V${y(depth) + length + 3}M${MIDDLE + 12} ${y(depth) - 6}V${y(depth) + length + 3}M${MIDDLE - 12} ${y(depth) - 6}H${MIDDLE + 12}`}
          className="stroke-soft"
          strokeWidth={2}
          fill="none"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {/* pump over its motor, the intake between them */}
      <rect x={MIDDLE - 8} y={y(depth) - 18} width={16} height={18} rx={2} className="fill-pump" />
      <rect
        x={MIDDLE - 8}
        y={y(depth) + 3}
        width={16}
        height={length}
        rx={3}
        className="fill-pump"
        opacity={0.7}
      />
    </g>
  );
}
