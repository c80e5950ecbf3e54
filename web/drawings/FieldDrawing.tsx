import { format } from "#contract/units/format.ts";
import type { KeepOff } from "#core/irrigation/ground.ts";
import { boxOf, type Point, stretchesOf } from "#core/irrigation/plane.ts";
import type { SetPlan } from "#core/irrigation/sets.ts";
import type { Stand } from "#core/irrigation/waterFallen.ts";
import { useUnits } from "../state/settings.ts";

/** A, B, C …: sides of a ground in the order they are walked. */
export const sideName = (i: number) =>
  i < 26
    ? String.fromCharCode(65 + i)
    : `${String.fromCharCode(64 + Math.floor(i / 26))}${(i % 26) + 1}`;

/** px of the drawing's longer side, and round it */
const LONG = 440;
const MARGIN = 26;
/** More stands than this are drawn as one, without numbers. */
const NUMBERED = 150;

/** The ground from above, to scale: its sides, what is kept dry, where the gun stands and in which order it is moved. */
export function FieldDrawing({
  outline,
  keepOff,
  names,
  from,
  plan,
  radius,
  guns,
}: {
  outline: readonly Point[];
  keepOff: readonly KeepOff[];
  names: readonly string[];
  from: number;
  plan: SetPlan | undefined;
  radius: number | undefined;
  guns: number;
}) {
  const units = useUnits();
  const stands = plan?.stands ?? [];
  const box = boxOf([
    ...outline,
    ...keepOff.flatMap(({ points }) => points),
    ...stands.flatMap((stand) => (radius === undefined ? [] : ends(stand, radius))),
  ]);
  const [width, height] = [box.right - box.left, box.top - box.bottom];
  const scale = LONG / Math.max(width, height);
  const x = (m: number) => MARGIN + (m - box.left) * scale;
  const y = (m: number) => MARGIN + (box.top - m) * scale;
  const at = ([px, py]: Point) => `${x(px).toFixed(1)} ${y(py).toFixed(1)}`;
  const path = (points: readonly Point[]) =>
    points.map((point, i) => `${i === 0 ? "M" : "L"}${at(point)}`).join("");
  const sides = outline.length <= 40 ? stretchesOf(outline, true) : [];
  const bar = barOf(Math.max(box.right - box.left, 1), units);
  const start = outline[from] ?? outline[0];
  const [w, h] = [width * scale + 2 * MARGIN, height * scale + 2 * MARGIN + 18];
  const many = stands.length > NUMBERED;
  const tight = radius !== undefined && plan !== undefined && plan.spacing.along * scale < 26;
  return (
    <svg
      viewBox={`0 0 ${w.toFixed(0)} ${h.toFixed(0)}`}
      className="max-h-[46vh] w-full"
      role="img"
      aria-label={
        plan
          ? `The ground from above with ${plan.stands.length} stands in ${plan.sets} sets`
          : "The ground from above"
      }
    >
      <path d={`${path(outline)}Z`} fill="var(--press)" stroke="var(--ink)" strokeWidth={2} />
      {radius !== undefined && many && (
        // Of so many, one shape: thousands of them would hold the page up.
        <path
          d={stands.map((stand) => sector(stand, radius, x, y)).join("")}
          fill="none"
          stroke="var(--water)"
          strokeOpacity={0.55}
          strokeWidth={0.6}
        />
      )}
      {radius !== undefined &&
        !many &&
        stands.map((stand, i) => (
          <path
            key={i}
            d={sector(stand, radius, x, y)}
            fill="var(--water)"
            fillOpacity={0.13}
            stroke="var(--water)"
            strokeOpacity={0.55}
            strokeWidth={1}
          />
        ))}
      {keepOff.map(({ points, closed }, i) => (
        <g key={i} stroke="var(--signal)" fill="none">
          <path
            d={`${path(points)}${closed ? "Z" : ""}`}
            strokeWidth={5}
            strokeDasharray="2 5"
            {...(closed && { fill: "var(--signal)", fillOpacity: 0.15 })}
          />
        </g>
      ))}
      {stands.length > 1 && (
        <path
          d={path(stands.map(({ at: point }) => point))}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.4}
          strokeDasharray="5 4"
          opacity={0.65}
        />
      )}
      {(many ? stands.slice(0, guns) : stands).map(({ at: point }, i) => (
        <g key={i}>
          <circle
            cx={x(point[0])}
            cy={y(point[1])}
            r={tight ? 3 : 10}
            fill={i < guns ? "var(--pump)" : "var(--sheet)"}
            stroke="var(--ink)"
            strokeWidth={1.2}
          />
          {!tight && (
            <text
              x={x(point[0])}
              y={y(point[1]) + 4.5}
              textAnchor="middle"
              className="plate"
              fontSize={14}
              fill={i < guns ? "var(--paper)" : "var(--ink)"}
            >
              {Math.floor(i / guns) + 1}
            </text>
          )}
        </g>
      ))}
      {keepOff.map(({ points }, i) => {
        const [a = [0, 0], b = a] = points;
        const middle: Point = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
        const upright = Math.abs(b[1] - a[1]) > Math.abs(b[0] - a[0]);
        const [tx, ty] = [x(middle[0]), y(middle[1])];
        return (
          <text
            key={i}
            x={tx}
            y={ty - 7}
            textAnchor="middle"
            fontSize={14}
            fill="var(--signal)"
            {...(upright && {
              transform: `rotate(-90 ${tx} ${ty}) translate(0 ${tx > w / 2 ? 20 : 0})`,
            })}
          >
            {names[i]}
          </text>
        );
      })}
      {sides.map(([a, b], i) => {
        const [mx, my] = [(x(a[0]) + x(b[0])) / 2, (y(a[1]) + y(b[1])) / 2];
        const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
        const upright = Math.abs(b[1] - a[1]) > Math.abs(b[0] - a[0]);
        return (
          <text
            key={i}
            x={mx}
            y={my + 5}
            textAnchor="middle"
            className="plate"
            fontSize={15}
            fill="var(--ink)"
            stroke="var(--press)"
            strokeWidth={4}
            paintOrder="stroke"
            {...(upright && { transform: `rotate(-90 ${mx} ${my})` })}
          >
            {sideName(i)} {format(length, "length", units)}
          </text>
        );
      })}
      {start && outline.length <= 40 && (
        <g fill="var(--pump)">
          <circle cx={x(start[0])} cy={y(start[1])} r={6} />
        </g>
      )}
      <g stroke="var(--ink)" strokeWidth={2}>
        <path
          d={`M${MARGIN} ${h - 12}h${(bar.length * scale).toFixed(1)}m0 -5v10M${MARGIN} ${h - 17}v10`}
        />
        <text
          x={MARGIN + bar.length * scale + 8}
          y={h - 7}
          fontSize={14}
          stroke="none"
          fill="var(--ink)"
        >
          {bar.name}; the dot at a corner is where the water comes from
        </text>
      </g>
    </svg>
  );
}

