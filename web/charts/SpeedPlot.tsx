import { useMemo } from "react";
import { format } from "#contract/units/format.ts";
import { SHOWN, shownUnit, toUnit, type UnitSystem } from "#contract/units/units.ts";
import type { SpeedSheet } from "#core/driving/variableSpeed.ts";
import { useUnits } from "../state/settings.ts";
import { Chart } from "./Chart.tsx";
import type { ChartSpec, Curve, Level, Marks, Point } from "./chart.ts";

interface Props {
  speeds: SpeedSheet;
  speedRatio: number;
  /** rpm */
  rated: number;
  wanted: number | undefined;
  lot: { volume: number; name: string };
  /** m³/s at the outlets and J for a m³ as it runs; absent where it does not settle */
  now: { flow: number; perVolume?: number } | undefined;
}

/** Energy for a volume over speed with the floor the lift sets, and the flow each speed moves. */
export function SpeedPlot({ speeds, speedRatio, rated, wanted, lot, now }: Props) {
  const units = useUnits();
  const flow = now?.flow;
  const perVolume = now?.perVolume;
  const spec = useMemo(
    () =>
      overSpeed(
        {
          ...{ speeds, speedRatio, rated, wanted, lot },
          now: flow === undefined ? undefined : { flow, ...(perVolume && { perVolume }) },
        },
        units,
      ),
    [speeds, speedRatio, rated, wanted, lot, flow, perVolume, units],
  );
  return <Chart label={`Energy for ${lot.name} and flow over speed`} spec={spec} />;
}

function overSpeed(
  { speeds, speedRatio, rated, wanted, lot, now }: Props,
  units: UnitSystem,
): ChartSpec {
  const { rows, floor, slowest, cheapest } = speeds;
  const known = rows.filter(({ flow }) => flow !== undefined);
  const energies = known.flatMap(({ perVolume }) => perVolume ?? []);
  // What hardly moves water takes any amount for it: the picture ends at three times the least.
  const top = Math.min(Math.max(...energies, floor), 3 * Math.min(...energies)) * 1.08;
  const hasEnergy = Number.isFinite(top);
  const flows = Math.max(...known.map(({ flow = 0 }) => flow), wanted ?? 0) * 1.08;
  const rpm = (ratio: number) => ratio * rated;
  const e = (perVolume: number) => toUnit(perVolume * lot.volume, shownUnit("energy", units));
  const q = (flow: number) => toUnit(flow, shownUnit("flow", units));
  const energyAt = (ratio: number, perVolume: number): Point => ({
    ...{ x: rpm(ratio), y: e(perVolume) },
    says: `${format(perVolume * lot.volume, "energy", units)} at ${rpm(ratio).toFixed(0)} rpm`,
  });
  const flowAt = (ratio: number, flow: number): Point => ({
    ...{ x: rpm(ratio), y: q(flow) },
    says: `${format(flow, "flow", units)} at ${rpm(ratio).toFixed(0)} rpm`,
  });
  const drawn: (Curve | Marks)[] = [];
  if (hasEnergy) {
    const points = known.flatMap(({ ratio, perVolume }) =>
      perVolume === undefined || perVolume > top ? [] : [energyAt(ratio, perVolume)],
    );
    drawn.push({ as: "curve", name: `Energy for ${lot.name}`, ink: "ink", points });
  }
  drawn.push({
    as: "curve",
    name: "Flow",
    ink: "water",
    width: 2,
    dash: "dot",
    right: hasEnergy,
    points: known.map(({ ratio, flow = 0 }) => flowAt(ratio, flow)),
  });
  if (cheapest?.perVolume !== undefined && cheapest.perVolume <= top) {
    const points = [energyAt(cheapest.ratio, cheapest.perVolume)];
    drawn.push({ as: "marks", name: "Cheapest", ink: "ink", hollow: true, points });
  }
  if (now) {
    const { perVolume } = now;
    const onEnergy = perVolume !== undefined && perVolume <= top;
    const points = [onEnergy ? energyAt(speedRatio, perVolume) : flowAt(speedRatio, now.flow)];
    drawn.push({
      as: "marks",
      name: "Now",
      ink: "ink",
      size: 11,
      right: hasEnergy && !onEnergy,
      points,
    });
  }
  const levels: Level[] = [];
  if (hasEnergy) {
    levels.push({ y: e(floor), ink: "signal", dash: "dash", name: "the lift alone" });
  }
  if (slowest) levels.push({ x: rpm(slowest.ratio), ink: "water", name: "wanted" });
  const flowAxis = { title: `Flow, ${SHOWN[units].flow}`, range: [0, q(flows)] } as const;
  return {
    x: { title: "rpm", free: true },
    y: hasEnergy ? { title: `Energy, ${SHOWN[units].energy}`, range: [0, e(top)] } : flowAxis,
    ...(hasEnergy && { right: flowAxis }),
    drawn,
    levels,
  };
}
