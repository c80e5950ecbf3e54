import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import { SHOWN, shownUnit, toUnit, type UnitSystem } from "#contract/units/units.ts";
import { standingOf } from "#model/well/settle.ts";
import type { WellResult } from "#model/well/well.ts";
import { useUnits } from "../state/settings.ts";
import { Chart } from "./Chart.tsx";
import type { ChartSpec, Curve, Point } from "./chart.ts";

/** Drawdown over flow, down as the water goes: the steps, the curve through them with its doubt, and where the pump is. */
export function DrawdownPlot({ job, told }: { job: JobDocument; told: WellResult }) {
  const units = useUnits();
  return (
    <div className="h-60 max-w-100">
      <Chart
        label="Drawdown over flow, from the test"
        spec={useMemo(() => drawdown(job, told, units), [job, told, units])}
      />
    </div>
  );
}

function drawdown(job: JobDocument, told: WellResult, units: UnitSystem): ChartSpec {
  const { curve, fit, seasons } = told;
  const steps = job.well?.steps ?? [];
  const standing = standingOf(job);
  const now = seasons[1];
  const most = Math.max(...curve.map(({ flow }) => flow), now?.flow ?? 0);
  const deepest = Math.max(
    ...curve.map(({ drawdown: down, doubt }) => down + Math.min(doubt, down)),
    ...steps.map(({ level }) => level - standing),
    now?.drawdown ?? 0,
  );
  const q = (flow: number) => toUnit(flow, shownUnit("flow", units));
  const s = (down: number) => toUnit(down, shownUnit("length", units));
  const at = (flow: number, down: number): Point => ({
    ...{ x: q(flow), y: s(down) },
    says: `${format(flow, "flow", units)}: ${format(down, "length", units)} down`,
  });
  const edge = (sign: 1 | -1): Curve => ({
    as: "curve",
    name: "Its doubt",
    ink: "water",
    width: 0,
    unnamed: true,
    points: curve.map(({ flow, drawdown: down, doubt }) => ({
      ...{ x: q(flow), y: s(Math.min(Math.max(down + sign * doubt, 0), deepest)) },
    })),
  });
  const tested = fit.kind === "fitted" ? fit.testedTo : 0;
  return {
    x: { title: `Flow, ${SHOWN[units].flow}`, range: [0, q(most) * 1.03] },
    y: {
      title: `Below standing, ${SHOWN[units].length}`,
      range: [0, s(deepest) * 1.06],
      down: true,
    },
    drawn: [
      edge(-1),
      { ...edge(1), fill: 0.18 },
      {
        as: "curve",
        name: "Curve",
        ink: "water",
        points: curve.map(({ flow, drawdown: down }) => at(flow, down)),
      },
      {
        as: "marks",
        name: "Test",
        ink: "ink",
        shape: "cross",
        size: 12,
        points: steps.map(({ flow, level }) => at(flow, level - standing)),
      },
      ...(now?.flow !== undefined && now.drawdown !== undefined
        ? [
            {
              as: "marks",
              name: "Pump, usual water",
              ink: "pump",
              size: 11,
              points: [at(now.flow, now.drawdown)],
            } as const,
          ]
        : []),
    ],
    shades:
      tested < most
        ? [{ x: [q(tested), q(most) * 1.03], ink: "soft", opacity: 0.12, name: "not tested" }]
        : [],
  };
}
