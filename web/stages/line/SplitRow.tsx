import type { ReactNode } from "react";
import type { JobPathItem } from "#contract/documents/job.ts";
import { newId } from "../../api/client.ts";
import { insertItem, setBranches } from "../../openJob/jobStore.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";
import { Menu } from "../../ui/Menu.tsx";

/** Draws the rows of a list; given by the list around, which draws its own in the same way. */
type Rows = (label: string, items: readonly JobPathItem[]) => ReactNode;

/** The branches of a split, each a short line of its own. */
export function SplitRow({
  item,
  ...shared
}: {
  item: Extract<JobPathItem, { kind: "split" }>;
  onSelect: (itemId: string | undefined) => void;
  rows: Rows;
}) {
  return (
    <div className="grid gap-2 pb-1 sm:pl-6">
      {item.branches.map((branch, index) => (
        <Branch
          // Branches have no names of their own; their order is what tells them apart.
          key={index}
          {...{ item, branch, index, ...shared }}
        />
      ))}
      <div>
        <Button
          look="quiet"
          onClick={() => setBranches(item.id, [...item.branches, [newPipe(item.branches.flat())]])}
        >
          <Plus size={16} aria-hidden /> Branch
        </Button>
      </div>
    </div>
  );
}

function Branch({
  item,
  branch,
  index,
  onSelect,
  rows,
}: {
  item: Extract<JobPathItem, { kind: "split" }>;
  branch: JobPathItem[];
  index: number;
  onSelect: (itemId: string | undefined) => void;
  rows: Rows;
}) {
  const ends = branch.at(-1)?.kind === "outlet";
  const add = (row: JobPathItem) => {
    insertItem(ends ? branch.length - 1 : branch.length, row, { split: item.id, branch: index });
    onSelect(row.id);
  };
  return (
    <section aria-label={`Branch ${index + 1}`} className="border-l-4 border-rule py-1 pl-2">
      <div className="flex items-center justify-between gap-2">
        <h2 className="plate text-[16px]">
          Branch {index + 1}
          <span className="ml-2 font-sans text-[13px] font-normal text-soft">
            {ends ? "ends at its outlet" : branch.length === 0 ? "straight on" : "meets the others"}
          </span>
        </h2>
        <span className="flex">
          <Menu
            trigger={
              <Button look="quiet" aria-label={`Add to branch ${index + 1}`}>
                <Plus size={16} aria-hidden /> Add
              </Button>
            }
            actions={[
              { name: "Pipe or hose", onSelect: () => add(newPipe(branch)) },
              {
                name: "Fitting",
                onSelect: () =>
                  add({ kind: "fitting", id: newId(), fitting: "elbow-90", count: 1 }),
              },
              {
                name: "Check valve",
                onSelect: () =>
                  add({ kind: "fitting", id: newId(), fitting: "check-swing", count: 1 }),
              },
              { name: "Rise only", onSelect: () => add({ kind: "rise", id: newId(), rise: 0 }) },
              {
                name: "Vent hole",
                onSelect: () =>
                  add({ kind: "orifice", id: newId(), purpose: "vent-hole", bore: 0.004 }),
              },
              {
                name: "Split",
                onSelect: () =>
                  add({
                    kind: "split",
                    id: newId(),
                    branches: [[newPipe(branch)], [newPipe(branch)]],
                  }),
              },
              { name: "Pump", onSelect: () => add({ kind: "pump", id: newId(), pump: null }) },
              {
                name: "Outlet",
                disabled: ends,
                onSelect: () => add({ kind: "outlet", id: newId(), outlet: { type: "free" } }),
              },
            ]}
          />
          <IconButton
            label={`Remove branch ${index + 1}`}
            disabled={item.branches.length <= 2}
            onClick={() => setBranches(item.id, item.branches.toSpliced(index, 1))}
          >
            <Trash2 size={17} aria-hidden />
          </IconButton>
        </span>
      </div>
      {rows(`Rows of branch ${index + 1}`, branch)}
    </section>
  );
}

function newPipe(beside: readonly JobPathItem[]): Extract<JobPathItem, { kind: "pipe" }> {
  const stock = beside.findLast((row) => row.kind === "pipe")?.stock ?? "pvc-sch40-2in";
  return { kind: "pipe", id: newId(), stock, length: 5, rise: 0 };
}
