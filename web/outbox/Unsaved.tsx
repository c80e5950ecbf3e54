import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { toast } from "sonner";
import type { JobDocument } from "#contract/documents/job.ts";
import { api, newId } from "../api/client.ts";
import { downloadJob } from "../job/downloadJob.ts";
import { Button } from "../ui/Button.tsx";
import { type Entry, letGo, onChange, unattended } from "./outbox.ts";

/** ms that a change may take to be saved before it is news */
const MOMENT = 3000;

/** What this device holds and no open page is at work on: of one job, or of all. */
export function useUnsaved(id?: string): Entry[] {
  const [held, setHeld] = useState<Entry[]>([]);
  useEffect(() => {
    let gone = false;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = async () => {
      const found = (await unattended()).filter((entry) => id === undefined || entry.id === id);
      if (gone) return;
      // What was typed a moment ago is on its way, and no news.
      const isNews = ({ state, at }: Entry) =>
        state !== "waiting" || Date.now() - Date.parse(at) > MOMENT;
      setHeld((before) => {
        const now = found.filter(isNews);
        return before.length === 0 && now.length === 0 ? before : now;
      });
      clearTimeout(timer);
      if (!found.every(isNews)) timer = setTimeout(() => void look(), MOMENT);
    };
    void look();
    const stop = onChange(() => void look());
    return () => {
      gone = true;
      clearTimeout(timer);
      stop();
    };
  }, [id]);
  return held;
}

/** Changes that are on this device alone, each with what can be done about it. */
export function Unsaved({ held, linked }: { held: readonly Entry[]; linked: boolean }) {
  if (held.length === 0) return null;
  return (
    <section
      aria-label="Not saved yet"
      className="mb-3 rounded border-2 border-signal bg-sheet p-3"
    >
      <h2 className="plate text-[20px] text-signal">On this device only</h2>
      <ul className="mt-1 grid gap-3">
        {held.map((entry) => (
          <li key={entry.key}>
            <p>
              <span className="font-medium">{entry.document.name}</span>, changed{" "}
              {new Date(entry.at).toLocaleString()}: {STATES[entry.state]}
              {entry.state === "refused" && ` ${entry.message}`}
            </p>
            <div className="mt-1 flex flex-wrap gap-2">
              {linked && (
                <Link
                  to={`/jobs/${entry.id}`}
                  className="target inline-flex items-center rounded border border-rule px-3 hover:bg-press"
                >
                  Open the job with it
                </Link>
              )}
              <KeepAsNew entry={entry} />
              <Button onClick={() => downloadJob(entry.document)}>Download as a file</Button>
              <Discard entry={entry} />
            </div>
          </li>
        ))}
      </ul>
    </section>
  );
}

const STATES = {
  waiting: "not sent yet; it is tried again by itself.",
  conflict: "the job was changed or deleted somewhere else meanwhile.",
  refused: "the server did not take it.",
} as const;

function KeepAsNew({ entry }: { entry: Entry }) {
  const navigate = useNavigate();
  return (
    <Button
      onClick={() =>
        void (async () => {
          try {
            const document = entry.document as JobDocument;
            const stored = await api.save("jobs", newId(), 0, document);
            await letGo(entry.key);
            await navigate(`/jobs/${stored.id}`);
          } catch (error) {
            toast.error((error as Error).message);
          }
        })()
      }
    >
      Keep as a job of its own
    </Button>
  );
}

/** Throwing away asks once more, in its own place. */
function Discard({ entry }: { entry: Entry }) {
  const [asking, setAsking] = useState(false);
  return asking ? (
    <Button look="strong" onClick={() => void letGo(entry.key)}>
      Throw it away for good
    </Button>
  ) : (
    <Button onClick={() => setAsking(true)}>Throw away …</Button>
  );
}
