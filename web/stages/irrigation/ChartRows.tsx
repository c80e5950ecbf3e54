import { useState } from "react";
import { gunIssues } from "#contract/documents/gun.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import type { GunPoint } from "#core/outlet/gun.ts";
import { QuantityField } from "../../ui/QuantityField.tsx";
import { Rows } from "../../ui/Rows.tsx";

type Row = Partial<GunPoint>;
const COLUMNS = [
  { key: "pressure", label: "Pressure", range: RANGES.emitterPressure },
  { key: "flow", label: "Flow", range: RANGES.flow },
  { key: "radius", label: "Throw", range: RANGES.throw },
] as const;

/** A maker's chart, typed row by row; it counts once every row is whole and throws rise with pressure. */
export function ChartRows({
  rows: given,
  onRows,
}: {
  rows: readonly GunPoint[];
  onRows: (rows: GunPoint[]) => void;
}) {
  const [rows, setRows] = useState<Row[]>([...given]);
  const whole = (list: readonly Row[]) =>
    list.filter(
      (row): row is GunPoint =>
        row.pressure !== undefined && row.flow !== undefined && row.radius !== undefined,
    );
  const [issue] = gunIssues({ chart: whole(rows) });
  const set = (next: Row[]) => {
    setRows(next);
    const [before, list] = [whole(rows), whole(next)];
    // A row that is not whole yet changes nothing of the chart.
    const same = list.length === before.length && list.every((row, i) => row === before[i]);
    if (!same && gunIssues({ chart: list }).length === 0) onRows(list);
  };
  return (
    <div className="grid gap-1">
      <Rows
        rows={rows}
        onChange={set}
        columns="grid-cols-[1fr_1fr_1fr_auto] gap-1.5"
        called={(_, i) => `row ${i + 1}`}
        add={{ name: "A row", row: (): Row => ({}) }}
      >
        {(row, put, i) =>
          COLUMNS.map(({ key, label, range }) => (
            <QuantityField
              key={key}
              label={i === 0 ? label : `${label}, row ${i + 1}`}
              visibleLabel={i === 0}
              quantity={key === "radius" ? "length" : key}
              optional
              range={range}
              value={row[key]}
              onChange={(value) => put({ [key]: value })}
            />
          ))
        }
      </Rows>
      {issue && (
        <p role="alert" className="text-[14px] text-signal">
          {issue.message} The chart counts once it does.
        </p>
      )}
    </div>
  );
}
