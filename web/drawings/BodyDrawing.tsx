import type { BodyOfWater } from "#contract/documents/job.ts";
import { depthOf } from "#model/demand/bodies.ts";
import type { RunBody } from "#model/simulation/result.ts";

/** px of the drawing, within which a body is drawn as wide for its depth as it is */
const WIDTH = 120;
const HEIGHT = 120;
const EDGE = 8;

/** A body of water as it is cut through, with the water in it and the floats that hang there. */
export function BodyDrawing({
  body,
  told: { bottom, rim, floats, alarm },
  level,
}: {
  body: BodyOfWater;
  told: RunBody;
  level: number;
}) {
  const { shape } = body;
  const depth = depthOf(shape);
  const across = acrossOf(shape);
  const scale = Math.min((WIDTH - 2 * EDGE) / across, (HEIGHT - 2 * EDGE) / depth);
  // A wide shallow room would be a line: it is drawn deeper than it is.
  const up = Math.max(scale, (HEIGHT - 2 * EDGE) / depth / 2.5);
  const x = (m: number) => WIDTH / 2 + m * Math.max(scale, 24 / across);
  const y = (z: number) => HEIGHT - EDGE - (z - bottom) * up;
  const outline = outlineOf(body, bottom)
    .map(([m, z], i) => `${i === 0 ? "M" : "L"}${x(m).toFixed(1)} ${y(z).toFixed(1)}`)
    .join("");
  const id = `water-${body.id}`;
  const closed = shape.kind === "horizontal-cylinder";
  const surface = Math.min(Math.max(level, bottom), rim);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="h-28 w-28 shrink-0" aria-hidden>
      <clipPath id={id}>
        <path d={`${outline}Z`} />
      </clipPath>
      <rect
        clipPath={`url(#${id})`}
        x={0}
        y={y(surface)}
        width={WIDTH}
        height={HEIGHT}
        fill="var(--water)"
        opacity={0.35}
      />
      <path
        d={`${outline}${closed ? "Z" : ""}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2}
        strokeLinejoin="round"
      />
      {floats.map(({ on, off }) => (
        <g key={`${on} ${off}`} stroke="var(--pump)" strokeWidth={1.5}>
          <path d={`M${x(0) - 12} ${y(on)}h24M${x(0) - 12} ${y(off)}h24`} strokeDasharray="4 3" />
          <path d={`M${x(0)} ${y(on)}V${y(off)}`} />
        </g>
      ))}
      {alarm !== undefined && (
        <path
          d={`M${x(0) - 18} ${y(alarm)}h36`}
          stroke="var(--signal)"
          strokeWidth={1.5}
          strokeDasharray="2 3"
        />
      )}
    </svg>
  );
}

/** m a body is wide where it is widest, as it is drawn. */
function acrossOf(shape: BodyOfWater["shape"]): number {
  switch (shape.kind) {
    case "box":
    case "wedge":
      return shape.length;
    case "cylinder":
    case "horizontal-cylinder":
      return shape.diameter;
    case "cone":
      return Math.max(shape.bottom, shape.top);
    case "trapezoid":
      return shape.length + 2 * shape.slope * shape.depth;
    case "table":
      return Math.max(...shape.rows.map(({ area }) => Math.sqrt(area)), 0.1);
  }
}

/** Its wall from the left rim round the bottom to the right rim: m from its middle, and elevation. */
function outlineOf({ shape }: BodyOfWater, bottom: number): [number, number][] {
  const top = bottom + depthOf(shape);
  const walls = (low: number, high: number): [number, number][] => [
    [-high / 2, top],
    [-low / 2, bottom],
    [low / 2, bottom],
    [high / 2, top],
  ];
  switch (shape.kind) {
    case "box":
      return walls(shape.length, shape.length);
    case "wedge":
      return [
        [-shape.length / 2, top],
        [-shape.length / 2, bottom],
        [shape.length / 2, Math.min(bottom + shape.fall, top)],
        [shape.length / 2, top],
      ];
    case "cylinder":
      return walls(shape.diameter, shape.diameter);
    case "cone":
      return walls(shape.bottom, shape.top);
    case "trapezoid":
      return walls(shape.length, acrossOf(shape));
    case "horizontal-cylinder":
      return Array.from({ length: 49 }, (_, i) => {
        const angle = (i / 48) * 2 * Math.PI;
        const r = shape.diameter / 2;
        return [-r * Math.sin(angle), bottom + r + r * Math.cos(angle)];
      });
    case "table": {
      const first = shape.rows[0]?.depth ?? 0;
      const side = ({ depth, area }: { depth: number; area: number }): [number, number] => [
        Math.sqrt(area) / 2,
        bottom + depth - first,
      ];
      const right = shape.rows.map(side);
      const left = right.toReversed().map(([m, z]): [number, number] => [-m, z]);
      return [...left, ...right];
    }
  }
}