/** As far as a gun reaches to each side, an arc taken in four directions. */
function ends({ at: [x, y], arc, facing }: Stand, radius: number): Point[] {
  return [0, 90, 180, 270].flatMap((angle): Point[] => {
    const off = Math.abs(((angle - facing + 540) % 360) - 180);
    const turn = (angle * Math.PI) / 180;
    return arc >= 359.9 || off <= arc / 2
      ? [[x + radius * Math.cos(turn), y + radius * Math.sin(turn)]]
      : [];
  });
}

/** A circle, or the part of one a gun turns through. */
function sector(
  { at, arc, facing }: Stand,
  radius: number,
  x: (m: number) => number,
  y: (m: number) => number,
): string {
  const r = Math.abs(x(radius) - x(0));
  const [cx, cy] = [x(at[0]), y(at[1])];
  if (arc >= 359.9) {
    return `M${(cx - r).toFixed(1)} ${cy.toFixed(1)}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;
  }
  const point = (degrees: number) => {
    const angle = (degrees * Math.PI) / 180;
    return `${(cx + r * Math.cos(angle)).toFixed(1)} ${(cy - r * Math.sin(angle)).toFixed(1)}`;
  };
  const large = arc > 180 ? 1 : 0;
  return `M${cx.toFixed(1)} ${cy.toFixed(1)}L${point(facing + arc / 2)}A${r} ${r} 0 ${large} 1 ${point(facing - arc / 2)}Z`;
}

/** A round length about a quarter of the ground. */
function barOf(across: number, units: "us" | "metric"): { length: number; name: string } {
  const unit = units === "us" ? 0.3048 : 1;
  const wanted = across / 4 / unit;
  const power = 10 ** Math.floor(Math.log10(wanted));
  const round = ([5, 2, 1].find((n) => n * power <= wanted) ?? 1) * power;
  return { length: round * unit, name: `${round} ${units === "us" ? "ft" : "m"}` };
}
