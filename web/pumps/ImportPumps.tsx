import { useRef, useState } from "react";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { PUMP_COLUMNS } from "#model/import/pumpTable/columns.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { newId } from "../api/client.ts";
import { allPumps, queries } from "../api/queries.ts";
import { Reading } from "../exchange/Reading.tsx";
import { Sending } from "../exchange/Sending.tsx";
import { type Progress, takeIn, whyNot } from "../exchange/takeIn.ts";
import { useTable } from "../exchange/useTable.ts";
import { readTextFile } from "../lib/readTextFile.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { SelectField } from "../ui/Fields.tsx";
import { toast } from "../ui/toast.ts";

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
  const [pasted, setPasted] = useState("");
  // Not shown: a hundred thousand rows are no text to edit.
  const [file, setFile] = useState<string>();
  const text = file ?? pasted;
  const [paths, setPaths] = useState<Record<number, string>>({});
  const [sending, setSending] = useState<Progress>();
  const [problem, setProblem] = useState<string>();
  // A row keeps its id while its columns are being said, and the import its own while it is tried again.
  const [ids] = useState(newId);
  const stop = useRef<AbortController>(undefined);
  const { value, progress, error } = useTable(
    "pumps",
    text.trim() === "" ? undefined : [text, paths, units, ids, known],
  );
  const { columns = [], pumps = [], becomes = [], refused = [] } = value ?? {};
  const reading = progress < 1;
  const count = (which: (typeof becomes)[number]) => becomes.filter((own) => own === which).length;

  async function take(): Promise<void> {
    stop.current = new AbortController();
    setProblem(undefined);
    setSending({ sent: 0, of: pumps.length });
    try {
      const documents = pumps.map((document) => ({
        collection: "pumps" as const,
        ...{ id: document.id, document },
      }));
      const done = await takeIn(newId(), documents, stop.current.signal, setSending);
      await queries.invalidateQueries({ queryKey: allPumps.queryKey });
      toast(`${done.added} added, ${done.changed} changed, ${done.same} as they were.`);
      onClose();
    } catch (failed) {
      setProblem(whyNot("Nothing was read in.", failed));
      setSending(undefined);
    }
  }
  const close = () => {
    stop.current?.abort();
    onClose();
  };

  return (
    <Dialog open onClose={close} title="Read pumps in" wide>
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
              setPasted("");
              setFile(undefined);
              if (chosen) void readTextFile(chosen).then(setFile);
            }}
          />
        </label>
        <label className="text-[14px]">
          <span className="block text-[13px] text-soft">or pasted</span>
          <textarea
            className="entry mt-1 min-h-24 font-mono text-[13px]"
            value={pasted}
            placeholder={"Maker,Model,Kind,Max flow (gpm),Max head (ft)\n"}
            onChange={(event) => {
              setFile(undefined);
              setPasted(event.target.value);
            }}
          />
        </label>
        {columns.length > 0 && (
          <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
            {columns.map((column, i) => (
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
              {refused.slice(0, SHOWN).map(({ row, name, reasons }) => (
                <li key={row}>
                  <strong>
                    Row {row}
                    {name && `, ${name}`}:
                  </strong>{" "}
                  {reasons.join(" ")}
                </li>
              ))}
              {refused.length > SHOWN && <li>and {refused.length - SHOWN} more</li>}
            </ul>
          </section>
        )}
        {pumps.length > 0 && (
          <section aria-label="To be read in" className="text-[14px]">
            <h3 className="plate text-[18px]">
              {count("new")} new, {count("changes")} changed, {count("same")} as they are
            </h3>
            <ul className="grid">
              {pumps.slice(0, SHOWN).map((pump, i) => (
                <li key={pump.id} className="border-t border-rule py-1">
                  {pump.maker} {pump.model}{" "}
                  <span className="text-soft">
                    {PUMP_KINDS[pump.kind]}, {pump.points.length} points, {becomes[i]}
                  </span>
                </li>
              ))}
              {pumps.length > SHOWN && <li>and {pumps.length - SHOWN} more</li>}
            </ul>
          </section>
        )}
        <Reading progress={progress} />
        {(problem ?? error) && (
          <p role="alert" className="text-signal">
            {problem ?? error}
          </p>
        )}
        {sending ? (
          <Sending progress={sending} onCancel={() => stop.current?.abort()} />
        ) : (
          <div className="flex gap-2">
            <Button
              look="strong"
              disabled={pumps.length === 0 || reading}
              onClick={() => void take()}
            >
              {refused.length > 0 && pumps.length > 0
                ? `Read in the other ${pumps.length}`
                : `Read in ${pumps.length || ""}`}
            </Button>
            <Button onClick={close}>Cancel</Button>
          </div>
        )}
      </div>
    </Dialog>
  );
}
