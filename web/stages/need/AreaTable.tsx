import { useRef, useState } from "react";
import type { BodyOfWater } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { readAreas } from "#model/import/readAreas.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { readTextFile } from "../../lib/readTextFile.ts";
import { useUnits } from "../../state/settings.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { FileUp, Plus, Trash2 } from "../../ui/icons.ts";

type Rows = Extract<BodyOfWater["shape"], { kind: "table" }>["rows"];

/** Depths with the area of the water at each, by hand or from a CSV file. */
export function AreaTable({ rows, onChange }: { rows: Rows; onChange: (rows: Rows) => void }) {
  const units = useUnits();
  const file = useRef<HTMLInputElement>(null);
  const [problems, setProblems] = useState<string[]>([]);
  const put = (index: number, patch: Partial<Rows[number]>) =>
    onChange(rows.map((own, i) => (i === index ? { ...own, ...patch } : own)));
  return (
    <div className="grid gap-1">
      <div className="grid max-h-64 gap-1 overflow-y-auto">
        {rows.map((row, i) => (
          <div key={i} className="grid grid-cols-[1fr_1fr_auto] gap-2">
            <JobQuantity
              label={`Depth, row ${i + 1}`}
              visibleLabel={i === 0}
              quantity="length"
              range={RANGES.depthOrNone}
              value={row.depth}
              onChange={(depth) => put(i, { depth })}
            />
            <JobQuantity
              label={`Area, row ${i + 1}`}
              visibleLabel={i === 0}
              quantity="area"
              range={RANGES.areaOrNone}
              value={row.area}
              onChange={(area) => put(i, { area })}
            />
            <IconButton
              className="self-end"
              label={`Take row ${i + 1} out`}
              disabled={rows.length <= 2}
              onClick={() => onChange(rows.filter((_, n) => n !== i))}
            >
              <Trash2 size={16} aria-hidden />
            </IconButton>
          </div>
        ))}
      </div>
      <div className="flex flex-wrap gap-2">
        <Button
          onClick={() => {
            const last = rows.at(-1) ?? { depth: 0, area: 1 };
            onChange([...rows, { depth: last.depth + 0.5, area: last.area }]);
          }}
        >
          <Plus size={16} aria-hidden /> A row
        </Button>
        <Button onClick={() => file.current?.click()}>
          <FileUp size={16} aria-hidden /> From a CSV file
        </Button>
        <input
          ref={file}
          type="file"
          accept=".csv,text/csv,text/plain"
          aria-label="CSV file of depths and areas"
          className="hidden"
          onChange={async (event) => {
            const given = event.target.files?.[0];
            event.target.value = "";
            if (!given) return;
            const read = readAreas(await readTextFile(given), units);
            setProblems(read.kind === "problems" ? read.problems : []);
            if (read.kind === "rows") onChange(read.rows);
          }}
        />
      </div>
      {problems.length > 0 && (
        <ul role="alert" className="text-[14px] text-signal">
          {problems.slice(0, 6).map((problem) => (
            <li key={problem}>{problem}</li>
          ))}
        </ul>
      )}
    </div>
  );
}
