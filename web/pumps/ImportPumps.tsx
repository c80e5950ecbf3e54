import { useRef, useState } from "react";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { PUMP_COLUMNS } from "#model/import/pumpTable/columns.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { newId } from "../api/client.ts";
import { allPumps, queries } from "../api/queries.ts";
import { Columns } from "../exchange/Columns.tsx";
import { Reading } from "../exchange/Reading.tsx";
import { RefusedRows } from "../exchange/RefusedRows.tsx";
import { Sending } from "../exchange/Sending.tsx";
import { TableSource } from "../exchange/TableSource.tsx";
import { type Progress, takeIn, whyNot } from "../exchange/takeIn.ts";
import { useSaid } from "../exchange/useSaid.ts";
import { useTable } from "../exchange/useTable.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
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
  const [text, setText] = useState("");
  const [said, say] = useSaid(text);
  const [sending, setSending] = useState<Progress>();
  const [problem, setProblem] = useState<string>();
  // A row keeps its id while its columns are being said, and the import its own while it is tried again.
  const [ids] = useState(newId);
  const stop = useRef<AbortController>(undefined);
  const { value, progress, error } = useTable(
    "pumps",
    text.trim() === "" ? undefined : [text, said, units, ids, known],
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
        <TableSource
          says="A row for each pump, headings above; units in the headings or the cells. Or pumps in their own format, JSON."
          label="CSV or JSON file"
          accept=".csv,.txt,.json,text/csv,text/plain,application/json"
          placeholder={"Maker,Model,Kind,Max flow (gpm),Max head (ft)\n"}
          onText={setText}
        />
        {columns.length > 0 && (
          <Columns columns={columns} holdings={PUMP_COLUMNS} many onSaid={say} />
        )}
        <RefusedRows
          refused={refused.map(({ row, name, reasons }) => ({
            ...{ row, why: reasons.join(" "), ...(name && { column: name }) },
          }))}
        />
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
