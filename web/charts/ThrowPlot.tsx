import { useMemo } from "react";
import { format } from "#contract/units/format.ts";
import { SHOWN, shownUnit, toUnit, type UnitSystem } from "#contract/units/units.ts";
import { type Calibration, expectedThrow, type Gun, throwAt } from "#core/irrigation/gun.ts";
import type { GunResult } from "#model/irrigation/guns.ts";
import { useUnits } from "../state/settings.ts";
import { Chart } from "./Chart.tsx";
import { type ChartSpec, type Curve, type Point, steps } from "./chart.ts";

const STEPS = 48;

interface Props {
  gun: Gun;
  calibration: Calibration | undefined;
  /** those like it */
  guns: readonly GunResult[];
}

/** Throw over pressure: what is expected, what was measured, the window between, and where each gun is. */
export function ThrowPlot({ gun, calibration, guns }: Props) {
  const units = useUnits();
  return (
    <div className="h-64 max-w-120">
      <Chart
        label="Throw over the pressure at the gun’s base"
        spec={useMemo(
          () => throwOverPressure({ gun, calibration, guns }, units),
          [gun, calibration, guns, units],
        )}
      />
    </div>
  );
}

function throwOverPressure({ gun, calibration, guns }: Props, units: UnitSystem): ChartSpec {
  const { leastPressure, greatestPressure } = gun;
  const used = calibration?.used ?? [];
  const seen = [...guns, ...used].map(({ pressure }) => pressure);
  const from = leastPressure ?? 0.5 * Math.min(...seen);
  const to = greatestPressure ?? 1.6 * Math.max(...seen);
  const pressures = steps(from, to, STEPS);
  const band = pressures.flatMap((pressure) => {
    const thrown = throwAt(gun, pressure, calibration);
    return thrown.kind === "throws" ? [{ pressure, ...thrown }] : [];
  });
  const p = (pressure: number) => toUnit(pressure, shownUnit("pressure", units));
  const r = (radius: number) => toUnit(radius, shownUnit("length", units));
  const at = (pressure: number, radius: number): Point => ({
    ...{ x: p(pressure), y: r(radius) },
    says: `${format(radius, "length", units)} at ${format(pressure, "pressure", units)}`,
  });
  const edge = (side: "low" | "high"): Curve => ({
    as: "curve",
    name: "Its doubt",
    ink: "water",
    width: 0,
    unnamed: true,
    points: band.map((own) => ({ x: p(own.pressure), y: r(own[side]) })),
  });
  const windowed = leastPressure !== undefined && greatestPressure !== undefined;
  return {
    x: { title: `At the gun’s base, ${SHOWN[units].pressure}`, free: true },
    y: { title: `Throw, ${SHOWN[units].length}`, free: true },
    drawn: [
      edge("low"),
      { ...edge("high"), fill: 0.18 },
      {
        as: "curve",
        ink: "soft",
        width: 1.5,
        dash: "dash",
        name: gun.chart && gun.chart.length > 0 ? "Its chart" : "Textbook",
        points: pressures.map((own) => at(own, expectedThrow(gun, own))),
      },
      {
        as: "curve",
        name: "Throw taken",
        ink: "water",
        points: band.map(({ pressure, radius }) => at(pressure, radius)),
      },
      ...(used.length > 0
        ? [
            {
              as: "marks",
              name: "Measured",
              ink: "ink",
              shape: "cross",
              size: 12,
              points: used.map(({ pressure, radius }) => at(pressure, radius)),
            } as const,
          ]
        : []),
      {
        as: "marks",
        name: guns.length > 1 ? "The guns" : "The gun",
        ink: "pump",
        size: 11,
        points: guns.flatMap(({ pressure, thrown }) =>
          thrown.kind === "throws" ? [at(pressure, thrown.radius)] : [],
        ),
      },
    ],
    levels: guns.map(({ pressure }) => ({ x: p(pressure), ink: "pump" })),
    shades: windowed ? [{ x: [p(from), p(to)], ink: "soft", opacity: 0.12, name: "made for" }] : [],
  };
}
