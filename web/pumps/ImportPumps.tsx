import { useMemo, useState } from "react";
import { toast } from "sonner";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { sameDocument } from "#contract/documents/same.ts";
import {
  type Incoming,
  PUMP_COLUMNS,
  pumpsFrom,
  type ReadPump,
  readPumpFile,
  readPumpTable,
} from "#model/pumpTable/readPumps.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { api, newId } from "../api/client.ts";
import { allPumps, queries } from "../api/queries.ts";
import { useUnits } from "../app/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { SelectField } from "../ui/Fields.tsx";

/** Rows shown of what would be imported; the rest is counted. */
const SHOWN = 30;

/** Pumps out of a CSV or JSON file: columns are said, every row is shown, what cannot be is refused with its reasons. */
export default function ImportPumps({
  known,
  onClose,
}: {
  known: readonly PumpDocument[];
  onClose: () => void;
}) {
  const units = useUnits();
  const [text, setText] = useState("");
  const [paths, setPaths] = useState<Record<number, string>>({});
  const [sending, setSending] = useState(false);
  const [problem, setProblem] = useState<string>();
  // A row keeps its id while its columns are being said.
  const [ids] = useState(() => new Map<number, string>());
  const idFor = (row: number) => {
    const id = ids.get(row) ?? newId();
    ids.set(row, id);
    return id;
  };
  const table = useMemo(() => {
    const read = readPumpTable(text);
    const columns = read.columns.map((column, i) =>
      i in paths ? { ...column, path: paths[i] || undefined } : column,
    );
    return { ...read, columns };
  }, [text, paths]);
  const file = useMemo(() => (/^\s*[[{]/.test(text) ? readPumpFile(text) : undefined), [text]);
  const stored = useMemo(() => new Map(known.map((pump) => [pump.id, pump])), [known]);
  const read = useMemo(
    (): ReadPump[] => (text.trim() === "" ? [] : (file ?? pumpsFrom(table, units, idFor, stored))),
    [text, file, table, units, stored],
  );
  const incoming = (pump: PumpDocument): Incoming => {
    const before = stored.get(pump.id);
    return !before ? "new" : sameDocument(before, pump) ? "same" : "changes";
  };
  const refused = read.flatMap((own) => (own.kind === "refused" ? [own] : []));
  const pumps = read.flatMap((own) => (own.kind === "pump" ? [own.pump] : []));
  const count = (which: Incoming) => pumps.filter((pump) => incoming(pump) === which).length;

  async function take(): Promise<void> {
    setSending(true);
    setProblem(undefined);
    try {
      const { added, changed, same } = await api.importPumps(pumps);
      await queries.invalidateQueries({ queryKey: allPumps.queryKey });
      toast(`${added} added, ${changed} changed, ${same} as they were.`);
      onClose();
    } catch (error) {
      setProblem(`Nothing was imported. ${(error as Error).message}`);
      setSending(false);
    }
  }

  return (
    <Dialog open onClose={onClose} title="Read pumps in" wide>
      <div className="grid gap-3">
        <label className="text-[14px]">
          <span className="block text-[13px] text-soft">
            A CSV or JSON file: a row for each pump, headings above; units in the headings or the
            cells
          </span>
          <input
            type="file"
            accept=".csv,.txt,.json,text/csv,text/plain,application/json"
            className="target w-full"
            onChange={(event) => {
              const chosen = event.target.files?.[0];
              setPaths({});
              if (chosen) void chosen.text().then(setText);
            }}
          />
        </label>
        <label className="text-[14px]">
          <span className="block text-[13px] text-soft">or pasted</span>
          <textarea
            className="entry mt-1 min-h-24 font-mono text-[13px]"
            value={text}
            placeholder={"Maker,Model,Kind,Max flow (gpm),Max head (ft)\n"}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        {!file && table.rows.length > 0 && (
          <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
            {table.columns.map((column, i) => (
              <SelectField
                key={i}
                label={`${column.heading || `Column ${i + 1}`}${column.units.length > 0 ? `, in ${column.units.join(", ")}` : ""}`}
                visibleLabel
                value={column.path ?? ""}
                onChange={(path) => setPaths((before) => ({ ...before, [i]: path }))}
              >
                <option value="">not used</option>
                {PUMP_COLUMNS.map(({ path, name }) => (
                  <option key={path} value={path}>
                    {name}
                  </option>
                ))}
              </SelectField>
            ))}
          </div>
        )}
        {refused.length > 0 && (
          <section aria-label="Refused rows" role="alert" className="text-[14px]">
            <h3 className="plate text-[18px] text-signal">{refused.length} refused</h3>
            <ul className="grid gap-1">
              {refused.map(({ row, name, reasons }) => (
                <li key={row}>
                  <strong>
                    Row {row}
                    {name && `, ${name}`}:
                  </strong>{" "}
                  {reasons.join(" ")}
                </li>
              ))}
            </ul>
          </section>
        )}
        {pumps.length > 0 && (
          <section aria-label="To be read in" className="text-[14px]">
            <h3 className="plate text-[18px]">
              {count("new")} new, {count("changes")} changed, {count("same")} as they are
            </h3>
            <ul className="grid">
              {pumps.slice(0, SHOWN).map((pump) => (
                <li key={pump.id} className="border-t border-rule py-1">
                  {pump.maker} {pump.model}{" "}
                  <span className="text-soft">
                    {PUMP_KINDS[pump.kind]}, {pump.points.length} points, {incoming(pump)}
                  </span>
                </li>
              ))}
              {pumps.length > SHOWN && <li>and {pumps.length - SHOWN} more</li>}
            </ul>
          </section>
        )}
        {problem && (
          <p role="alert" className="text-signal">
            {problem}
          </p>
        )}
        <div className="flex gap-2">
          <Button
            look="strong"
            disabled={pumps.length === 0 || sending}
            onClick={() => void take()}
          >
            {refused.length > 0 && pumps.length > 0
              ? `Read in the other ${pumps.length}`
              : `Read in ${pumps.length || ""}`}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </div>
    </Dialog>
  );
}
