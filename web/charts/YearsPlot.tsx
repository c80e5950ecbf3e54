import { useMemo } from "react";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import type { PumpYears } from "#model/measurement/years.ts";
import { Chart } from "./Chart.tsx";
import type { ChartSpec, Curve } from "./chart.ts";

/** The strength of a pump over the years with its doubt, the straight line through it, and the limit. */
export function YearsPlot({ years, label }: { years: PumpYears; label: string }) {
  return <Chart label={label} spec={useMemo(() => overYears(years), [years])} />;
}

function overYears({ rows, trend, limit }: PumpYears): ChartSpec {
  const spread = (own: { standardUncertainty: number }) => 100 * COVERAGE * own.standardUncertainty;
  const edge = (sign: 1 | -1): Curve => ({
    as: "curve",
    name: "Straight line",
    ink: "water",
    width: 0,
    unnamed: true,
    points: (trend?.line ?? []).map((own) => ({
      x: own.on,
      y: 100 * own.value + sign * spread(own),
    })),
  });
  return {
    x: { title: "", days: true },
    y: { title: "% of the published heads", free: true },
    drawn: [
      ...(trend
        ? [
            edge(-1),
            { ...edge(1), fill: 0.15 },
            {
              ...edge(1),
              unnamed: false,
              width: 2,
              dash: "dash",
              points: trend.line.map(({ on, value }) => ({ x: on, y: 100 * value })),
            } as const,
          ]
        : []),
      {
        as: "marks",
        name: "Measured",
        ink: "signal",
        shape: "diamond",
        size: 11,
        points: rows.flatMap(({ takenOn, title, today }) =>
          today
            ? [
                {
                  ...{ x: takenOn, y: 100 * today.value, doubt: spread(today) },
                  says: `${takenOn}, ${title}: ${(100 * today.value).toFixed(1)} %`,
                },
              ]
            : [],
        ),
      },
    ],
    levels: [{ y: 100 * limit, ink: "ink", name: "limit" }],
  };
}
