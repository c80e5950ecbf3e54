import { useMemo } from "react";
import { format } from "#contract/units/format.ts";
import { SHOWN, shownUnit, toUnit, type UnitSystem } from "#contract/units/units.ts";
import { LIMITS } from "#core/check/check.ts";
import type { Band } from "#core/condition/uncertainty.ts";
import { WATER_LEVELS, type WaterLevel } from "#core/fluid/levels.ts";
import { settledDuty } from "#core/hydraulics/operatingPoint.ts";
import type { Solution } from "#core/hydraulics/solveLine.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import { evaluate } from "#core/numeric/monotoneCubic.ts";
import { bestEfficiencyFlow, type PumpCurve } from "#core/pump/curve.ts";
import { type Pump, toleranceOf } from "#core/pump/pump.ts";
import { waterOf } from "#words/items.ts";
import { useUnits } from "../state/settings.ts";
import { Chart } from "./Chart.tsx";
import { type ChartSpec, type Curve, type Marks, type Shade, steps } from "./chart.ts";

/** A measured point with its standard uncertainties, SI. */
export interface MeasuredPoint {
  name: string;
  flow: number;
  head: number;
  flowUncertainty: number;
  headUncertainty: number;
  /** between their errors */
  correlation?: number;
  now?: boolean;
}

/** A pump as its readings have it: its heads over the published ones, and where it was read. */
export interface AsInstalled {
  headFactor: { value: number; standardUncertainty: number };
  /** m³/s */
  from: number;
  to: number;
}

interface Props {
  /** the pump, with its curve at the speed it runs; without it the line's curve is drawn alone */
  of?: { pump: Pump; curve: PumpCurve } | undefined;
  /** other lines of the pump's own sheet */
  others?: readonly { name: string; points: { flow: number; head: number }[] }[] | undefined;
  /** the line the pump works on, and which of its pumps this is; without it only the pump's own curve is drawn */
  on?: { solution: Solution; place: number } | undefined;
  measured?: readonly MeasuredPoint[];
  installed?: AsInstalled | undefined;
  /** where the duty likely lies */
  band?: Band | undefined;
  label: string;
}

/** The same list at every drawing, so that what has none is not drawn anew. */
const NONE: readonly never[] = [];

/**
 * The curve sheet: what the pump gives, what the line asks from low to high water, where they meet, the
 * region to run in, and what was measured with its doubt.
 */
export function CurvePlot({
  of,
  others = NONE,
  on,
  measured = NONE,
  installed,
  band,
  label,
}: Props) {
  const units = useUnits();
  const spec = useMemo(
    () => curveSheet({ of, others, on, measured, installed, band, label }, units),
    [of, others, on, measured, installed, band, label, units],
  );
  return (
    <div className="h-full min-h-64 w-full">
      <Chart label={label} spec={spec} />
    </div>
  );
}

interface Place {
  flow: number;
  head: number;
}

