import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useDeferredValue, useMemo, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { format } from "#contract/units/format.ts";
import { bestEfficiencyFlow, pumpCurve, shutoffHead } from "#core/pump/curve.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { api } from "../api/client.ts";
import { allPumps } from "../api/queries.ts";
import { downloadText } from "../lib/downloadText.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { SelectField, TextField } from "../ui/Fields.tsx";
import { Plus } from "../ui/icons.ts";
import { Empty, Loading, Trouble } from "../ui/Notices.tsx";
import { toast } from "../ui/toast.ts";
import { useLongList } from "../ui/useLongList.ts";

const ImportPumps = lazy(() => import("./ImportPumps.tsx"));

/** How many pumps stand beside each other on one sheet. */
const COMPARED = 3;

/** The pump library: every pump with the three numbers a fitter knows it by; found, compared, read in and written out. */
export default function PumpsPage() {
  const client = useQueryClient();
  const [params, setParams] = useSearchParams();
  const pumps = useQuery(allPumps);
  const [importing, setImporting] = useState(false);
  const [compared, setCompared] = useState<readonly string[]>([]);
  const set = (key: string, value: string) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (value) next.set(key, value);
        else next.delete(key);
        return next;
      },
      { replace: true },
    );
  const [typed, setTyped] = useState(params.get("find") ?? "");
  // Finding follows the painted key.
  const find = useDeferredValue(typed);
  const kind = params.get("kind") ?? "";
  const which = params.get("which") ?? "";
  const documents = useMemo(() => (pumps.data ?? []).map(({ document }) => document), [pumps.data]);
  const all = useMemo(() => sortedPumps(documents), [documents]);
  const rows = useMemo(
    () => all.filter((own) => isFound(own, find, kind, which)).map(({ pump }) => pump),
    [all, find, kind, which],
  );

  async function load(): Promise<void> {
    try {
      const { added } = await api.loadLibrary();
      await client.invalidateQueries({ queryKey: allPumps.queryKey });
      toast(added === 0 ? "The library was all there already." : `${added} pumps added.`);
    } catch (error) {
      toast.error((error as Error).message);
    }
  }
  const write = async (as: "csv" | "json") => {
    const { writePumpTable } = await import("#model/import/pumpTable/readPumps.ts");
    const text = as === "csv" ? writePumpTable(rows) : JSON.stringify(rows, null, 2);
    downloadText(`pumps.${as}`, text, as === "csv" ? "text/csv" : "application/json");
  };
  const toggle = (id: string) =>
    setCompared((before) =>
      before.includes(id) ? before.filter((own) => own !== id) : [...before, id].slice(-COMPARED),
    );

  return (
    <div className="relative h-full overflow-y-auto">
      <div className="mx-auto max-w-5xl p-4">
        <div className="flex flex-wrap items-center gap-2 pb-3">
          <h1 className="flex-1 text-3xl">Pump library</h1>
          <Button onClick={() => setImporting(true)}>Read in</Button>
          {/* There before the pumps are: nothing that is pressed moves when they come. */}
          {pumps.data?.length !== 0 && (
            <>
              <Button disabled={rows.length === 0} onClick={() => void write("csv")}>
                Write as CSV
              </Button>
              <Button disabled={rows.length === 0} onClick={() => void write("json")}>
                Write as JSON
              </Button>
              <Button onClick={() => void load()}>Load the shipped pumps</Button>
            </>
          )}
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
            <div className="grid grid-cols-[minmax(0,1fr)_auto_auto] items-end gap-2 pb-2 max-sm:grid-cols-2">
              <TextField
                label="Find"
                className="max-sm:col-span-2"
                value={typed}
                maxLength={80}
                onChange={(value) => {
                  setTyped(value);
                  set("find", value.trim());
                }}
              />
              <SelectField
                label="Kind of pump"
                visibleLabel
                value={kind}
                onChange={(value) => set("kind", value)}
              >
                <option value="">all</option>
                {Object.entries(PUMP_KINDS).map(([value, name]) => (
                  <option key={value} value={value}>
                    {name}
                  </option>
                ))}
              </SelectField>
              <SelectField
                label="Which"
                visibleLabel
                value={which}
                onChange={(value) => set("which", value)}
              >
                <option value="">offered</option>
                <option value="owned">owned</option>
                <option value="own-entry">your own entries</option>
                <option value="archived">archived</option>
              </SelectField>
            </div>
            <div className="flex min-h-9 flex-wrap items-center gap-2 text-[14px] text-soft">
              <span aria-live="polite">
                {rows.length} of {all.length}
              </span>
              {compared.length > 0 && (
                <>
                  <Link
                    to={`/pumps/compare?of=${compared.join(",")}`}
                    className="target inline-flex items-center rounded border border-rule bg-sheet px-3 font-medium text-ink hover:bg-press"
                  >
                    Compare {compared.length}
                  </Link>
                  <Button look="quiet" onClick={() => setCompared([])}>
                    Clear
                  </Button>
                </>
              )}
            </div>
            <PumpTable {...{ rows, compared }} onToggle={toggle} />
          </>
        )}
      </div>
      {importing && (
        <Suspense fallback={null}>
          <ImportPumps known={documents} onClose={() => setImporting(false)} />
        </Suspense>
      )}
    </div>
  );
}

