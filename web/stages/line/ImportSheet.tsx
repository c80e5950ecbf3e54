import { useCallback, useMemo, useState } from "react";
import { type JobPathItem, MOST_PARTS } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import { everyItem } from "#core/line/path.ts";
import { PROFILE_COLUMNS, PROFILE_ORDER, type Run, runsFrom } from "#model/import/readProfile.ts";
import type { Table } from "#model/import/table.ts";
import { thinProfile } from "#model/import/thinProfile.ts";
import { stockName } from "#words/items.ts";
import { newId } from "../../api/client.ts";
import { ImportTable } from "../../exchange/ImportTable.tsx";
import { STOCK_OPTIONS } from "../../jobFields/choices.ts";
import { edit, useJobStore } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { SelectField } from "../../ui/Fields.tsx";
import { SearchField } from "../../ui/SearchField.tsx";

interface Props {
  /** size the runs are laid in unless another is chosen */
  stock: string;
  /** the rows of this side of the line, and where they begin on the path */
  at: { start: number; items: readonly JobPathItem[] };
  onClose: () => void;
}

/** Runs out of a spreadsheet or a surveyed profile. */
export default function ImportSheet({ stock: usual, at, onClose }: Props) {
  const units = useUnits();
  const [stock, setStock] = useState(usual);
  const [replaces, setReplaces] = useState(false);
  const [tolerance, setTolerance] = useState(0);
  const others = everyItem<JobPathItem>(useJobStore((s) => s.job.path)).length;
  const leaving = replaces ? at.items.filter(({ kind }) => kind === "pipe").length : 0;
  const room = MOST_PARTS - others + leaving;
  const thinned = (surveyed: Run[]) =>
    tolerance === 0 ? surveyed : thinProfile(surveyed, tolerance);
  const read = useCallback((table: Table) => runsFrom(table, units), [units]);
  const lay = (surveyed: Run[]) => {
    const rows = thinned(surveyed).map(
      (run): JobPathItem => ({ kind: "pipe", id: newId(), stock, ...run }),
    );
    const kept = replaces ? at.items.filter(({ kind }) => kind !== "pipe") : at.items;
    edit((job) => ({
      ...job,
      path: job.path.toSpliced(at.start, at.items.length, ...kept, ...rows),
    }));
  };
  return (
    <ImportTable
      title="Paste or import runs"
      says="A row for each: distance and height of surveyed points, or length and rise"
      placeholder={"Distance (m)\tHeight (m)\n0\t12.4\n35\t14.1"}
      holdings={PROFILE_COLUMNS}
      order={PROFILE_ORDER}
      read={read}
      take="Put them on the line"
      mayTake={(surveyed) => thinned(surveyed).length <= room}
      onTake={lay}
      onClose={onClose}
      shown={(surveyed) => {
        const runs = thinned(surveyed);
        return (
          <>
            <p role="status" className="text-[15px] font-medium">
              {runs.length} {runs.length === 1 ? "run" : "runs"},{" "}
              {format(sum(runs, "length"), "length", units)} long, rising{" "}
              {format(sum(runs, "rise"), "length", units)} in all
            </p>
            {surveyed.length > MANY && <Thinned {...{ surveyed, tolerance, setTolerance }} />}
            {runs.length > room && (
              <p role="alert" className="text-[14px] text-signal">
                A line takes at most {MOST_PARTS} parts, and there is room for {Math.max(room, 0)}{" "}
                more: leave some points out.
              </p>
            )}
            <SearchField
              label="Laid in"
              visibleLabel
              shown={stockName(stock)}
              value={stock}
              options={STOCK_OPTIONS}
              onChange={setStock}
            />
            <SelectField
              label="They go"
              visibleLabel
              value={replaces ? "replace" : "after"}
              onChange={(value) => setReplaces(value === "replace")}
            >
              <option value="after">after the rows there are</option>
              <option value="replace">in place of the runs there are; fittings stay</option>
            </SelectField>
          </>
        );
      }}
    />
  );
}

/** How many points of a long survey are laid. */
function Thinned({
  surveyed,
  tolerance,
  setTolerance,
}: {
  surveyed: readonly Run[];
  tolerance: number;
  setTolerance: (tolerance: number) => void;
}) {
  const units = useUnits();
  const choices = useMemo(
    () => TOLERANCES.map((own) => ({ own, runs: thinProfile(surveyed, own).length })),
    [surveyed],
  );
  return (
    <div>
      <SelectField
        label="Points of the survey"
        visibleLabel
        value={String(tolerance)}
        onChange={(value) => setTolerance(Number(value))}
      >
        <option value="0">all of them: {surveyed.length} runs</option>
        {choices.map(({ own, runs }) => (
          <option key={own} value={own}>
            those that matter to {format(own, "length", units)}: {runs} runs
          </option>
        ))}
      </SelectField>
      <p className="pt-1 text-[13px] text-soft">
        Left out are points whose height the straight line between their neighbours gives to that
        much. Length and rise in all stay as surveyed.
      </p>
    </div>
  );
}

/** Runs from which on a survey may be thinned. */
const MANY = 100;
/** m of height by which a point may be off where it is left out */
const TOLERANCES = [0.02, 0.1, 0.5];

function sum(runs: readonly { length: number; rise: number }[], key: "length" | "rise"): number {
  return runs.reduce((total, run) => total + run[key], 0);
}
