import clsx from "clsx";
import { format } from "#contract/units/format.ts";
import type { Levels } from "#core/fluid/levels.ts";
import type { Outlet } from "#core/outlet/outlets.ts";
import { extent, type Point, type SectionGeometry } from "#model/job/sectionGeometry.ts";
import { outletShape } from "../jobFields/outletKinds.tsx";

/** The marks a section is drawn with. Places are in pixels. */
interface Spot {
  x: number;
  y: number;
}

const LABEL = {
  fontSize: 13,
  fill: "var(--ink)",
  stroke: "var(--sheet)",
  strokeWidth: 3,
  paintOrder: "stroke",
} as const;

/** The source with its three levels. */
export function SourceWater({
  levels,
  yOf,
  floor,
  right,
  label,
}: {
  levels: Levels;
  yOf: (height: number) => number;
  floor: number;
  right: number;
  label: string;
}) {
  const left = 8;
  return (
    <>
      <rect
        x={left}
        y={yOf(levels.normal)}
        width={right - left}
        height={Math.max(floor - yOf(levels.normal), 4)}
        fill="var(--water)"
        opacity={0.22}
      />
      {(["high", "normal", "low"] as const).map((name) => (
        <line
          key={name}
          x1={left}
          x2={right}
          y1={yOf(levels[name])}
          y2={yOf(levels[name])}
          stroke="var(--water)"
          strokeWidth={name === "normal" ? 2.5 : 1.2}
          strokeDasharray={name === "normal" ? undefined : "4 4"}
        />
      ))}
      <text x={left + 2} y={yOf(levels.high) - 6} {...LABEL}>
        {label}
      </text>
    </>
  );
}

/** A gauge: its tap on the pipe, the tube to its dial, and what it is. A dial at the pipe stands clear of it. */
export function GaugeMark({ foot, dial, label }: { foot: Spot; dial: number; label: string }) {
  const y = Math.min(dial, foot.y - 16);
  return (
    <g pointerEvents="none">
      <line x1={foot.x} x2={foot.x} y1={foot.y} y2={y} stroke="var(--signal)" strokeWidth={2.5} />
      <circle
        cx={foot.x}
        cy={y}
        r={9}
        fill="var(--sheet)"
        stroke="var(--signal)"
        strokeWidth={2.5}
      />
      <line x1={foot.x} y1={y} x2={foot.x + 4} y2={y - 5} stroke="var(--signal)" strokeWidth={2} />
      <text x={foot.x - 14} y={y + 1} textAnchor="end" {...LABEL}>
        {label}
      </text>
    </g>
  );
}

/** Where the tube level stands below the pipe the line is under suction. */
export function Shade({ points }: { points: string }) {
  return <polygon points={points} fill="var(--signal)" opacity={0.2} />;
}

/** A wide clear stroke to hit, the wall, and the water in it. */
export function PipeWall({
  points,
  thick,
  chosen,
}: {
  points: string;
  thick: number;
  chosen: boolean;
}) {
  const stroke = (colour: string, strokeWidth: number, opacity = 1) => (
    <polyline
      points={points}
      stroke={colour}
      strokeWidth={strokeWidth}
      opacity={opacity}
      fill="none"
      strokeLinecap="round"
    />
  );
  return (
    <>
      {stroke("transparent", 26)}
      {stroke(chosen ? "var(--signal)" : "var(--ink)", thick + 3)}
      {stroke("var(--sheet)", thick)}
      {stroke("var(--water)", thick - 2, 0.75)}
    </>
  );
}

/** Water squirting from a hole. */
export function Hole({ x, y, chosen }: Spot & { chosen: boolean }) {
  return (
    <path
      d="M0 0 C 5 5, 6 10, 5 17 M0 0 C 1 7, 0 11, -2 17"
      transform={`translate(${x + 17} ${y})`}
      fill="none"
      stroke={chosen ? "var(--signal)" : "var(--water)"}
      strokeWidth={2.2}
      strokeLinecap="round"
    />
  );
}

