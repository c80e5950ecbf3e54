import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { toast } from "sonner";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { format } from "#contract/units/format.ts";
import { bestEfficiencyFlow, pumpCurve, shutoffHead } from "#core/pump/curve.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { api } from "../api/client.ts";
import { allPumps } from "../api/queries.ts";
import { useUnits } from "../app/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Plus } from "../ui/icons.ts";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";

const KINDS = Object.entries(PUMP_KINDS) as [PumpDocument["kind"], string][];

/** The pump library: every pump with the three numbers a fitter knows it by. */
export default function PumpsPage() {
  const units = useUnits();
  const client = useQueryClient();
  const [params, setParams] = useSearchParams();
  const kind = params.get("kind");
  const pumps = useQuery(allPumps);

  async function load(): Promise<void> {
    try {
      const { added } = await api.loadLibrary();
      await client.invalidateQueries({ queryKey: allPumps.queryKey });
      toast(added === 0 ? "The library was all there already." : `${added} pumps added.`);
    } catch (error) {
      toast.error((error as Error).message);
    }
  }

  const rows = (pumps.data ?? [])
    .map(({ document }) => document)
    .filter((pump) => !kind || pump.kind === kind)
    .sort((a, b) =>
      `${a.kind} ${a.maker} ${a.model}`.localeCompare(`${b.kind} ${b.maker} ${b.model}`),
    );

  return (
    <div className="relative mx-auto h-full max-w-5xl overflow-y-auto p-4">
      <div className="flex flex-wrap items-center gap-2 pb-3">
        <h1 className="flex-1 text-3xl">Pump library</h1>
        {rows.length > 0 && <Button onClick={() => void load()}>Load the pump library</Button>}
        <Link
          to="/pumps/new/edit"
          className="target inline-flex items-center gap-1.5 rounded bg-water px-3 font-medium text-paper hover:opacity-90"
        >
          <Plus size={18} aria-hidden /> Add a pump
        </Link>
      </div>
      {pumps.isPending && <Loading what="the pumps" />}
      {pumps.isError && <Trouble error={pumps.error} onRetry={() => void pumps.refetch()} />}
      {pumps.data?.length === 0 && (
        <Empty title="No pumps yet">
          <p>
            A small library ships with the application: invented pumps with believable curves, to
            learn on. It is loaded once; nothing is fetched from anywhere.
          </p>
          <Button look="strong" onClick={() => void load()}>
            Load the pump library
          </Button>
        </Empty>
      )}
      {pumps.data && pumps.data.length > 0 && (
        <>
          <div role="group" aria-label="Kind of pump" className="flex flex-wrap gap-1 pb-2">
            {[["", "All"] as const, ...KINDS].map(([value, name]) => (
              <Button
                key={value}
                look={value === (kind ?? "") ? "strong" : "plain"}
                aria-pressed={value === (kind ?? "")}
                onClick={() => setParams(value ? { kind: value } : {}, { replace: true })}
              >
                {name}
              </Button>
            ))}
          </div>
          <div className="overflow-x-auto">
            <table className="w-full" aria-label="Pumps">
              <thead className="text-left text-[13px] text-soft">
                <tr>
                  <th className="py-1 font-normal">Pump</th>
                  <th className="font-normal max-sm:hidden">Kind</th>
                  <th className="text-right font-normal">Shut-off head</th>
                  <th className="text-right font-normal">Best at</th>
                  <th className="text-right font-normal">Run-out</th>
                  <th className="text-right font-normal max-sm:hidden">Passes</th>
                  <th className="text-right font-normal max-sm:hidden">Weight</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((pump) => {
                  const curve = pumpCurve(pump);
                  return (
                    <tr key={pump.id} className="border-t border-rule">
                      <td className="py-1.5">
                        <Link
                          to={`/pumps/${pump.id}`}
                          className="plate inline-flex min-h-8 items-center text-[19px] hover:underline"
                        >
                          {pump.maker} {pump.model}
                        </Link>
                      </td>
                      <td className="max-sm:hidden">{PUMP_KINDS[pump.kind]}</td>
                      <td className="pl-2 text-right whitespace-nowrap">
                        {format(shutoffHead(curve), "head", units)}
                      </td>
                      <td className="pl-2 text-right whitespace-nowrap">
                        {format(bestEfficiencyFlow(curve).flow, "flow", units)}
                      </td>
                      <td className="pl-2 text-right whitespace-nowrap">
                        {format(curve.lastFlow, "flow", units)}
                      </td>
                      <td className="text-right whitespace-nowrap max-sm:hidden">
                        {pump.solids ? format(pump.solids, "diameter", units) : "–"}
                      </td>
                      <td className="text-right whitespace-nowrap max-sm:hidden">
                        {pump.mass ? format(pump.mass, "mass", units) : "–"}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
        </>
      )}
    </div>
  );
}
