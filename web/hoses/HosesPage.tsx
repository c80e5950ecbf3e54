import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef } from "react";
import { useSearchParams } from "react-router";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import { findPipeStock } from "#core/catalogue/pipes.ts";
import { compareHoses, type HoseRow, type HoseSupply } from "#core/whatif/hoses.ts";
import { duration } from "#words/duration.ts";
import { stockName, UNSETTLED } from "#words/items.ts";
import { allPumps } from "../api/queries.ts";
import { useUnits } from "../state/settings.ts";
import { SelectField } from "../ui/Fields.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";
import { TimedHoses } from "./TimedHoses.tsx";

/** Small to large, inch and metric side by side. */
const HOSES = [
  "garden-hose-12mm",
  "garden-hose-5-8in",
  "garden-hose-18mm",
  "garden-hose-3-4in",
  "garden-hose-25mm",
  "sump-hose-1-1-4in",
  "sump-hose-1-1-2in",
  "sump-hose-2in",
].flatMap((id) => findPipeStock(id) ?? []);

const JOINTS = {
  "barbed-coupling": "barbed, thin wall",
  "barbed-coupling-narrow": "barbed, thick wall",
  "lever-coupling": "lever, full bore",
} as const;

/** SI; kept in the address, so that a link shows the same hoses. */
const USUAL = {
  metric: { p: 300_000, q: 0.6e-3, length: 30, rise: 0, section: 6, volume: 0 },
  us: { p: 50 * 6894.757, q: 0.6e-3, length: 30.48, rise: 0, section: 6.096, volume: 0 },
};
type Key = keyof (typeof USUAL)["metric"];

/** What each hose would carry from a tap or a pump, before one is bought or dragged out of the van. */
/** K: what comes out of a house tap, near enough */
const WATER_TEMPERATURE = 288.15;

export default function HosesPage() {
  const units = useUnits();
  const library = useQuery(allPumps);
  const [params, setParams] = useSearchParams();
  // What was typed last, before the page has been drawn with it: two entries in one breath are both kept.
  const latest = useRef(params);
  useEffect(() => {
    latest.current = params;
  }, [params]);
  const set = (name: string, value: string) => {
    const next = new URLSearchParams(latest.current);
    next.set(name, value);
    latest.current = next;
    setParams(next, { replace: true });
  };
  const value = (key: Key) => {
    const typed = Number(params.get(key) ?? Number.NaN);
    return Number.isFinite(typed) ? typed : USUAL[units][key];
  };
  const field = (key: Key) => ({
    value: value(key),
    onChange: (si: number) => set(key, String(si)),
  });
  const from = params.get("from") ?? "tap";
  const joint = params.get("joint") ?? "barbed-coupling";
  const pump = library.data?.find(({ id }) => id === from)?.document;
  const [p, q, length, rise, section] = (["p", "q", "length", "rise", "section"] as const).map(
    value,
  ) as [number, number, number, number, number];
  const rows = useMemo(() => {
    const supply: HoseSupply = pump
      ? { kind: "pump", pump }
      : { kind: "tap", pressure: p, openFlow: q };
    return compareHoses(supply, { length, rise, section, joint }, HOSES, WATER_TEMPERATURE);
  }, [pump, p, q, length, rise, section, joint]);

  if (library.isPending) return <Loading what="the pump library" />;
  if (library.isError)
    return <Trouble error={library.error} onRetry={() => void library.refetch()} />;
  const least = rows.find((row) => row.flow !== undefined)?.flow;
  const most = Math.max(...rows.map((row) => row.flow ?? 0));
  return (
    <div className="h-full overflow-y-auto p-4">
      <h1 className="plate mb-1 text-3xl">Hoses side by side</h1>
      <p className="mb-3 text-soft">
        What each would carry from one tap or one pump, and what to bring.
      </p>
      <div className="grid max-w-5xl grid-cols-2 gap-2 sm:grid-cols-5">
        <SelectField
          className="col-span-2"
          label="Water comes from"
          visibleLabel
          value={pump ? from : "tap"}
          onChange={(next) => set("from", next)}
        >
          <option value="tap">a house tap</option>
          {library.data.map(({ id, document }) => (
            <option key={id} value={id}>
              {document.maker} {document.model}
            </option>
          ))}
        </SelectField>
        {!pump && (
          <>
            <QuantityField
              label="Pressure, tap shut"
              quantity="pressure"
              range={RANGES.emitterPressure}
              {...field("p")}
            />
            <QuantityField
              label="Flow, tap open, no hose"
              quantity="flow"
              range={RANGES.emitterFlow}
              {...field("q")}
            />
          </>
        )}
        <QuantityField
          label="Water to move"
          optional
          quantity="volume"
          range={RANGES.jobVolume}
          value={value("volume") > 0 ? value("volume") : undefined}
          onChange={(volume) => set("volume", String(volume ?? 0))}
        />
        <QuantityField
          label="Length"
          quantity="length"
          range={RANGES.length}
          {...field("length")}
        />
        <QuantityField
          label={pump ? "Outlet above the water" : "Outlet above the tap"}
          quantity="length"
          range={RANGES.rise}
          {...field("rise")}
        />
        <QuantityField
          label="One piece is"
          quantity="length"
          range={RANGES.length}
          {...field("section")}
        />
        <SelectField
          label="Couplings"
          visibleLabel
          value={joint}
          onChange={(next) => set("joint", next)}
        >
          {Object.entries(JOINTS).map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </SelectField>
      </div>
      <div className="mt-4 max-w-5xl overflow-x-auto">
        <table className="w-full text-[15px]" aria-label="Hoses compared">
          <thead className="text-right text-[13px] text-soft">
            <tr>
              <th className="py-1 text-left font-normal">Hose</th>
              <th className="pl-3 font-normal">Flow</th>
              <th className="w-[18%] pl-3 font-normal max-sm:hidden">
                <span className="sr-only">Flow as a bar</span>
              </th>
              <th className="pl-3 font-normal">Times the least</th>
              <th className="pl-3 font-normal max-sm:hidden">Velocity</th>
              <th className="pl-3 font-normal max-sm:hidden">Joints take</th>
              <th className="pl-3 font-normal max-sm:hidden">Price</th>
              {value("volume") > 0 && <th className="pl-3 font-normal">Time</th>}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <HoseLine
                key={row.stock.id}
                {...{ row, least, most, units }}
                volume={value("volume")}
              />
            ))}
          </tbody>
        </table>
      </div>
      <TimedHoses {...{ rows, params, set }} />
      <p className="mt-3 max-w-3xl text-[13px] text-soft">
        Water at 15 °C, Darcy–Weisbach; the outlet open. A tap’s own plumbing takes what its shut
        pressure and open flow say, so a fatter hose can never give more than the open tap. Prices
        are invented. A hose end under pressure whips: hold or weigh it down. Let no hose hang in a
        drinking-water line without backflow protection; local rules and licensed people decide.
      </p>
    </div>
  );
}