interface Findable {
  pump: PumpDocument;
  /** everything it may be found by, in small letters */
  text: string;
}

const collator = new Intl.Collator(undefined, { numeric: true });

function sortedPumps(pumps: readonly PumpDocument[]): Findable[] {
  return pumps
    .map((pump) => ({ pump, key: `${PUMP_KINDS[pump.kind]} ${pump.maker} ${pump.model}` }))
    .sort((a, b) => collator.compare(a.key, b.key))
    .map(({ pump, key }) => ({ pump, text: `${key} ${pump.note ?? ""}`.toLowerCase() }));
}

function isFound({ pump, text }: Findable, find: string, kind: string, which: string): boolean {
  if (kind && pump.kind !== kind) return false;
  if ((which === "archived") !== Boolean(pump.archived)) return false;
  if (which === "owned" && !pump.owned) return false;
  if (which === "own-entry" && pump.invented) return false;
  return find
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

function PumpTable({
  rows,
  compared,
  onToggle,
}: {
  rows: readonly PumpDocument[];
  compared: readonly string[];
  onToggle: (id: string) => void;
}) {
  const body = useRef<HTMLTableSectionElement>(null);
  const { indexes, before, after, measure } = useLongList(body, rows.length, 45);
  return (
    <table className="w-full table-fixed" aria-label="Pumps" aria-rowcount={rows.length + 1}>
      <thead className="text-left text-[13px] text-soft">
        <tr>
          <th className="w-9">
            <span className="sr-only">Compare</span>
          </th>
          <th className="py-1 font-normal">Pump</th>
          <th className="w-36 font-normal max-sm:hidden">Kind</th>
          <th className="w-24 text-right font-normal">Shut-off</th>
          <th className="w-24 text-right font-normal">Best at</th>
          <th className="w-24 text-right font-normal max-sm:hidden">Run-out</th>
          <th className="w-24 text-right font-normal max-md:hidden">Passes</th>
          <th className="w-20 text-right font-normal max-md:hidden">Weight</th>
          <th className="w-20 text-right font-normal max-md:hidden">Price</th>
        </tr>
      </thead>
      <tbody ref={body}>
        {before > 0 && (
          <tr aria-hidden>
            <td colSpan={9} style={{ height: before, padding: 0 }} />
          </tr>
        )}
        {indexes.map((index) => {
          const pump = rows[index] as PumpDocument;
          return (
            <PumpRow
              key={pump.id}
              {...{ pump, index, measure, onToggle }}
              isCompared={compared.includes(pump.id)}
            />
          );
        })}
        {after > 0 && (
          <tr aria-hidden>
            <td colSpan={9} style={{ height: after, padding: 0 }} />
          </tr>
        )}
      </tbody>
    </table>
  );
}

function PumpRow({
  pump,
  index,
  measure,
  isCompared,
  onToggle,
}: {
  pump: PumpDocument;
  index: number;
  measure: ((row: HTMLElement | null) => void) | undefined;
  isCompared: boolean;
  onToggle: (id: string) => void;
}) {
  const units = useUnits();
  const { shutOff, best, last } = figuresOf(pump);
  const name = `${pump.maker} ${pump.model}`;
  return (
    <tr
      ref={measure}
      data-index={index}
      aria-rowindex={index + 2}
      className="h-11 border-t border-rule"
    >
      <td>
        <input
          type="checkbox"
          className="size-5 accent-(--water)"
          aria-label={`Compare ${name}`}
          checked={isCompared}
          onChange={() => onToggle(pump.id)}
        />
      </td>
      <td className="truncate">
        <Link
          to={`/pumps/${pump.id}`}
          className="plate inline-flex min-h-8 items-center text-[19px] hover:underline"
        >
          {name}
        </Link>{" "}
        {pump.owned ? <span className="text-[13px] text-soft">owned {pump.owned}</span> : null}
      </td>
      <td className="truncate text-[15px] max-sm:hidden">{PUMP_KINDS[pump.kind]}</td>
      <td className="text-right whitespace-nowrap">{format(shutOff, "head", units)}</td>
      <td className="text-right whitespace-nowrap">{format(best, "flow", units)}</td>
      <td className="text-right whitespace-nowrap max-sm:hidden">{format(last, "flow", units)}</td>
      <td className="text-right whitespace-nowrap max-md:hidden">
        {pump.solids ? format(pump.solids, "diameter", units) : "–"}
      </td>
      <td className="text-right whitespace-nowrap max-md:hidden">
        {pump.mass ? format(pump.mass, "mass", units) : "–"}
      </td>
      <td className="text-right whitespace-nowrap max-md:hidden">
        {pump.price === undefined ? "–" : pump.price.toFixed(0)}
      </td>
    </tr>
  );
}

/** What a row says of a curve, worked out once it is in sight. */
const FIGURES = new WeakMap<PumpDocument, { shutOff: number; best: number; last: number }>();

function figuresOf(pump: PumpDocument) {
  let found = FIGURES.get(pump);
  if (!found) {
    const curve = pumpCurve(pump);
    const best = bestEfficiencyFlow(curve).flow;
    found = { shutOff: shutoffHead(curve), best, last: curve.lastFlow };
    FIGURES.set(pump, found);
  }
  return found;
}
