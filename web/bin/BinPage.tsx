import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Deleted } from "#contract/api/api.ts";
import { api } from "../api/client.ts";
import { queries } from "../api/queries.ts";
import { localDay, wallClock } from "../lib/clock.ts";
import { Button } from "../ui/Button.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { toast } from "../ui/toast.ts";

const KINDS: Record<Deleted["collection"], string> = {
  jobs: "Job",
  pumps: "Pump",
  tests: "Visit",
  readings: "Reading",
  units: "Real pump",
};

/** What was deleted in the last thirty days, to be brought back. */
export default function BinPage() {
  const query = useQuery({ queryKey: ["bin"], queryFn: api.bin, staleTime: 0 });
  const [busy, setBusy] = useState(false);
  async function restore({ collection, id, name }: Deleted): Promise<void> {
    setBusy(true);
    try {
      await api.restore(collection, id);
      await queries.invalidateQueries();
      toast(`“${name}” is back.`);
    } catch (error) {
      toast.error(`Not brought back: ${(error as Error).message}`);
    } finally {
      setBusy(false);
    }
  }
  return (
    <div className="relative mx-auto h-full max-w-3xl overflow-y-auto p-4">
      <h1 className="text-3xl">Bin</h1>
      <p className="pb-3 text-soft">
        What was deleted in the last 30 days. A job comes back with its visits and readings.
      </p>
      {query.isPending && <Loading what="the bin" />}
      {query.isError && <Trouble error={query.error} onRetry={() => void query.refetch()} />}
      {query.data?.length === 0 && <p>Nothing was deleted.</p>}
      <ul aria-label="Deleted" className="grid gap-1.5">
        {query.data?.map((own) => (
          <li
            key={`${own.collection} ${own.id}`}
            className="flex items-center gap-3 rounded border border-rule bg-sheet px-3 py-1"
          >
            <span className="w-20 shrink-0 text-[14px] text-soft">{KINDS[own.collection]}</span>
            <span className="plate min-w-0 flex-1 text-[19px]">{own.name}</span>
            <span className="text-[14px] text-soft">
              {localDay(new Date(own.deletedAt))}, {wallClock(new Date(own.deletedAt))}
            </span>
            <Button disabled={busy} onClick={() => void restore(own)}>
              Bring back <span className="sr-only">{own.name}</span>
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}
