import { useCallback, useState } from "react";
import type { BodyOfWater } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import { AREA_COLUMNS, AREA_ORDER, readAreas } from "#model/import/readAreas.ts";
import type { Table } from "#model/import/table.ts";
import { ImportTable } from "../../exchange/ImportTable.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { FileUp } from "../../ui/icons.ts";
import { Rows } from "../../ui/Rows.tsx";

type AreaRows = Extract<BodyOfWater["shape"], { kind: "table" }>["rows"];

/** Depths with the area of the water at each, by hand or from a CSV file. */
export function AreaTable({
  rows,
  onChange,
}: {
  rows: AreaRows;
  onChange: (rows: AreaRows) => void;
}) {
  const units = useUnits();
  const [reading, setReading] = useState(false);
  const read = useCallback((table: Table) => readAreas(table, units), [units]);
  return (
    <>
      <Rows
        rows={rows}
        onChange={onChange}
        columns="grid-cols-[1fr_1fr_auto]"
        called={(_, i) => `row ${i + 1}`}
        least={2}
        tight
        add={{
          name: "A row",
          row: () => {
            const { depth, area } = rows.at(-1) ?? { depth: 0, area: 1 };
            return { depth: depth + 0.5, area };
          },
        }}
        beside={
          <Button onClick={() => setReading(true)}>
            <FileUp size={16} aria-hidden /> From a table
          </Button>
        }
      >
        {(row, set, i) => (
          <>
            <JobQuantity
              label={`Depth, row ${i + 1}`}
              visibleLabel={i === 0}
              quantity="length"
              range={RANGES.depthOrNone}
              value={row.depth}
              onChange={(depth) => set({ depth })}
            />
            <JobQuantity
              label={`Area, row ${i + 1}`}
              visibleLabel={i === 0}
              quantity="area"
              range={RANGES.areaOrNone}
              value={row.area}
              onChange={(area) => set({ area })}
            />
          </>
        )}
      </Rows>
      {reading && (
        <ImportTable
          title="Depths and areas from a table"
          says="A row for each depth from the bottom up, with the area of the water there"
          placeholder={"Depth (m)\tArea (m²)\n0\t12\n0.5\t14"}
          holdings={AREA_COLUMNS}
          order={AREA_ORDER}
          read={read}
          shown={(taken) => (
            <p role="status" className="font-medium">
              {taken.length} depths, the last {format(taken.at(-1)?.depth ?? 0, "length", units)}{" "}
              over the first
            </p>
          )}
          take="Take them"
          onTake={onChange}
          onClose={() => setReading(false)}
        />
      )}
    </>
  );
}
