import { useMemo, useRef, useState } from "react";
import { MOST_SAMPLES } from "#contract/streams/stream.ts";
import { LOGGER_COLUMNS } from "#model/import/loggerTable.ts";
import { api, newId } from "../api/client.ts";
import { retrying } from "../api/retrying.ts";
import { Columns } from "../exchange/Columns.tsx";
import { Reading } from "../exchange/Reading.tsx";
import { RefusedRows } from "../exchange/RefusedRows.tsx";
import { Sending } from "../exchange/Sending.tsx";
import { TableSource } from "../exchange/TableSource.tsx";
import { type Progress, whyNot } from "../exchange/takeIn.ts";
import { useSaid } from "../exchange/useSaid.ts";
import { useTable } from "../exchange/useTable.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { PercentField, TextField } from "../ui/Fields.tsx";
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
  const [text, setText] = useState("");
  const [said, say] = useSaid(text);
  const [name, setName] = useState("");
  const [start, setStart] = useState(() => new Date().toISOString().slice(0, 16));
  const [ahead, setAhead] = useState(0);
  const [tolerance, setTolerance] = useState(0.01);
  const [sending, setSending] = useState<Progress>();
  const [problem, setProblem] = useState<string>();
  const stop = useRef<AbortController>(undefined);
  const from = useMemo(() => new Date(start), [start]);
  const {
    value: read,
    progress,
    error,
  } = useTable("logger", text.trim() === "" ? undefined : [text, said, from, ahead]);
  const reading = progress < 1;

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

  return (
    <Dialog open title="Read in a logger’s file" onClose={close} wide>
      <div className="grid gap-3">
        <TableSource
          says="A row for each moment, its time first or under a heading that says so"
          label="The logger’s file"
          pastes={false}
          onText={(next, file) => {
            setText(next);
            if (file) setName(file);
          }}
        />
        {read && (
          <>
            <Columns
              columns={read.columns}
              first={read.first}
              holdings={LOGGER_COLUMNS}
              onSaid={say}
            />
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
            <RefusedRows refused={read.refused} />
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
