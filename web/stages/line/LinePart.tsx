import { lazy, Suspense, useState } from "react";
import type { JobPathItem } from "#contract/documents/job.ts";
import type { JobKindId } from "#contract/documents/jobKinds.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { JOB_KIND_NAMES } from "#words/kinds.ts";
import { newId } from "../../api/client.ts";
import { edit, insertItem, partsOf, pumpItems } from "../../openJob/jobStore.ts";
import type { PartProps } from "../../openJob/stage.ts";
import { useSettings } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { ArrowUpDown, ClipboardPaste, LayoutTemplate, Plus } from "../../ui/icons.ts";
import { Menu } from "../../ui/Menu.tsx";
import { LineRows } from "./LineRows.tsx";

const ImportSheet = lazy(() => import("./ImportSheet.tsx"));

/** One side of the line as rows in the order the water meets them. */
export default function LinePart({
  side,
  job,
  solved,
  selected,
  onSelect,
}: PartProps & { side: "suction" | "discharge" }) {
  const { heights, toggleHeights, units } = useSettings();
  const [importing, setImporting] = useState(false);
  const { start, items } = partsOf(job.path)[side];
  const diagnostics = solved.kind === "refused" ? solved.diagnostics : [];
  const lastPipe = items.findLast((item) => item.kind === "pipe");
  const stock = lastPipe?.stock ?? (side === "suction" ? "suction-hose-2in" : "pvc-sch40-2in");
  const add = (item: JobPathItem, index = start + items.length) => {
    insertItem(index, item);
    onSelect(item.id);
  };
  return (
    <div className="px-2 py-3">
      <div className="flex flex-wrap items-center justify-between gap-x-1 pb-1">
        <Button
          look="quiet"
          aria-pressed={heights === "elevations"}
          title="A run's height may be typed as its rise, or as the level it ends at"
          onClick={toggleHeights}
        >
          <ArrowUpDown size={16} aria-hidden />
          {heights === "rises" ? "Heights as rises" : "Heights as levels"}
        </Button>
        <Menu
          trigger={
            <Button look="quiet">
              <LayoutTemplate size={16} aria-hidden /> Template
            </Button>
          }
          actions={TEMPLATES.map((id) => ({
            name: JOB_KIND_NAMES[id].says,
            onSelect: () => void layTemplate(id, units),
          }))}
        />
        <Button look="quiet" onClick={() => setImporting(true)}>
          <ClipboardPaste size={16} aria-hidden /> Paste or import
        </Button>
      </div>
      <LineRows
        {...{ items, diagnostics, selected, onSelect }}
        label={side === "suction" ? "Suction line" : "Discharge line"}
      />
      {items.length === 0 && (
        <p className="py-3 text-soft">
          {side === "suction"
            ? "No suction line: the pump stands in the water. Add a hose if it stands above."
            : "No discharge line yet. Add the first run of pipe."}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button onClick={() => add({ kind: "pipe", id: newId(), stock, length: 5, rise: 0 })}>
          <Plus size={16} aria-hidden /> Pipe or hose
        </Button>
        <Button
          onClick={() =>
            add({
              kind: "fitting",
              id: newId(),
              fitting: side === "suction" ? "foot-valve-hinged" : "elbow-90",
              count: 1,
            })
          }
        >
          <Plus size={16} aria-hidden /> Fitting
        </Button>
        <Button onClick={() => add({ kind: "rise", id: newId(), rise: 0 })}>
          <Plus size={16} aria-hidden /> Rise only
        </Button>
        {side === "discharge" && (
          <Button
            onClick={() =>
              add({ kind: "orifice", id: newId(), purpose: "vent-hole", bore: 0.004 }, start)
            }
          >
            <Plus size={16} aria-hidden /> Hole
          </Button>
        )}
        <Menu
          trigger={
            <Button>
              <Plus size={16} aria-hidden /> Split or pump …
            </Button>
          }
          actions={[
            ...(side === "discharge"
              ? [
                  {
                    name: "Tee to a second outlet",
                    onSelect: () => add(teeToOutlet(stock)),
                  },
                ]
              : []),
            {
              name: "Two lines side by side",
              onSelect: () => add(sideBySide(stock)),
            },
            ...(side === "discharge"
              ? [
                  {
                    name: "Second pump in the line",
                    onSelect: () => add({ kind: "pump", id: newId(), pump: null }),
                  },
                ]
              : []),
          ]}
        />
      </div>
      {importing && (
        <Suspense fallback={null}>
          <ImportSheet stock={stock} at={{ start, items }} onClose={() => setImporting(false)} />
        </Suspense>
      )}
    </div>
  );
}

/** The kinds of job with a line of their own. */
const TEMPLATES = (Object.keys(JOB_KIND_NAMES) as JobKindId[]).filter(
  (kind) => kind !== "measuring",
);

/** A first line in place of the one there is; the pump already chosen stays in it. Undo brings the old back. */
async function layTemplate(id: JobKindId, units: UnitSystem): Promise<void> {
  const { newJob } = await import("#model/kinds/kinds.ts");
  edit((job) => {
    const { path } = newJob(job.name, id, units);
    const chosen = pumpItems(job.path)[0]?.pump ?? null;
    return {
      ...job,
      path: path.map((item) => (item.kind === "pump" ? { ...item, pump: chosen } : item)),
      pumps: job.pumps.filter((pump) => pump.id === chosen),
    };
  });
}

function teeToOutlet(stock: string): JobPathItem {
  return {
    kind: "split",
    id: newId(),
    branches: [
      [
        { kind: "fitting", id: newId(), fitting: "tee-branch", count: 1 },
        { kind: "pipe", id: newId(), stock, length: 5, rise: 0 },
        { kind: "outlet", id: newId(), outlet: { type: "free" } },
      ],
      [{ kind: "fitting", id: newId(), fitting: "tee-run", count: 1 }],
    ],
  };
}

function sideBySide(stock: string): JobPathItem {
  const pipe = () => ({ kind: "pipe" as const, id: newId(), stock, length: 5, rise: 0 });
  return { kind: "split", id: newId(), branches: [[pipe()], [pipe()]] };
}