function counted(number: number, what: string): string {
  return `${number} ${what}${number === 1 ? "" : "s"}`;
}

function HoseLine({
  row,
  least,
  most,
  units,
  volume,
}: {
  row: HoseRow;
  least: number | undefined;
  most: number;
  units: "us" | "metric";
  volume: number;
}) {
  const { stock, flow, velocity, jointShare, sections, couplings, clamps, price } = row;
  return (
    <tr className="border-t border-rule text-right">
      <th className="plate py-1.5 text-left text-[18px] whitespace-nowrap">
        {stockName(stock.id)}
        <span className="block font-sans text-[13px] font-normal text-soft">
          {counted(sections, "piece")}, {counted(couplings, "coupling")}, {counted(clamps, "clamp")}
        </span>
      </th>
      <td className="plate pl-3 text-[20px] whitespace-nowrap">
        {flow === undefined ? UNSETTLED[row.outcome] : format(flow, "flow", units)}
      </td>
      <td className="pl-3 max-sm:hidden" aria-hidden>
        <span className="block h-3 bg-press">
          <span
            className="block h-3 bg-water"
            style={{ width: `${most > 0 ? ((flow ?? 0) / most) * 100 : 0}%` }}
          />
        </span>
      </td>
      <td className="pl-3">
        {flow !== undefined && least ? `× ${(flow / least).toFixed(1)}` : "–"}
      </td>
      <td className="pl-3 whitespace-nowrap max-sm:hidden">
        {velocity === undefined ? "–" : format(velocity, "velocity", units)}
      </td>
      <td className="pl-3 max-sm:hidden">
        {jointShare === undefined ? "–" : `${Math.round(jointShare * 100)} %`}
      </td>
      <td className="pl-3 max-sm:hidden">{price.toFixed(0)}</td>
      {volume > 0 && (
        <td className="pl-3 whitespace-nowrap">{flow ? duration(volume / flow) : "–"}</td>
      )}
    </tr>
  );
}
