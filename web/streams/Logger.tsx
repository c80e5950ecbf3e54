import { useState } from "react";
import { CHANNEL_NAMES, CHANNELS, type ChannelName } from "#contract/streams/stream.ts";
import { api, newId } from "../api/client.ts";
import { Button } from "../ui/Button.tsx";
import { PercentField } from "../ui/Fields.tsx";
import { toast } from "../ui/toast.ts";

/** What a logger needs to send: which channels, how good they are, then its address and its token. */
export function Logger({ jobId, onMade }: { jobId: string; onMade: (id: string) => void }) {
  const [reads, setReads] = useState<ChannelName[]>(["flow", "discharge"]);
  const [tolerance, setTolerance] = useState(0.01);
  const [made, setMade] = useState<{ id: string; token: string }>();
  if (made) {
    const address = `${location.origin}/api/streams/${made.id}/samples`;
    const sample = JSON.stringify({
      samples: [{ n: 0, at: "2026-11-20T08:00:00Z", values: reads.map(() => 0) }],
    });
    return (
      <div className="grid gap-2 rounded border border-rule bg-sheet p-2.5 text-[14px]">
        <p className="font-medium">
          The token is shown this once. Whoever has it can send to this stream, and to nothing else.
        </p>
        <pre className="overflow-x-auto rounded bg-paper p-2 text-[13px] select-all">
          {`POST ${address}\nAuthorization: Bearer ${made.token}\nContent-Type: application/json\n\n${sample}`}
        </pre>
        <p className="text-soft">
          Values in SI, in this order:{" "}
          {reads.map((own) => CHANNELS[own].name.toLowerCase()).join(", ")}. The number n counts up,
          so that a sample sent twice is one.
        </p>
        <div>
          <Button look="strong" onClick={() => onMade(made.id)}>
            Listen
          </Button>
        </div>
      </div>
    );
  }
  return (
    <fieldset className="grid gap-2 rounded border border-rule p-2.5">
      <legend className="px-1 text-[14px]">What the logger reads</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {CHANNEL_NAMES.map((name) => (
          <label key={name} className="target flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={reads.includes(name)}
              onChange={({ target }) =>
                setReads(
                  CHANNEL_NAMES.filter((own) =>
                    own === name ? target.checked : reads.includes(own),
                  ),
                )
              }
            />
            {CHANNELS[name].name}
          </label>
        ))}
      </div>
      <div className="flex flex-wrap items-end gap-2">
        <PercentField label="Readings ±" max={50} value={tolerance} onChange={setTolerance} />
        <Button
          disabled={reads.length === 0}
          onClick={() => {
            const id = newId();
            const channels = reads.map((own) => ({ reads: own, tolerance }));
            api
              .makeStream(id, { name: "Logger", jobId, channels })
              .then(setMade, (error: Error) => toast.error(error.message));
          }}
        >
          Make its address and token
        </Button>
      </div>
    </fieldset>
  );
}