export function PumpMark({ x, y, label, aside = 20 }: Spot & { label: string; aside?: number }) {
  return (
    <>
      <rect
        x={x - 15}
        y={y - 15}
        width={30}
        height={30}
        rx={7}
        fill="var(--pump)"
        stroke="var(--sheet)"
        strokeWidth={2}
      />
      {[0, 120, 240].map((turn) => (
        <path
          key={turn}
          d="M0 0 C 3 -8, 9 -8, 10 -2"
          transform={`translate(${x} ${y}) rotate(${turn})`}
          fill="none"
          stroke="var(--sheet)"
          strokeWidth={2.6}
          strokeLinecap="round"
        />
      ))}
      <text x={x + aside} y={y + 20} {...LABEL}>
        {label}
      </text>
    </>
  );
}

export function OutletMark({
  x,
  y,
  type,
  width,
  label,
}: Spot & { type: Outlet["type"]; width: number; label: string }) {
  const shape = outletShape(type);
  return (
    <>
      <rect x={x - 16} y={y - 16} width={60} height={36} fill="transparent" />
      {shape && (
        <path
          d={shape}
          transform={`translate(${x} ${y})`}
          fill="none"
          stroke="var(--water)"
          strokeWidth={3}
          strokeLinecap="round"
        />
      )}
      <text x={Math.min(x + 92, width - 4)} y={y + (y < 46 ? 34 : -14)} textAnchor="end" {...LABEL}>
        {label}
      </text>
    </>
  );
}

/** The place of something that keeps the line from being solved. */
export function DiagnosticMark({ x, y }: Spot) {
  return (
    <>
      <path
        d={`M${x} ${y - 44} l15 26 h-30 z`}
        fill="var(--signal)"
        stroke="var(--sheet)"
        strokeWidth={2}
        strokeLinejoin="round"
      />
      <path
        d={`M${x} ${y - 35} v9 M${x} ${y - 22} v0.5`}
        stroke="var(--sheet)"
        strokeWidth={3}
        strokeLinecap="round"
      />
    </>
  );
}

/** The head line falling along every way of the water. */
export function HeadLine({
  points,
  at,
  place,
  units,
}: {
  points: SectionGeometry["headLine"];
  at: (point: Point) => string;
  place: (point: Point) => Spot;
  units: "us" | "metric";
}) {
  const [first, ...rest] = points;
  if (!first) return null;
  const peak = rest.reduce((high, p) => (p.at.height > high.at.height ? p : high), first);
  const { x, y } = place(peak.at);
  return (
    <g pointerEvents="none">
      {[...new Set(points.map(({ way }) => way))].map((way) => (
        <polyline
          key={way}
          points={points
            .filter((p) => p.way === way)
            .map((p) => at(p.at))
            .join(" ")}
          fill="none"
          stroke="var(--water)"
          strokeWidth={2.5}
          strokeDasharray="9 4"
        />
      ))}
      <text x={x + 24} y={y - 5} {...LABEL} fill="var(--water)">
        {format(peak.at.height - peak.pipe, "head", units)} after the pump
      </text>
    </g>
  );
}

/** How far the line goes, each side to its own scale. */
export function Distances({
  geometry,
  place,
  height,
  narrow,
  units,
}: {
  geometry: SectionGeometry;
  place: (point: Point) => Spot;
  height: number;
  narrow: boolean;
  units: "us" | "metric";
}) {
  const { suction, end } = extent(geometry);
  const x = (distance: number) => place({ distance, height: 0, lane: 0 }).x;
  const y = height - 8;
  return (
    <g fontSize={12.5} fill="var(--soft)" pointerEvents="none">
      {suction > 0 && (
        <Span
          from={x(0)}
          to={x(suction)}
          y={y}
          label={`${narrow ? "" : "suction "}${format(suction, "length", units)}${narrow ? "" : " across"}`}
        />
      )}
      <Span
        from={x(suction)}
        to={x(end)}
        y={y}
        label={`discharge ${format(end - suction, "length", units)} across`}
      />
    </g>
  );
}

function Span({ from, to, y, label }: { from: number; to: number; y: number; label: string }) {
  return (
    <g>
      <path
        d={`M${from + 1} ${y - 14} v8 M${to - 1} ${y - 14} v8 M${from + 1} ${y - 10} H${to - 1}`}
        stroke="var(--rule)"
        strokeWidth={1.5}
        fill="none"
      />
      <text
        x={(from + to) / 2}
        y={y + 3}
        textAnchor="middle"
        className={clsx(to - from < 60 && "hidden")}
      >
        {label}
      </text>
    </g>
  );
}
