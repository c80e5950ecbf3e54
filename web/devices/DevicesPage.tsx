import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client.ts";
import { Button } from "../ui/Button.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { toast } from "../ui/toast.ts";

const moment = (ms: number) =>
  new Date(ms).toLocaleString([], { dateStyle: "medium", timeStyle: "short" });

/** Who is signed in on what: each can be ended by itself, and this one signs out. */
export default function DevicesPage() {
  const query = useQuery({ queryKey: ["devices"], queryFn: api.devices, staleTime: 0 });
  async function end(id: string): Promise<void> {
    try {
      await api.endDevice(id);
      toast("It has to give the pass phrase again.");
    } catch (error) {
      toast.error(`Not ended: ${(error as Error).message}`);
    } finally {
      await query.refetch();
    }
  }
  return (
    <div className="relative mx-auto h-full max-w-3xl overflow-y-auto p-4">
      <div className="flex flex-wrap items-center gap-2 pb-3">
        <h1 className="flex-1 text-3xl">Devices</h1>
        {/* A form, so that it works where nothing else does any more. */}
        <form method="post" action="/sign-out">
          <Button type="submit" look="strong">
            Sign out here
          </Button>
        </form>
      </div>
      <p>
        Every browser that gave the pass phrase and is still let in, for thirty days. End one that
        was lost, or whose person has left; a new pass phrase ends them all.
      </p>
      {query.isPending && <Loading what="the devices" />}
      {query.isError && <Trouble error={query.error} onRetry={() => void query.refetch()} />}
      {query.data && (
        <ul aria-label="Devices signed in" className="mt-3 grid grid-cols-1 gap-1.5">
          {query.data.map(({ id, agent, address, since, seen, own }) => (
            <li
              key={id}
              className="flex min-w-0 items-center gap-3 rounded border border-rule bg-sheet px-3 py-1.5"
            >
              <div className="min-w-0 flex-1">
                <p className="truncate" title={agent}>
                  {own && <strong>This one. </strong>}
                  {agent || "It does not say what it is"}
                </p>
                <p className="text-[14px] text-soft">
                  From {address}, since {moment(since)}, last seen {moment(seen)}
                </p>
              </div>
              {!own && <Button onClick={() => void end(id)}>End it</Button>}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
