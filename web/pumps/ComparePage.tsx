import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useSearchParams } from "react-router";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import { evaluate } from "#core/numeric/monotoneCubic.ts";
import { bestEfficiencyFlow, powerAt, publishedValue, pumpCurve } from "#core/pump/curve.ts";
import { GRAVITY } from "#core/quantity/constants.ts";
import { PLATE_FIELDS, valueAt } from "#model/import/pumpTable/fields.ts";
import { plateValue } from "#words/plate.ts";
import { allPumps } from "../api/queries.ts";
import { CurvesPlot } from "../charts/CurvesPlot.tsx";
import { useUnits } from "../state/settings.ts";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";

/** kg/m³ of the water a published efficiency is told for */
const WATER = 998.2;

/** Up to three pumps on one sheet: their curves over each other, and their plates field by field. */
export default function ComparePage() {
  const [params] = useSearchParams();
  const query = useQuery(allPumps);
  const asked = params.get("of") ?? "";
  const pumps = useMemo(() => {
    const known = new Map((query.data ?? []).map(({ document }) => [document.id, document]));
    return asked
      .split(",")
      .flatMap((id) => known.get(id) ?? [])
      .slice(0, 3);
  }, [query.data, asked]);
  if (query.isPending) return <Loading what="the pumps" />;
  if (query.isError) return <Trouble error={query.error} onRetry={() => void query.refetch()} />;
  if (pumps.length === 0) {
    return (
      <Empty title="Nothing to compare">
        <p>
          Tick up to three pumps in the{" "}
          <Link to="/pumps" className="underline">
            pump library
          </Link>
          .
        </p>
      </Empty>
    );
  }
  return <Sheet pumps={pumps} />;
}

function Sheet({ pumps }: { pumps: readonly PumpDocument[] }) {
  const units = useUnits();
  const rows = useMemo(
    () => [
      ...figures(pumps, units),
      ...PLATE_FIELDS.filter(({ part }) => part !== "name").flatMap(({ path, name, kind }) => {
        const values = pumps.map((pump) => valueAt(pump, path));
        if (values.every((value) => value === undefined)) return [];
        return [
          {
            name,
            values: values.map((value) =>
              value === undefined ? "–" : plateValue(kind, path, value, units),
            ),
          },
        ];
      }),
    ],
    [pumps, units],
  );
  return (
    <div className="relative h-full overflow-y-auto">
      <div className="mx-auto grid max-w-5xl gap-3 p-4">
        <h1 className="text-3xl">Side by side</h1>
        <div className="h-80">
          <CurvesPlot pumps={pumps} />
        </div>
        <table className="w-full table-fixed" aria-label="Side by side">
          <thead>
            <tr>
              <th className="w-40 text-left text-[13px] font-normal text-soft max-sm:w-24">
                Plate
              </th>
              {pumps.map(({ id, maker, model }) => (
                <th key={id} scope="col" className="text-right">
                  <Link to={`/pumps/${id}`} className="plate text-[20px] hover:underline">
                    {maker} {model}
                  </Link>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ name, values }) => {
              const alike = new Set(values).size === 1;
              return (
                <tr key={name} className="border-t border-rule">
                  <th scope="row" className="py-1 text-left text-[14px] font-normal text-soft">
                    {name}
                  </th>
                  {values.map((value, i) => (
                    <td
                      key={pumps[i]?.id}
                      className={`text-right ${alike && pumps.length > 1 ? "text-soft" : "font-medium"}`}
                    >
                      {value}
                    </td>
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
        <p className="text-[13px] text-soft">What all of them share is in grey.</p>
      </div>
    </div>
  );
}

/** What their curves say. */
function figures(pumps: readonly PumpDocument[], units: "us" | "metric") {
  const of = (say: (pump: PumpDocument) => string) => pumps.map(say);
  const curveOf = (pump: PumpDocument) => pumpCurve(pump);
  return [
    {
      name: "Shut-off head",
      values: of((pump) => format(curveOf(pump).head.y[0] ?? 0, "head", units)),
    },
    {
      name: "Best flow",
      values: of((pump) => format(bestEfficiencyFlow(curveOf(pump)).flow, "flow", units)),
    },
    {
      name: "Head there",
      values: of((pump) => {
        const curve = curveOf(pump);
        return format(evaluate(curve.head, bestEfficiencyFlow(curve).flow), "head", units);
      }),
    },
    { name: "Last flow", values: of((pump) => format(curveOf(pump).lastFlow, "flow", units)) },
    {
      name: "Best efficiency, from the plug or the shaft",
      values: of((pump) => {
        const curve = curveOf(pump);
        const { flow } = bestEfficiencyFlow(curve);
        const power = publishedValue(powerAt(curve, flow));
        if (power === undefined) return "–";
        return formatPercent((WATER * GRAVITY * flow * evaluate(curve.head, flow)) / power);
      }),
    },
  ];
}
