import { useRef, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, newId } from "../api/client.ts";
import { downloadJob } from "../exchange/downloadJob.ts";
import { Button } from "../ui/Button.tsx";
import { toast } from "../ui/toast.ts";
import { useLongList } from "../ui/useLongList.ts";
import { type Entry, type EntryOf, isOfJobs, letGo } from "./outbox.ts";

/** Changes that are on this device alone, each with what can be done about it. */
export function Unsaved({ held, linked }: { held: readonly Entry[]; linked: boolean }) {
  return held.length === 0 ? null : <Rows {...{ held, linked }} />;
}

/** px of a row nobody has seen yet */
const ROW = 100;

function Rows({ held, linked }: { held: readonly Entry[]; linked: boolean }) {
  const list = useRef<HTMLUListElement>(null);
  const scroller = useRef<HTMLDivElement>(null);
  // Days without signal leave thousands: only what is in sight is drawn.
  const { indexes, before, after, measure } = useLongList(list, held.length, ROW, scroller);
  return (
    <section
      aria-label="Not saved yet"
      className="mb-3 rounded border-2 border-signal bg-sheet p-3"
    >
      <h2 className="plate text-[20px] text-signal">
        On this device only{held.length > 1 && `: ${held.length}`}
      </h2>
      <div ref={scroller} className="relative mt-1 max-h-[40vh] overflow-y-auto">
        <ul ref={list} style={{ paddingTop: before, paddingBottom: after }}>
          {indexes.map((index) => {
            const entry = held[index] as Entry;
            return (
              <li key={entry.key} ref={measure} data-index={index} className="pb-3">
                <p>
                  <span className="font-medium">{nameOf(entry)}</span>,{" "}
                  {new Date(entry.at).toLocaleString()}: {STATES[entry.state]}
                  {entry.state === "refused" && ` ${entry.message}`}
                </p>
                <div className="mt-1 flex flex-wrap gap-2">
                  {linked && (
                    <Link
                      to={isOfJobs(entry) ? `/jobs/${entry.id}` : `/jobs/${entry.job}/measure`}
                      className="target inline-flex items-center rounded border border-rule px-3 hover:bg-press"
                    >
                      Open the job with it
                    </Link>
                  )}
                  {isOfJobs(entry) && (
                    <>
                      <KeepAsNew entry={entry} />
                      <Button onClick={() => downloadJob(entry.document)}>
                        Download as a file
                      </Button>
                    </>
                  )}
                  <Discard entry={entry} />
                </div>
              </li>
            );
          })}
        </ul>
      </div>
    </section>
  );
}

const STATES = {
  waiting: "not sent yet; it is tried again by itself.",
  conflict: "it was changed or deleted somewhere else meanwhile.",
  refused: "the server did not take it.",
} as const;

/** What an entry is called. */
function nameOf(entry: Entry): string {
  switch (entry.collection) {
    case "jobs":
      return entry.document.name;
    case "readings":
      return `A reading of ${new Date(entry.document.takenAt).toLocaleString()}`;
    case "tests":
      return `${entry.document.title}, ${entry.document.takenOn}`;
    case "attachments":
      return entry.document.caption ?? "A picture";
  }
}

function KeepAsNew({ entry }: { entry: EntryOf<"jobs"> }) {
  const navigate = useNavigate();
  return (
    <Button
      onClick={() =>
        void (async () => {
          try {
            const stored = await api.save("jobs", newId(), 0, entry.document);
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
