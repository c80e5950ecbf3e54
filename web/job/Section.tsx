import clsx from "clsx";
import { useEffect, useMemo, useRef, useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobSolution } from "#contract/solveJob.ts";
import { format } from "#contract/units/format.ts";
import { itemName } from "#contract/wording/items.ts";
import { useUnits } from "../app/settings.ts";
import { acrossScale, type Point, sectionGeometry, suctionShades } from "./sectionGeometry.ts";

export type Part = "source" | "suction" | "pump" | "discharge" | "outlet";

interface Props {
  job: JobDocument;
  solved: JobSolution;
  selected: string | undefined;
  onPart: (part: Part, itemId?: string) => void;
}

/**
 * The job as an elevation: levels, line, pump and outlet drawn from the job's own numbers, and over
 * them the height the water would stand at in a tube on the line.
 */
export function Section({ job, solved, selected, onPart }: Props) {
  const units = useUnits();
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 900, height: 240 });
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const geometry = useMemo(() => sectionGeometry(job, solved), [job, solved]);

  return (
    <div ref={frame} className="h-full min-h-0 w-full overflow-hidden">
      {geometry ? (
        <Drawing {...{ job, geometry, units, selected, onPart, ...size }} />
      ) : (
        <p className="p-6 text-soft">
          The section appears once the line runs from the source through a pump to an outlet.
        </p>
      )}
    </div>
  );
}

