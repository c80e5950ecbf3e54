import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import { standingOf } from "#model/well/settle.ts";
import type { WellResult } from "#model/well/well.ts";
import { useUnits } from "../state/settings.ts";

const WIDE = 320;
const HIGH = 200;
const [LEFT, RIGHT, TOP, FOOT] = [8, 10, 24, 8];

/** Drawdown over flow, down as the water goes: the steps, the curve through them with its doubt, and where the pump is. */
export function DrawdownPlot({ job, told }: { job: JobDocument; told: WellResult }) {
  const units = useUnits();
  const { curve, fit, seasons } = told;
  const steps = job.well?.steps ?? [];
  const standing = standingOf(job);
  const now = seasons[1];
  const most = Math.max(...curve.map(({ flow }) => flow), now?.flow ?? 0);
  const deepest = Math.max(
    ...curve.map(({ drawdown, doubt }) => drawdown + Math.min(doubt, drawdown)),
    ...steps.map(({ level }) => level - standing),
    now?.drawdown ?? 0,
  );
  const x = (flow: number) => LEFT + (flow / most) * (WIDE - LEFT - RIGHT);
  const y = (down: number) => TOP + (Math.max(down, 0) / deepest) * (HIGH - TOP - FOOT);
  const line = (points: readonly (readonly [number, number])[]) =>
    points.map(([q, s]) => `${x(q).toFixed(1)},${y(s).toFixed(1)}`).join(" ");
  const tested = fit.kind === "fitted" ? fit.testedTo : 0;
  return (
    <figure className="grid content-start gap-1">
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="w-full max-w-100" role="img">
        <title>Drawdown over flow, from the test</title>
        <rect
          x={x(tested)}
          y={TOP}
          width={Math.max(WIDE - RIGHT - x(tested), 0)}
          height={HIGH - TOP - FOOT}
          className="fill-press"
        />
        <polygon
          points={line([
            ...curve.map(({ flow, drawdown, doubt }) => [flow, drawdown - doubt] as const),
            ...curve
              .toReversed()
              .map(
                ({ flow, drawdown, doubt }) => [flow, Math.min(drawdown + doubt, deepest)] as const,
              ),
          ])}
          className="fill-water"
          opacity={0.18}
        />
        <polyline
          points={line(curve.map(({ flow, drawdown }) => [flow, drawdown] as const))}
          fill="none"
          className="stroke-water"
          strokeWidth={2.5}
        />
        <path d={`M${LEFT} ${TOP}H${WIDE - RIGHT}`} className="stroke-ink" />
        {steps.map(({ flow, level }, i) => (
          <path
            key={i}
            d={`M${x(flow) - 6} ${y(level - standing)}h12M${x(flow)} ${y(level - standing) - 6}v12`}
            className="stroke-ink"
            strokeWidth={2.2}
          />
        ))}
        {now?.flow !== undefined && now.drawdown !== undefined && (
          <circle cx={x(now.flow)} cy={y(now.drawdown)} r={5} className="fill-pump" />
        )}
        <text x={LEFT} y={TOP - 8} className="fill-soft text-[16px]">
          standing
        </text>
        <text x={WIDE - RIGHT} y={TOP - 8} textAnchor="end" className="fill-soft text-[16px]">
          {format(most, "flow", units)}
        </text>
        <text x={LEFT + 4} y={HIGH - FOOT - 4} className="fill-soft text-[16px]">
          {format(deepest, "length", units)} down
        </text>
      </svg>
      <figcaption className="text-[13px] text-soft">
        Crosses: the test. Round: the pump, usual water. Shaded right: not tested.
      </figcaption>
    </figure>
  );
}
