import { useQuery, useQueryClient } from "@tanstack/react-query";
import type { Room, Stored } from "#contract/api/api.ts";
import { type FirmDocument, firmVersions } from "#contract/documents/firm.ts";
import { api } from "../api/client.ts";
import { FIRM, theFirm } from "../api/queries.ts";
import { BroughtBack } from "../editing/BroughtBack.tsx";
import { EditedTwice } from "../editing/EditedTwice.tsx";
import { useEditing } from "../editing/useEditing.ts";
import { Button } from "../ui/Button.tsx";
import { SelectField } from "../ui/Fields.tsx";
import { toast } from "../ui/toast.ts";

type Part = keyof Room["parts"];

/** What each part is, and by which rule it stops growing. */
const PARTS: Record<Part, { name: string; of?: string; rule: string }> = {
  documents: {
    name: "Jobs, pumps, tests, readings",
    rule: "All of them stay, the deleted ones too.",
  },
  revisions: {
    name: "The states they were saved in",
    of: "states",
    rule: "Every one of the last month; before that the last of each day, and every one a reading was held against.",
  },
  samples: { name: "Instruments’ records", of: "samples", rule: "" },
  pictures: {
    name: "Pictures and pages",
    of: "files",
    rule: "What nothing names any more goes after a month.",
  },
  backups: {
    name: "Backups made by themselves",
    of: "files",
    rule: "Fourteen; pictures and records are kept once for all of them.",
  },
  engine: { name: "The database’s own log", rule: "Comes and goes with what is saved." },
};

/** What takes how much of the disk, with the one rule of them that the firm sets. */
export function WhatTakesRoom() {
  const room = useQuery({ queryKey: ["room"], queryFn: api.room, staleTime: 0 });
  const firm = useQuery(theFirm);
  if (!room.data || firm.data === undefined) return null;
  const { parts, free } = room.data;
  const most = Math.max(...Object.values(parts).map(({ bytes }) => bytes));
  return (
    <section aria-label="What takes how much">
      <h2 className="plate mt-5 text-[22px]">What takes how much</h2>
      <p className="text-[14px] text-soft">{inWords(free)} of this disk are free.</p>
      <ul className="mt-2 grid gap-2">
        {(Object.keys(PARTS) as Part[]).map((part) => {
          const { name, of, rule } = PARTS[part];
          const { bytes, count } = parts[part];
          return (
            <li key={part} className="rounded border border-rule bg-sheet px-3 py-1.5">
              <div className="flex items-baseline gap-3">
                <span className="flex-1">{name}</span>
                {of && count !== undefined && (
                  <span className="text-[14px] text-soft">
                    {count.toLocaleString()} {of}
                  </span>
                )}
                <span className="plate w-22 text-right text-[19px]">{inWords(bytes)}</span>
              </div>
              <div
                aria-hidden
                className="my-1 h-1.5 rounded-sm bg-water"
                style={{ width: `${Math.max(0.5, (100 * bytes) / most)}%` }}
              />
              {part === "samples" ? (
                <SampleDays stored={firm.data ?? undefined} />
              ) : (
                <p className="text-[14px] text-soft">{rule}</p>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Days that are offered; common practice, no source. */
const OFFERED = [30, 90, 365, 1095];

const NONE: FirmDocument = { format: firmVersions.format, version: firmVersions.version };

function SampleDays({ stored }: { stored: Stored<FirmDocument> | undefined }) {
  const client = useQueryClient();
  const editing = useEditing({
    // Apart from what is typed of the firm on other pages: each is saved by itself.
    ...{ collection: "firms", id: FIRM, as: "sample-days", stored },
    begun: stored?.document ?? NONE,
  });
  const days = editing.value.sampleDays;

  async function save(document: FirmDocument, onto?: Stored<FirmDocument>): Promise<void> {
    try {
      if (await editing.save(document, onto)) toast("Saved.");
    } catch (error) {
      toast.error(`Not saved: ${(error as Error).message} What you typed is kept on this device.`);
    } finally {
      await client.invalidateQueries({ queryKey: theFirm.queryKey });
    }
  }

  return (
    <div className="grid gap-1">
      <p className="text-[14px] text-soft">
        {stored?.document.sampleDays === undefined
          ? "Every sample stays. A logger that sends one a second takes about 30 MB a day: choose after how long one a minute is enough."
          : `After ${stored.document.sampleDays} days one a minute stays, the mean; half an hour around each reading all of them.`}
      </p>
      <BroughtBack editing={editing} />
      <div className="flex items-end gap-2">
        <SelectField
          label="Every sample is kept"
          visibleLabel
          className="w-44"
          value={days === undefined ? "" : String(days)}
          onChange={(next) =>
            editing.change(({ sampleDays: _, ...firm }) => ({
              ...firm,
              ...(next !== "" && { sampleDays: Number(next) }),
            }))
          }
        >
          <option value="">for ever</option>
          {[...new Set([...OFFERED, ...(days === undefined ? [] : [days])])].map((own) => (
            <option key={own} value={own}>
              {own} days
            </option>
          ))}
        </SelectField>
        <Button
          disabled={days === stored?.document.sampleDays}
          onClick={() => void save(editing.value)}
        >
          Save
        </Button>
      </div>
      <EditedTwice editing={editing} onKeep={(both, onto) => void save(both, onto)} />
    </div>
  );
}

/** bytes as a person reads them */
export const inWords = (bytes: number) => {
  if (bytes === 0) return "0";
  if (bytes >= 1e9) return `${(bytes / 1e9).toFixed(1)} GB`;
  if (bytes >= 1e6) return `${(bytes / 1e6).toFixed(1)} MB`;
  return `${Math.max(1, Math.round(bytes / 1e3))} kB`;
};
