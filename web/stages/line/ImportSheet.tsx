import { useId, useMemo, useState } from "react";
import { type JobPathItem, MOST_PARTS } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import { everyItem } from "#core/line/path.ts";
import { ROLES, type Role, type Run, readTable, runsFrom } from "#model/import/readProfile.ts";
import { thinProfile } from "#model/import/thinProfile.ts";
import { stockName } from "#words/items.ts";
import { newId } from "../../api/client.ts";
import { STOCK_OPTIONS } from "../../jobFields/choices.ts";
import { readTextFile } from "../../lib/readTextFile.ts";
import { edit, useJobStore } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { SelectField } from "../../ui/Fields.tsx";
import { SearchField } from "../../ui/SearchField.tsx";

interface Props {
  /** size the runs are laid in unless another is chosen */
  stock: string;
  /** the rows of this side of the line, and where they begin on the path */
  at: { start: number; items: readonly JobPathItem[] };
  onClose: () => void;
}

const ROLE_NAMES: Record<Role, string> = {
  distance: "distance along",
  height: "height or level",
  length: "length of run",
  rise: "rise of run",
  ignored: "not used",
};

/** Runs out of a spreadsheet or a surveyed profile. */
export default function ImportSheet({ stock: usual, at, onClose }: Props) {
  const units = useUnits();
  const id = useId();
  const [text, setText] = useState("");
  const [roles, setRoles] = useState<Record<number, Role>>({});
  const [stock, setStock] = useState(usual);
  const [replaces, setReplaces] = useState(false);
  const table = useMemo(() => {
    const read = readTable(text);
    const columns = read.columns.map((column, i) => ({ ...column, role: roles[i] ?? column.role }));
    return { ...read, columns };
  }, [text, roles]);
  const reading = useMemo(() => runsFrom(table, units), [table, units]);
  const empty = text.trim() === "";
  const surveyed = reading.kind === "runs" ? reading.runs : NO_RUNS;
  const choices = useMemo(
    () => TOLERANCES.map((tolerance) => ({ tolerance, runs: thinProfile(surveyed, tolerance) })),
    [surveyed],
  );
  const [tolerance, setTolerance] = useState(0);
  const runs =
    tolerance === 0 ? surveyed : (choices.find((c) => c.tolerance === tolerance)?.runs ?? surveyed);
  const others = everyItem<JobPathItem>(useJobStore((s) => s.job.path)).length;
  const leaving = replaces ? at.items.filter(({ kind }) => kind === "pipe").length : 0;
  const room = MOST_PARTS - others + leaving;
  const tooMany = runs.length > room;

  const apply = () => {
    if (reading.kind !== "runs") return;
    const rows = runs.map((run): JobPathItem => ({ kind: "pipe", id: newId(), stock, ...run }));
    const kept = replaces ? at.items.filter(({ kind }) => kind !== "pipe") : at.items;
    edit((job) => ({
      ...job,
      path: job.path.toSpliced(at.start, at.items.length, ...kept, ...rows),
    }));
    onClose();
  };

  return (
    <Dialog open onClose={onClose} title="Paste or import runs">
      <div className="grid gap-3">
        <div>
          <label htmlFor={id} className="block text-[13px] text-soft">
            Rows from a spreadsheet: distance and height of surveyed points, or length and rise
          </label>
          <textarea
            id={id}
            className="entry mt-1 min-h-32 font-mono text-[14px]"
            value={text}
            placeholder={"Distance (m)\tHeight (m)\n0\t12.4\n35\t14.1"}
            onChange={(event) => setText(event.target.value)}
          />
        </div>
        <label className="text-[14px]">
          <span className="block text-[13px] text-soft">or a CSV file</span>
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            className="target w-full"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) void readTextFile(file).then(setText);
            }}
          />
        </label>
        {!empty && (
          <div className="grid grid-cols-2 gap-2">
            {table.columns.map((column, i) => (
              <SelectField
                key={i}
                label={column.name}
                visibleLabel
                value={column.role}
                onChange={(role) => setRoles((before) => ({ ...before, [i]: role as Role }))}
              >
                {ROLES.map((role) => (
                  <option key={role} value={role}>
                    {ROLE_NAMES[role]}
                  </option>
                ))}
              </SelectField>
            ))}
          </div>
        )}
        {!empty && reading.kind === "problems" && (
          <ul role="alert" className="grid gap-1 text-[14px] text-signal">
            {reading.problems.slice(0, 6).map((problem) => (
              <li key={problem}>{problem}</li>
            ))}
            {reading.problems.length > 6 && <li>And {reading.problems.length - 6} more.</li>}
          </ul>
        )}
        {!empty && reading.kind === "runs" && (
          <p role="status" className="text-[15px] font-medium">
            {runs.length} {runs.length === 1 ? "run" : "runs"},{" "}
            {format(sum(runs, "length"), "length", units)} long, rising{" "}
            {format(sum(runs, "rise"), "length", units)} in all
          </p>
        )}
        {surveyed.length > MANY && (
          <div>
            <SelectField
              label="Points of the survey"
              visibleLabel
              value={String(tolerance)}
              onChange={(value) => setTolerance(Number(value))}
            >
              <option value="0">all of them: {surveyed.length} runs</option>
              {choices.map((choice) => (
                <option key={choice.tolerance} value={choice.tolerance}>
                  those that matter to {format(choice.tolerance, "length", units)}:{" "}
                  {choice.runs.length} runs
                </option>
              ))}
            </SelectField>
            <p className="pt-1 text-[13px] text-soft">
              Left out are points whose height the straight line between their neighbours gives to
              that much. Length and rise in all stay as surveyed.
            </p>
            {tooMany && (
              <p role="alert" className="pt-1 text-[14px] text-signal">
                A line takes at most {MOST_PARTS} parts, and there is room for {Math.max(room, 0)}{" "}
                more: leave some points out.
              </p>
            )}
          </div>
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
        <div className="flex justify-end gap-2">
          <Button look="quiet" onClick={onClose}>
            Cancel
          </Button>
          <Button
            look="strong"
            disabled={empty || reading.kind !== "runs" || tooMany}
            onClick={apply}
          >
            Put them on the line
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

/** Runs from which on a survey may be thinned. */
const MANY = 100;
/** m of height by which a point may be off where it is left out */
const TOLERANCES = [0.02, 0.1, 0.5];
const NO_RUNS: readonly Run[] = [];

function sum(runs: readonly { length: number; rise: number }[], key: "length" | "rise"): number {
  return runs.reduce((total, run) => total + run[key], 0);
}
