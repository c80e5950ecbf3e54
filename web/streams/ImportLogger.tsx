import { useMemo, useState } from "react";
import {
  CHANNEL_NAMES,
  CHANNELS,
  type ChannelName,
  MOST_SAMPLES,
} from "#contract/streams/stream.ts";
import {
  type LoggerTable,
  loggerSamples,
  readLoggerTable,
  retaken,
  unitsOf,
} from "#model/loggerTable.ts";
import { api, newId } from "../api/client.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { PercentField, SelectField, TextField } from "../ui/Fields.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";

/** A logger's file as a stream of the job: its columns said, its clock put right, row by row refused with the reason. */
export default function ImportLogger({
  jobId,
  onClose,
  onMade,
}: {
  jobId: string;
  onClose: () => void;
  onMade: (id: string) => void;
}) {
  const [table, setTable] = useState<LoggerTable>();
  const [name, setName] = useState("");
  const [start, setStart] = useState(() => new Date().toISOString().slice(0, 16));
  const [ahead, setAhead] = useState(0);
  const [tolerance, setTolerance] = useState(0.01);
  const [done, setDone] = useState<number>();
  const [problem, setProblem] = useState<string>();
  const read = useMemo(
    () => table && loggerSamples(table, new Date(start), ahead),
    [table, start, ahead],
  );

  async function send(): Promise<void> {
    if (!read) return;
    setProblem(undefined);
    setDone(0);
    try {
      const id = newId();
      const channels = read.channels.map((reads) => ({ reads, tolerance }));
      const { token } = await api.makeStream(id, {
        name: name || "Logger’s file",
        jobId,
        channels,
      });
      for (let i = 0; i < read.samples.length; i += MOST_SAMPLES) {
        await api.sendSamples(id, token, read.samples.slice(i, i + MOST_SAMPLES));
        setDone(Math.min((i + MOST_SAMPLES) / read.samples.length, 1));
      }
      onMade(id);
    } catch (error) {
      setProblem(`Not all of it was taken: ${(error as Error).message}`);
      setDone(undefined);
    }
  }

  const set = (
    i: number,
    by: (column: LoggerTable["columns"][number]) => LoggerTable["columns"][number],
  ) =>
    setTable(
      (before) =>
        before && { ...before, columns: before.columns.map((own, k) => (k === i ? by(own) : own)) },
    );
  return (
    <Dialog open title="Read in a logger’s file" onClose={onClose} wide>
      <div className="grid gap-3">
        <input
          type="file"
          aria-label="The logger’s file"
          accept=".csv,.txt,text/csv,text/plain"
          className="target"
          onChange={async (event) => {
            const file = event.target.files?.[0];
            if (!file) return;
            setName(file.name);
            setTable(readLoggerTable(await file.text()));
          }}
        />
        {table && read && (
          <>
            <ul className="grid gap-1.5">
              {table.columns.map((column, i) => (
                <li key={i} className="grid grid-cols-[1.2fr_1fr_0.7fr] items-end gap-2">
                  <span className="truncate py-2 text-[15px]">
                    {column.heading} <span className="text-soft">{table.rows[0]?.[i] ?? ""}</span>
                  </span>
                  <SelectField
                    label={`“${column.heading}” is`}
                    value={column.reads ?? ""}
                    onChange={(reads) =>
                      set(i, (own) =>
                        retaken(own, (reads || undefined) as ChannelName | "time" | undefined),
                      )
                    }
                  >
                    <option value="">not used</option>
                    <option value="time">the time</option>
                    {CHANNEL_NAMES.map((own) => (
                      <option key={own} value={own}>
                        {CHANNELS[own].name}
                      </option>
                    ))}
                  </SelectField>
                  {column.reads && column.reads !== "time" ? (
                    <SelectField
                      label={`Unit of “${column.heading}”`}
                      value={column.unit}
                      onChange={(unit) => set(i, (own) => ({ ...own, unit }))}
                    >
                      {unitsOf(column.reads).map(({ symbol }) => (
                        <option key={symbol} value={symbol}>
                          {symbol}
                        </option>
                      ))}
                    </SelectField>
                  ) : (
                    <span aria-hidden />
                  )}
                </li>
              ))}
            </ul>
            <div className="grid gap-2 sm:grid-cols-3">
              <TextField label="Seconds count from" value={start} onChange={setStart} />
              <QuantityField
                label="Its clock is ahead by"
                quantity="time"
                range={{ min: -86_400, max: 86_400, what: "The time" }}
                value={ahead}
                onChange={setAhead}
              />
              <PercentField label="Readings ±" max={50} value={tolerance} onChange={setTolerance} />
            </div>
            <p role="status">
              {read.samples.length} samples can be taken
              {read.refused.length > 0 &&
                `, ${read.refused.length} ${read.refused.length === 1 ? "row" : "rows"} cannot`}
              .
            </p>
            {read.refused.slice(0, 5).map(({ row, why }) => (
              <p key={row} className="text-[14px] text-signal">
                Row {row}: {why}
              </p>
            ))}
            {done !== undefined && <progress className="w-full" value={done} max={1} />}
            {problem && <p className="font-medium text-signal">{problem}</p>}
            <div>
              <Button
                look="strong"
                disabled={
                  read.samples.length === 0 || read.channels.length === 0 || done !== undefined
                }
                onClick={() => void send()}
              >
                Read it in
              </Button>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}
