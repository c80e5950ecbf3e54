import { useMemo } from "react";
import { format } from "#contract/units/format.ts";
import { SHOWN, shownUnit, toUnit, type UnitSystem } from "#contract/units/units.ts";
import type { StartsAt } from "#core/well/pressureTank.ts";
import { useUnits } from "../state/settings.ts";
import { Chart } from "./Chart.tsx";
import type { ChartSpec } from "./chart.ts";

interface Props {
  curves: readonly { name: string; starts: readonly StartsAt[] }[];
  limit: number | undefined;
}

/** Starts an hour over everything that may be drawn. */
export function StartsPlot({ curves, limit }: Props) {
  const units = useUnits();
  return (
    <figure className="max-w-120">
      <div className="h-56">
        <Chart
          label="Starts an hour over what is drawn"
          spec={useMemo(() => startsOverUse({ curves, limit }, units), [curves, limit, units])}
        />
      </div>
      <figcaption className="text-[13px] text-soft">
        Where a line lies at nothing, the pump runs on for as long as the water does.
      </figcaption>
    </figure>
  );
}

const LOOKS = [{ ink: "water" }, { ink: "pump", dash: "dash" }] as const;

function startsOverUse({ curves, limit }: Props, units: UnitSystem): ChartSpec {
  return {
    x: { title: `Drawn, ${SHOWN[units].flow}` },
    y: { title: "Starts an hour" },
    drawn: curves.map(({ name, starts }, i) => ({
      as: "curve",
      name,
      ...(LOOKS[i % LOOKS.length] ?? LOOKS[0]),
      points: starts.map(({ use, startsPerHour }) => ({
        ...{ x: toUnit(use, shownUnit("flow", units)), y: startsPerHour },
        says: `${startsPerHour.toFixed(1)} an hour, ${format(use, "flow", units)} drawn`,
      })),
    })),
    ...(limit !== undefined && {
      levels: [{ y: limit, ink: "signal", dash: "dash", name: `${limit} by its plate` } as const],
    }),
  };
}
