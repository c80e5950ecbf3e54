/** Degrees either side of straight up that a needle goes. */
const SWING = 125;

/** A round instrument: its needle over a scale from `least` to `most`. The digits beside it say the same. */
export function Dial({
  value,
  least,
  most,
  ends,
}: {
  value: number;
  least: number;
  most: number;
  /** what stands at the ends of the scale */
  ends: readonly [string, string];
}) {
  const part = Math.min(Math.max((value - least) / (most - least || 1), -0.03), 1.03);
  const angle = (2 * part - 1) * SWING;
  const point = (degrees: number, radius: number) => {
    const a = ((degrees - 90) * Math.PI) / 180;
    return `${(50 + radius * Math.cos(a)).toFixed(2)} ${(50 + radius * Math.sin(a)).toFixed(2)}`;
  };
  return (
    <svg viewBox="0 0 100 84" className="block h-20 w-24 shrink-0" aria-hidden>
      <path
        d={`M ${point(-SWING, 42)} A 42 42 0 1 1 ${point(SWING, 42)}`}
        fill="none"
        stroke="var(--rule)"
        strokeWidth={7}
      />
      {Array.from({ length: 6 }, (_, i) => (
        <path
          key={i}
          d={`M ${point((2 * (i / 5) - 1) * SWING, 46)} L ${point((2 * (i / 5) - 1) * SWING, 36)}`}
          stroke="var(--ink)"
          strokeWidth={2}
        />
      ))}
      <path
        d={`M ${point(angle, 40)} L ${point(angle + 90, 4)} L ${point(angle + 180, 10)} L ${point(angle - 90, 4)} Z`}
        fill="var(--signal)"
      />
      <text x={14} y={82} fontSize={11} textAnchor="middle" fill="var(--soft)">
        {ends[0]}
      </text>
      <text x={86} y={82} fontSize={11} textAnchor="middle" fill="var(--soft)">
        {ends[1]}
      </text>
      <circle cx={50} cy={50} r={5} fill="var(--ink)" />
    </svg>
  );
}
