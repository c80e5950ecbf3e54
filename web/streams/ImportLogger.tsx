import { useMemo, useRef, useState } from "react";
import {
  CHANNEL_NAMES,
  CHANNELS,
  type ChannelName,
  MOST_SAMPLES,
} from "#contract/streams/stream.ts";
import { type LoggerColumn, retaken, unitsOf } from "#model/import/loggerTable.ts";
import { api, newId } from "../api/client.ts";
import { retrying } from "../api/retrying.ts";
import { Reading } from "../exchange/Reading.tsx";
import { Sending } from "../exchange/Sending.tsx";
import { type Progress, whyNot } from "../exchange/takeIn.ts";
import { useTable } from "../exchange/useTable.ts";
import { readTextFile } from "../lib/readTextFile.ts";
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
  const [text, setText] = useState<string>();
  const [said, setSaid] = useState<LoggerColumn[]>();
  const [name, setName] = useState("");
  const [start, setStart] = useState(() => new Date().toISOString().slice(0, 16));
  const [ahead, setAhead] = useState(0);
  const [tolerance, setTolerance] = useState(0.01);
  const [sending, setSending] = useState<Progress>();
  const [problem, setProblem] = useState<string>();
  const stop = useRef<AbortController>(undefined);
  const from = useMemo(() => new Date(start), [start]);
  const { value, progress, error } = useTable(
    "logger",
    text === undefined ? undefined : [text, said, from, ahead],
  );
  const reading = progress < 1;
  const read = value && { ...value, columns: said ?? value.columns };

  async function send(): Promise<void> {
    if (!read) return;
    const { samples, channels } = read;
    const of = samples.length;
    stop.current = new AbortController();
    const { signal } = stop.current;
    setProblem(undefined);
    setSending({ sent: 0, of });
    const id = newId();
    let made = false;
    try {
      const { token } = await api.makeStream(id, {
        name: name || "Logger’s file",
        jobId,
        channels: channels.map((reads) => ({ reads, tolerance })),
      });
      made = true;
      for (let sent = 0; sent < of; sent += MOST_SAMPLES) {
        const piece = samples.slice(sent, sent + MOST_SAMPLES);
        await retrying(
          () => api.sendSamples(id, token, piece),
          signal,
          (waiting) => setSending({ sent, of, ...(waiting && { waiting }) }),
        );
        setSending({ sent: Math.min(sent + MOST_SAMPLES, of), of });
      }
      onMade(id);
    } catch (failed) {
      // Half a record would pass for a whole one.
      if (made) await api.removeStream(id).catch(() => undefined);
      setProblem(whyNot("Nothing was taken.", failed));
      setSending(undefined);
    }
  }
  const close = () => {
    stop.current?.abort();
    onClose();
  };

  const set = (i: number, by: (column: LoggerColumn) => LoggerColumn) =>
    setSaid(read?.columns.map((own, k) => (k === i ? by(own) : own)));
  return (
    <Dialog open title="Read in a logger’s file" onClose={close} wide>
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
            setSaid(undefined);
            setText(await readTextFile(file));
          }}
        />
        {read && (
          <>
            <ul className="grid gap-1.5">
              {read.columns.map((column, i) => (
                <li key={i} className="grid grid-cols-[1.2fr_1fr_0.7fr] items-end gap-2">
                  <span className="truncate py-2 text-[15px]">
                    {column.heading} <span className="text-soft">{read.first[i] ?? ""}</span>
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
            {sending ? (
              <Sending progress={sending} onCancel={() => stop.current?.abort()} />
            ) : (
              <div>
                <Button
                  look="strong"
                  disabled={read.samples.length === 0 || read.channels.length === 0 || reading}
                  onClick={() => void send()}
                >
                  Read it in
                </Button>
              </div>
            )}
          </>
        )}
        <Reading progress={progress} />
        {(problem ?? error) && (
          <p role="alert" className="font-medium text-signal">
            {problem ?? error}
          </p>
        )}
      </div>
    </Dialog>
  );
}
