import { memo, useEffect, useMemo, useRef, useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import {
  acrossScale,
  type Point,
  type SectionGeometry,
  sectionGeometry,
  suctionShades,
} from "#model/job/sectionGeometry.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { itemName } from "#words/items.ts";
import { partOf } from "../openJob/jobStore.ts";
import type { Part } from "../openJob/part.ts";
import { useUnits } from "../state/settings.ts";
import {
  DiagnosticMark,
  Distances,
  GaugeMark,
  HeadLine,
  Hole,
  OutletMark,
  PipeWall,
  PumpMark,
  Shade,
  SourceWater,
} from "./SectionMarks.tsx";

interface Props {
  job: JobDocument;
  solved: JobSolution;
  selected: string | undefined;
  onPart: (part: Part, itemId?: string) => void;
  /** gauges that stand on it: where they are tapped in, and the height of their dials */
  gauges?: readonly { at: Point; dial: number; label: string }[];
}

const NO_GAUGES: NonNullable<Props["gauges"]> = [];

/**
 * The job as an elevation: levels, line, pump and outlet drawn from the job's own numbers, and over
 * them the height the water would stand at in a tube on the line.
 */
export const Section = memo(function Section({
  job,
  solved,
  selected,
  onPart,
  gauges = NO_GAUGES,
}: Props) {
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
  const geometry = useMemo(() => sectionGeometry(solved), [solved]);

  return (
    <div ref={frame} className="h-full min-h-0 w-full overflow-hidden">
      {geometry ? (
        <Drawing {...{ job, geometry, units, selected, onPart, gauges, ...size }} />
      ) : (
        <p className="p-6 text-soft">
          The section appears once the line runs from the source to a first run of pipe.
        </p>
      )}
    </div>
  );
});

/** Pixels by which the branches of a split stand apart. */
const LANE = 13;

function Drawing({
  job,
  geometry: g,
  units,
  selected,
  onPart,
  gauges,
  width,
  height,
}: {
  job: JobDocument;
  geometry: SectionGeometry;
  units: "us" | "metric";
  selected: string | undefined;
  onPart: Props["onPart"];
  gauges: NonNullable<Props["gauges"]>;
  width: number;
  height: number;
}) {
  const narrow = width < 560;
  const heights = [
    ...g.headLine.map((p) => p.at.height),
    ...g.runs.flatMap((r) => [r.from.height, r.to.height]),
    ...Object.values(g.source),
    ...g.outlets.flatMap(({ at, receiving }) => [at.height, ...Object.values(receiving ?? {})]),
    ...g.pumps.map(({ at }) => at.height),
    g.intake.height,
    ...gauges.map(({ dial }) => dial),
  ];
  const top = Math.max(...heights);
  const bottom = Math.min(...heights);
  const span = Math.max(top - bottom, 0.5);
  const lanes = Math.max(0, ...g.runs.map(({ from }) => from.lane));
  // The names of pumps in lower lanes stand clear of the distances under them.
  const foot = 70 + (lanes > 0 ? 16 : 0);
  const left = narrow ? 74 : 118;
  const right = width - (narrow ? 60 : 96);
  const across = acrossScale(g, narrow ? 0.28 : 0.2);
  const place = ({ distance, height: h, lane }: Point) => ({
    x: left + across(distance) * (right - left) + lane * LANE * 0.6,
    y: 22 + ((top - h) / span) * (height - foot - lanes * LANE) + lane * LANE,
  });
  const yOf = (h: number) => place({ distance: 0, height: h, lane: 0 }).y;
  const at = (p: Point) => {
    const { x, y } = place(p);
    return `${x.toFixed(1)},${y.toFixed(1)}`;
  };
  /** Of a long line what is shorter on the page than a pen is wide. */
  const isLong = ({ from, to }: { from: Point; to: Point }) => {
    const [a, b] = [place(from), place(to)];
    return Math.hypot(b.x - a.x, b.y - a.y) > 3;
  };
  const level = (h: number) => format(h, "length", units);
  const floor = yOf(bottom) + 12;
  const maxBore = Math.max(...g.runs.map((r) => r.bore));
  const thickness = (bore: number) => 4 + 5 * (bore / maxBore);
  const below = suctionShades(g.headLine);
  const name = (itemId: string) => itemName(job.path, itemId, units);
  // Which part an item belongs to is found when it is asked for: a long line has a thousand of them.
  const pickPart = (part: () => Part, itemId?: string) => ({
    onClick: () => onPart(part(), itemId),
    className: "cursor-pointer",
  });
  const pick = (itemId: string) => pickPart(() => partOf(job.path, itemId), itemId);
  const first = g.outlets[0];
  const ends = first ? ` to ${level(first.at.height)} at the outlet` : "";

  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Section of ${job.name}, from ${level(g.source.normal)} at the water${ends}`}
      className="block max-w-full font-sans"
    >
      <g {...pickPart(() => "source")}>
        <SourceWater
          levels={g.source}
          {...{ yOf, floor }}
          right={left + 14}
          label={`water ${level(g.source.normal)}`}
        />
      </g>
      {g.outlets.map(({ itemId, at: end, receiving }) => {
        if (!receiving) return null;
        const { x } = place(end);
        const surface = yOf(receiving.normal);
        return (
          <g key={itemId} {...pick(itemId)}>
            <rect
              x={x - 14}
              y={surface}
              width={right - left < 1 ? 0 : Math.max(width - right + 6, 40)}
              height={Math.max(floor - surface, 4)}
              fill="var(--water)"
              opacity={0.22}
            />
            <line
              x1={x - 14}
              x2={x + width - right - 8}
              y1={surface}
              y2={surface}
              stroke="var(--water)"
              strokeWidth={2.5}
            />
          </g>
        );
      })}
      {below.map((corners, i) => (
        <Shade key={i} points={corners.map(at).join(" ")} />
      ))}
      {(g.joints.length > MANY ? g.joints.filter(isLong) : g.joints).map(({ from, to }, i) => (
        <PipeWall
          key={i}
          points={`${at(from)} ${at(to)}`}
          thick={thickness(maxBore * 0.6)}
          chosen={false}
        />
      ))}
      {together(g.runs, isLong).map(([run, ...more]) => (
        <g key={`${run.itemId} ${run.from.distance}`} {...pick(run.itemId)}>
          <title>
            {more.length === 0
              ? name(run.itemId)
              : `${more.length + 1} runs, ${name(run.itemId)} first`}
          </title>
          <PipeWall
            points={[at(run.from), at(run.to), ...more.map(({ to }) => at(to))].join(" ")}
            thick={thickness(run.bore)}
            chosen={[run, ...more].some(({ itemId }) => itemId === selected)}
          />
        </g>
      ))}
      {sideBySide(g.fittings, (f) => place(f.at)).map(({ item, x, y }) => (
        <g key={item.itemId} {...pick(item.itemId)}>
          <title>{name(item.itemId)}</title>
          <rect
            x={x - 4}
            y={y - 4}
            width={8}
            height={8}
            transform={`rotate(45 ${x} ${y})`}
            fill={item.itemId === selected ? "var(--signal)" : "var(--ink)"}
            stroke="var(--sheet)"
            strokeWidth={1.5}
          />
        </g>
      ))}
      {g.holes.map(({ itemId, at: where }) => (
        <g key={itemId} {...pick(itemId)}>
          <title>{name(itemId)}</title>
          <Hole {...place(where)} chosen={itemId === selected} />
        </g>
      ))}
      <HeadLine points={thinned(g.headLine, isLong)} {...{ at, place, units }} />
      {g.pumps.map(({ itemId, at: where }, i) => (
        <g key={itemId} {...pick(itemId)}>
          <title>{`${name(itemId)} at ${level(where.height)}`}</title>
          <PumpMark
            {...place(where)}
            aside={20 + (g.pumps.length - 1 - i) * LANE}
            label={`${g.pumps.length > 1 ? name(itemId).toLowerCase() : "pump"}${i === 0 ? ` ${level(where.height)}` : ""}`}
          />
        </g>
      ))}
      {g.outlets.map(({ itemId, type, at: where }) => (
        <g key={itemId} {...pick(itemId)}>
          <OutletMark
            {...place(where)}
            {...{ type, width }}
            label={`outlet ${level(where.height)}`}
          />
        </g>
      ))}
      {g.diagnostics.map(({ itemId, at: where }) => (
        <g key={itemId} {...pick(itemId)}>
          <title>{`${name(itemId)}: see what is wrong beside`}</title>
          <DiagnosticMark {...place(where)} />
        </g>
      ))}
      {gauges.map(({ at: tap, dial, label }) => {
        const foot = place(tap);
        return (
          <GaugeMark
            key={`${label} ${tap.distance}`}
            {...{ foot, label }}
            dial={yOf(dial) + tap.lane * LANE}
          />
        );
      })}
      <Distances geometry={g} {...{ place, height, narrow, units }} />
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

type Run = SectionGeometry["runs"][number];

/**
 * Runs that follow on each other in one bore, put together while they are too short to be told apart; of a line that
 * is not long every run stands alone.
 */
function together(runs: readonly Run[], isLong: (span: Pick<Run, "from" | "to">) => boolean) {
  if (runs.length <= MANY) return runs.map((run): [Run, ...Run[]] => [run]);
  const groups: [Run, ...Run[]][] = [];
  for (const run of runs) {
    const group = groups.at(-1);
    const [first] = group ?? [];
    const last = group?.at(-1);
    const follows =
      first && last && last.to.distance === run.from.distance && last.to.lane === run.from.lane;
    if (follows && first.bore === run.bore && !isLong({ from: first.from, to: run.to })) {
      group?.push(run);
    } else groups.push([run]);
  }
  return groups;
}
/** The points of a long head line that stand apart on the page, its ends among them. */
function thinned(
  points: SectionGeometry["headLine"],
  isLong: (span: { from: Point; to: Point }) => boolean,
): SectionGeometry["headLine"] {
  if (points.length <= MANY) return points;
  let kept = points[0];
  return points.filter((point, i) => {
    const apart =
      !kept || i === 0 || i === points.length - 1 || isLong({ from: kept.at, to: point.at });
    if (apart) kept = point;
    return apart;
  });
}

/** Runs from which on they are put together. */
const MANY = 200;

/** Fittings that sit at one point are drawn side by side, so that each can be seen and hit. */
function sideBySide<T>(items: readonly T[], place: (item: T) => { x: number; y: number }) {
  const seen = new Map<string, number>();
  return items.map((item) => {
    const { x, y } = place(item);
    const key = `${x.toFixed(0)},${y.toFixed(0)}`;
    const n = seen.get(key) ?? 0;
    seen.set(key, n + 1);
    return { item, x: x + n * 11, y };
  });
}
