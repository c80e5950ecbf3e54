import { useState } from "react";
import { gunIssues } from "#contract/documents/gun.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import type { GunPoint } from "#core/line/path.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";
import { QuantityField } from "../../ui/QuantityField.tsx";

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
    const list = whole(next);
    if (gunIssues({ chart: list }).length === 0) onRows(list);
  };
  return (
    <div className="grid gap-1">
      {rows.map((row, i) => (
        <div key={i} className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-1.5">
          {COLUMNS.map(({ key, label, range }) => (
            <QuantityField
              key={key}
              label={i === 0 ? label : `${label}, row ${i + 1}`}
              visibleLabel={i === 0}
              quantity={key === "radius" ? "length" : key}
              optional
              range={range}
              value={row[key]}
              onChange={(value) => set(rows.with(i, { ...row, [key]: value }))}
            />
          ))}
          <IconButton label={`Take row ${i + 1} out`} onClick={() => set(rows.toSpliced(i, 1))}>
            <Trash2 size={16} aria-hidden />
          </IconButton>
        </div>
      ))}
      {issue && (
        <p role="alert" className="text-[14px] text-signal">
          {issue.message} The chart counts once it does.
        </p>
      )}
      <Button className="justify-self-start" onClick={() => setRows([...rows, {}])}>
        <Plus size={16} aria-hidden /> A row
      </Button>
    </div>
  );
}
