import { useMemo } from "react";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { format } from "#contract/units/format.ts";
import { SHOWN, shownUnit, toUnit, type UnitSystem } from "#contract/units/units.ts";
import { evaluate } from "#core/numeric/monotoneCubic.ts";
import { pumpCurve } from "#core/pump/curve.ts";
import { useUnits } from "../state/settings.ts";
import { Chart } from "./Chart.tsx";
import { type ChartSpec, steps } from "./chart.ts";

/** Told apart by dash as well as by colour. */
const LOOKS = [
  { ink: "water" },
  { ink: "pump", dash: "dash" },
  { ink: "signal", dash: "dot" },
] as const;
const STEPS = 80;

/** Curves of a few pumps over each other. */
export function CurvesPlot({ pumps }: { pumps: readonly PumpDocument[] }) {
  const units = useUnits();
  return (
    <Chart
      label={`Curves of ${pumps.map(nameOf).join(", ")}`}
      spec={useMemo(() => besideOneAnother(pumps, units), [pumps, units])}
    />
  );
}

const nameOf = ({ maker, model }: PumpDocument) => `${maker} ${model}`;

function besideOneAnother(pumps: readonly PumpDocument[], units: UnitSystem): ChartSpec {
  return {
    x: { title: `Flow, ${SHOWN[units].flow}` },
    y: { title: `Head, ${SHOWN[units].head}` },
    drawn: pumps.map((pump, i) => {
      const { firstFlow, lastFlow, head } = pumpCurve(pump);
      return {
        as: "curve",
        name: nameOf(pump),
        ...(LOOKS[i % LOOKS.length] ?? LOOKS[0]),
        points: steps(firstFlow, lastFlow, STEPS).map((flow) => {
          const high = evaluate(head, flow);
          return {
            x: toUnit(flow, shownUnit("flow", units)),
            y: toUnit(high, shownUnit("head", units)),
            says: `${format(flow, "flow", units)} at ${format(high, "head", units)}`,
          };
        }),
      };
    }),
  };
}