function Drawing({
  job,
  geometry: g,
  units,
  selected,
  onPart,
  width,
  height,
}: {
  job: JobDocument;
  geometry: NonNullable<ReturnType<typeof sectionGeometry>>;
  units: "us" | "metric";
  selected: string | undefined;
  onPart: Props["onPart"];
  width: number;
  height: number;
}) {
  const narrow = width < 560;
  const heights = [
    ...g.headLine.map((p) => p.at.height),
    ...g.runs.flatMap((r) => [r.from.height, r.to.height]),
    ...Object.values(g.source),
    ...(g.receiving ? Object.values(g.receiving) : []),
    g.intake.height,
    g.pump.height,
    g.outlet.height,
  ];
  const top = Math.max(...heights);
  const bottom = Math.min(...heights);
  const span = Math.max(top - bottom, 0.5);
  const left = narrow ? 74 : 118;
  const right = width - (narrow ? 60 : 96);
  const across = acrossScale(g, narrow ? 0.28 : 0.2);
  const x = (distance: number) => left + across(distance) * (right - left);
  const y = (h: number) => 22 + ((top - h) / span) * (height - 70);
  const at = (p: Point) => `${x(p.distance).toFixed(1)},${y(p.height).toFixed(1)}`;
  const level = (h: number) => format(h, "length", units);
  const maxBore = Math.max(...g.runs.map((r) => r.bore));
  const pool = { left: 8, right: x(0) + 14, floor: y(bottom) + 12 };
  const noSuction = g.pump.distance === 0;

  const pick = (part: Part, itemId?: string) => ({
    onClick: () => onPart(part, itemId),
    className: "cursor-pointer",
  });
  const below = suctionShades(g.headLine);

  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Section of ${job.name}, from ${level(g.source.normal)} at the water to ${level(g.outlet.height)} at the outlet`}
      className="block max-w-full font-sans"
    >
      {/* the source and its three levels */}
      <g {...pick("source")}>
        <rect
          x={pool.left}
          y={y(g.source.normal)}
          width={pool.right - pool.left}
          height={Math.max(pool.floor - y(g.source.normal), 4)}
          fill="var(--water)"
          opacity={0.22}
        />
        {(["high", "normal", "low"] as const).map((name) => (
          <line
            key={name}
            x1={pool.left}
            x2={pool.right}
            y1={y(g.source[name])}
            y2={y(g.source[name])}
            stroke="var(--water)"
            strokeWidth={name === "normal" ? 2.5 : 1.2}
            strokeDasharray={name === "normal" ? undefined : "4 4"}
          />
        ))}
        <text
          x={pool.left + 2}
          y={y(g.source.high) - 6}
          fontSize={13}
          fill="var(--ink)"
          stroke="var(--sheet)"
          strokeWidth={3}
          paintOrder="stroke"
        >
          water {level(g.source.normal)}
        </text>
      </g>

      {g.receiving && (
        <g {...pick("outlet")}>
          <rect
            x={right - 14}
            y={y(g.receiving.normal)}
            width={width - right + 6}
            height={Math.max(y(bottom) + 12 - y(g.receiving.normal), 4)}
            fill="var(--water)"
            opacity={0.22}
          />
          <line
            x1={right - 14}
            x2={width - 8}
            y1={y(g.receiving.normal)}
            y2={y(g.receiving.normal)}
            stroke="var(--water)"
            strokeWidth={2.5}
          />
        </g>
      )}

      {/* where the tube level stands below the pipe, the line is under suction */}
      {suctionShades(g.headLine).map((corners) => (
        <polygon
          key={corners.map(at).join(" ")}
          points={corners.map(at).join(" ")}
          fill="var(--signal)"
          opacity={0.2}
        />
      ))}

      {/* the line: a wide clear stroke to hit, the pipe itself, and its wall */}
      {g.runs.map((run) => {
        const points = `${at(run.from)} ${at(run.to)}`;
        const thick = 4 + 5 * (run.bore / maxBore);
        const chosen = run.itemId === selected;
        return (
          <g key={run.itemId} {...pick(run.side, run.itemId)}>
            <title>{itemName(job.path, run.itemId, units)}</title>
            <polyline points={points} stroke="transparent" strokeWidth={26} fill="none" />
            <polyline
              points={points}
              stroke={chosen ? "var(--signal)" : "var(--ink)"}
              strokeWidth={thick + 3}
              fill="none"
              strokeLinecap="round"
            />
            <polyline
              points={points}
              stroke="var(--sheet)"
              strokeWidth={thick}
              fill="none"
              strokeLinecap="round"
            />
            <polyline
              points={points}
              stroke="var(--water)"
              strokeWidth={thick - 2}
              fill="none"
              strokeLinecap="round"
              opacity={0.75}
            />
          </g>
        );
      })}
      {spread(
        g.fittings,
        (f) => x(f.at.distance),
        (f) => y(f.at.height),
      ).map(({ item, cx, cy }) => (
        <g key={item.itemId} {...pick(item.side, item.itemId)}>
          <title>{itemName(job.path, item.itemId, units)}</title>
          <rect
            x={cx - 4}
            y={cy - 4}
            width={8}
            height={8}
            transform={`rotate(45 ${cx} ${cy})`}
            fill={item.itemId === selected ? "var(--signal)" : "var(--ink)"}
            stroke="var(--sheet)"
            strokeWidth={1.5}
          />
        </g>
      ))}

      {g.holes.map(({ itemId, at: place }) => (
        <g key={itemId} {...pick("discharge", itemId)}>
          <title>{itemName(job.path, itemId, units)}</title>
          <path
            d="M0 0 C 5 5, 6 10, 5 17 M0 0 C 1 7, 0 11, -2 17"
            transform={`translate(${x(place.distance) + 17} ${y(place.height)})`}
            fill="none"
            stroke={itemId === selected ? "var(--signal)" : "var(--water)"}
            strokeWidth={2.2}
            strokeLinecap="round"
          />
        </g>
      ))}

      {/* the head line, falling along the path */}
      {g.headLine.length > 0 && (
        <g pointerEvents="none">
          <polyline
            points={g.headLine.map((p) => at(p.at)).join(" ")}
            fill="none"
            stroke="var(--water)"
            strokeWidth={2.5}
            strokeDasharray="9 4"
          />
          <HeadLabel {...{ g, x, y, units }} />
        </g>
      )}

      <g {...pick("pump")}>
        <title>Pump at {level(g.pump.height)}</title>
        <rect
          x={x(g.pump.distance) - 15}
          y={y(g.pump.height) - 15}
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
            transform={`translate(${x(g.pump.distance)} ${y(g.pump.height)}) rotate(${turn})`}
            fill="none"
            stroke="var(--sheet)"
            strokeWidth={2.6}
            strokeLinecap="round"
          />
        ))}
        <text
          x={x(g.pump.distance) + 20}
          y={y(g.pump.height) + 20}
          fontSize={13}
          fill="var(--ink)"
          stroke="var(--sheet)"
          strokeWidth={3}
          paintOrder="stroke"
        >
          pump {level(g.pump.height)}
        </text>
      </g>

      <g {...pick("outlet")}>
        <rect
          x={x(g.outlet.distance) - 16}
          y={y(g.outlet.height) - 16}
          width={60}
          height={36}
          fill="transparent"
        />
        {g.outletType !== "submerged" && (
          <path
            d={OUTLET_SHAPES[g.outletType]}
            transform={`translate(${x(g.outlet.distance)} ${y(g.outlet.height)})`}
            fill="none"
            stroke="var(--water)"
            strokeWidth={3}
            strokeLinecap="round"
          />
        )}
        <text
          x={width - 4}
          y={y(g.outlet.height) + (y(g.outlet.height) < 46 ? 34 : -14)}
          textAnchor="end"
          fontSize={13}
          fill="var(--ink)"
          stroke="var(--sheet)"
          strokeWidth={3}
          paintOrder="stroke"
        >
          outlet {level(g.outlet.height)}
        </text>
      </g>

      {/* distances: each side to its own scale */}
      <g fontSize={12.5} fill="var(--soft)" pointerEvents="none">
        {!noSuction && (
          <Span
            from={x(0)}
            to={x(g.pump.distance)}
            y={height - 8}
            label={
              narrow
                ? format(g.pump.distance, "length", units)
                : `suction ${format(g.pump.distance, "length", units)} across`
            }
          />
        )}
        <Span
          from={x(g.pump.distance)}
          to={x(g.outlet.distance)}
          y={height - 8}
          label={`discharge ${format(g.outlet.distance - g.pump.distance, "length", units)} across`}
        />
      </g>
      {below.length > 0 && !narrow && (
        <g pointerEvents="none">
          <rect x={10} y={8} width={11} height={11} fill="var(--signal)" opacity={0.35} />
          <text x={26} y={18} fontSize={12.5} fill="var(--ink)">
            under suction
          </text>
        </g>
      )}
    </svg>
  );
}

const OUTLET_SHAPES = {
  free: "M2 0 C 12 0, 16 6, 17 16 M2 -4 C 18 -5, 24 4, 25 16",
  pressure: "M4 0 H 22 M16 -6 L 22 0 L 16 6",
  nozzle: "M2 0 C 14 -12, 30 -12, 42 2 M2 0 C 14 -7, 24 -6, 34 4",
} as const;

function HeadLabel({
  g,
  x,
  y,
  units,
}: {
  g: NonNullable<ReturnType<typeof sectionGeometry>>;
  x: (d: number) => number;
  y: (h: number) => number;
  units: "us" | "metric";
}) {
  const peak = g.headLine.reduce((high, p) => (p.at.height > high.at.height ? p : high));
  return (
    <text
      x={x(peak.at.distance) + 24}
      y={y(peak.at.height) - 5}
      fontSize={13}
      fill="var(--water)"
      stroke="var(--sheet)"
      strokeWidth={3}
      paintOrder="stroke"
    >
      {format(peak.at.height - peak.pipe, "head", units)} after the pump
    </text>
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

/** Fittings that sit at one point are drawn side by side, so that each can be seen and hit. */
function spread<T>(items: readonly T[], xOf: (item: T) => number, yOf: (item: T) => number) {
  const seen = new Map<string, number>();
  return items.map((item) => {
    const key = `${xOf(item).toFixed(0)},${yOf(item).toFixed(0)}`;
    const n = seen.get(key) ?? 0;
    seen.set(key, n + 1);
    return { item, cx: xOf(item) + n * 11, cy: yOf(item) };
  });
}