function curveSheet(props: Props, units: UnitSystem): ChartSpec {
  const { of, others = NONE, on, measured = NONE, installed, band } = props;
  const q = (si: number) => toUnit(si, shownUnit("flow", units));
  const h = (si: number) => toUnit(si, shownUnit("head", units));
  const says = ({ flow, head }: Place) =>
    `${format(flow, "flow", units)} at ${format(head, "head", units)}`;
  const points = (places: readonly Place[], silent?: boolean) =>
    places.map((place) => ({
      ...{ x: q(place.flow), y: h(place.head) },
      ...(!silent && { says: says(place) }),
    }));
  const curve = (
    name: string,
    places: readonly Place[],
    look: Omit<Curve, "as" | "name" | "points">,
  ): Curve => ({
    as: "curve",
    name,
    points: points(places),
    ...look,
  });
  /** what lies between two curves; it says nothing under the pointer */
  const between = (
    name: string,
    [low, high]: readonly [Place[], Place[]],
    look: Pick<Curve, "ink" | "fill" | "unnamed">,
  ): Curve[] => [
    { as: "curve", name, ink: look.ink, width: 0, unnamed: true, points: points(low, true) },
    { as: "curve", name, width: 0, points: points(high, true), ...look },
  ];
  const asked = on?.solution.cases.normal.running?.duty;
  const drawnPoints = others.flatMap((own) => own.points);
  const mostFlow = Math.max(
    of?.curve.lastFlow ?? 1.6 * (asked?.flow ?? 0),
    ...drawnPoints.map(({ flow }) => flow),
  );
  const topHead = Math.max(
    of ? Math.max(...of.curve.head.y) : 1.5 * Math.max(asked?.head ?? 0, 1),
    ...drawnPoints.map(({ head }) => head),
  );
  const pumpPoints = of
    ? steps(of.curve.firstFlow, of.curve.lastFlow, 240).map((flow) => ({
        ...{ flow, head: evaluate(of.curve.head, flow) },
      }))
    : [];
  const drawn: (Curve | Marks)[] = [];
  if (of) {
    const tolerance = toleranceOf(of.pump);
    const edge = (sign: number) =>
      pumpPoints.map(({ flow, head }) => ({
        flow: flow * (1 + sign * tolerance.flow),
        head: head * (1 + sign * tolerance.head),
      }));
    const { tolerance: grade } = of.pump;
    drawn.push(
      ...between(
        grade === "small" ? "Tolerance, small pump" : `Tolerance ${grade}`,
        [edge(-1), edge(1)],
        { ink: "pump", fill: 0.16 },
      ),
      curve("Pump", pumpPoints, { ink: "pump", width: 3.5 }),
    );
  }
  for (const own of others) drawn.push(curve(own.name, own.points, { ink: "pump", width: 1.5 }));
  if (on) {
    const { solution, place } = on;
    const { model, boundaries } = solution;
    const names = waterOf(solution.line.source);
    const lineAt = (at: WaterLevel) => {
      const systemHead = model.systemHead(boundaries[at], solution.cases[at].states, place);
      return steps(0, mostFlow * 1.04, 80).flatMap((flow) => {
        const head = systemHead(flow);
        return head === undefined ? [] : [{ flow, head }];
      });
    };
    const edge = { ink: "water", width: 1, dash: "dot", unnamed: true } as const;
    const duties = WATER_LEVELS.flatMap((at) => {
      const outcome = solution.cases[at].outcomes[place];
      const duty = outcome && settledDuty(outcome);
      return duty ? [{ at, ...duty }] : [];
    });
    drawn.push(
      curve(`Line, ${names.low}`, lineAt("low"), edge),
      curve(`Line, ${names.high}`, lineAt("high"), { ...edge, fill: 0.14 }),
      curve("Line", lineAt("normal"), { ink: "water", width: 3 }),
      {
        as: "marks",
        name: of ? "Duty" : "Asked",
        ink: "ink",
        hollow: true,
        size: duties.map(({ at }) => (at === "normal" ? 13 : 8)),
        points: duties.map((duty) => ({
          ...{ x: q(duty.flow), y: h(duty.head), says: `${names[duty.at]}<br>${says(duty)}` },
        })),
      },
    );
  }
  if (of && installed) {
    const { headFactor: strength, from, to } = installed;
    const flows = steps(Math.max(from, of.curve.firstFlow), Math.min(to, of.curve.lastFlow), 60);
    const heads = (factor: number) =>
      flows.map((flow) => ({ flow, head: factor * evaluate(of.curve.head, flow) }));
    const spread = COVERAGE * strength.standardUncertainty;
    drawn.push(
      ...between("As measured", [heads(strength.value - spread), heads(strength.value + spread)], {
        ink: "signal",
        fill: 0.2,
        unnamed: true,
      }),
      curve("This pump as measured", heads(strength.value), {
        ink: "signal",
        width: 2,
        dash: "dash",
      }),
    );
  }
  for (const point of measured) {
    drawn.push({
      as: "curve",
      name: point.name,
      ink: "signal",
      unnamed: true,
      closed: true,
      width: point.now ? 2 : 1.2,
      fill: point.now ? 0.16 : 0.07,
      points: points(ellipse(point), true),
    });
  }
  if (measured.length > 0) {
    drawn.push({
      as: "marks",
      name: "Measured",
      ink: "signal",
      shape: "diamond",
      size: measured.map(({ now }) => (now ? 13 : 10)),
      hollow: measured.map(({ now }) => !now),
      points: measured.map((own) => ({
        ...{ x: q(own.flow), y: h(own.head), says: `${own.name}<br>${says(own)}` },
      })),
    });
  }
  return {
    x: { title: `Flow, ${SHOWN[units].flow}`, range: [0, q(mostFlow * 1.12)] },
    y: { title: `Total head, ${SHOWN[units].head}`, range: [0, h(topHead * 1.12)] },
    drawn,
    shades: [
      ...(of ? [bestRegion(of.curve, q)] : []),
      ...(band
        ? [
            {
              x: [q(band.flow.low), q(band.flow.high)],
              y: [h(band.head.low), h(band.head.high)],
              ink: "ink",
              opacity: 0.06,
              outlined: true,
            } as const,
          ]
        : []),
    ],
  };
}

/** The flows a pump is best run at. */
function bestRegion(curve: PumpCurve, q: (si: number) => number): Shade {
  const { flow, basis } = bestEfficiencyFlow(curve);
  const to = Math.min(flow * LIMITS.regionHigh, curve.lastFlow);
  return {
    x: [q(flow * LIMITS.regionLow), q(to)],
    ink: "soft",
    opacity: 0.09,
    name: basis === "power" ? "best region" : "best region (guess)",
  };
}

/** Where nineteen of twenty readings of flow and head together would lie, to first order. */
function ellipse({ flow, head, flowUncertainty, headUncertainty, correlation = 0 }: MeasuredPoint) {
  const along = Math.sqrt(1 - Math.min(correlation ** 2, 1));
  return steps(0, 2 * Math.PI, 36).map((angle) => {
    const [x, y] = [Math.cos(angle), Math.sin(angle)];
    return {
      flow: flow + BOTH_COVERAGE * flowUncertainty * x,
      head: head + BOTH_COVERAGE * headUncertainty * (correlation * x + along * y),
    };
  });
}
/** √χ² of two degrees of freedom at 95 %. */
const BOTH_COVERAGE = 2.448;
