import { useMemo } from "react";
import { format } from "#contract/units/format.ts";
import { SHOWN, shownUnit, toUnit, type UnitSystem } from "#contract/units/units.ts";
import type { Money } from "#core/selection/front.ts";
import type { TogetherFound, TogetherResult } from "#model/selection/together.ts";
import { useUnits } from "../state/settings.ts";
import { Chart } from "./Chart.tsx";
import type { ChartSpec } from "./chart.ts";

/** Flow against money: the front as a line of points to take, what it beats in grey. */
export function FrontPlot({
  value,
  money,
  nameOf,
  wanted,
  onTake,
}: {
  value: TogetherResult;
  money: Money;
  nameOf: (own: TogetherFound) => string;
  wanted: number | undefined;
  onTake: (own: TogetherFound) => void;
}) {
  const units = useUnits();
  const spec = useMemo(
    () => front(value, money, nameOf, wanted, units),
    // Names follow from what is found.
    [value, money, wanted, units],
  );
  return (
    <Chart
      label="Flow against money, every pump in every size"
      spec={spec}
      onTake={(id) => {
        const own = [...value.front, ...value.beaten].find((each) => keyOf(each) === id);
        if (own) onTake(own);
      }}
    />
  );
}

const keyOf = ({ pump, stock }: TogetherFound) => `${pump} ${stock}`;

function front(
  { front: best, beaten }: TogetherResult,
  money: Money,
  nameOf: (own: TogetherFound) => string,
  wanted: number | undefined,
  units: UnitSystem,
): ChartSpec {
  const flow = (si: number) => toUnit(si, shownUnit("flow", units));
  // What has no price is no point of money.
  const points = (all: readonly TogetherFound[]) =>
    all.flatMap((own) => {
      const { [money]: spent } = own;
      if (spent === undefined) return [];
      const says = `${nameOf(own)}<br>${format(own.flow, "flow", units)}, ${spent.toFixed(0)}`;
      return [{ x: spent, y: flow(own.flow), id: keyOf(own), says }];
    });
  return {
    x: { title: money === "price" ? "Money to buy" : "Money a year" },
    y: { title: `Flow, ${SHOWN[units].flow}` },
    drawn: [
      {
        as: "marks",
        name: "Beaten by another",
        ink: "soft",
        size: 5,
        faint: true,
        points: points(beaten),
      },
      {
        as: "curve",
        name: "Nothing beats",
        ink: "water",
        width: 2,
        stepped: true,
        points: points(best),
      },
      { as: "marks", name: "Nothing beats", ink: "water", size: 11, points: points(best) },
    ],
    legend: false,
    ...(wanted !== undefined && {
      levels: [{ y: flow(wanted), ink: "signal", name: "wanted" } as const],
    }),
  };
}
