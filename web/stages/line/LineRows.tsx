import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { memo, useEffect, useRef } from "react";
import type { JobPathItem } from "#contract/documents/job.ts";
import { findFitting } from "#core/catalogue/fittings.ts";
import { FAMILIES, findPipeStock, type PipeAge } from "#core/catalogue/pipes.ts";
import type { Diagnostic } from "#core/line/diagnostic.ts";
import { assumedMark } from "#words/assumed.ts";
import { diagnosticSentence } from "#words/diagnostics.ts";
import { newId } from "../../api/client.ts";
import {
  dropItem,
  editItem,
  moveItem,
  removeItem,
  replaceItem,
  useJobStore,
} from "../../openJob/jobStore.ts";
import { useSettings } from "../../state/settings.ts";
import { IconButton } from "../../ui/Button.tsx";
import {
  ArrowDown,
  ArrowUp,
  Copy,
  Ellipsis,
  GripVertical,
  Scissors,
  Trash2,
} from "../../ui/icons.ts";
import { Menu } from "../../ui/Menu.tsx";
import { useLongList } from "../../ui/useLongList.ts";
import { Opening, ROW, RowFields } from "./RowFields.tsx";
import { SplitRow } from "./SplitRow.tsx";

interface Props {
  label: string;
  items: readonly JobPathItem[];
  diagnostics: readonly Diagnostic[];
  selected: string | undefined;
  onSelect: (itemId: string | undefined) => void;
  /** rows inside a branch have their columns named by the list around them */
  inBranch?: boolean;
}

/** A list of the path as rows that can be dragged, by pointer or keyboard, within it. */
export function LineRows({ label, items, inBranch = false, ...shared }: Props) {
  const { heights } = useSettings();
  const list = useRef<HTMLOListElement>(null);
  const { indexes, before, after, measure, reveal } = useLongList(list, items.length, 48);
  const { selected } = shared;
  const chosen = selected === undefined ? -1 : items.findIndex(({ id }) => id === selected);
  const show = useRef(reveal);
  show.current = reveal;
  useEffect(() => {
    if (chosen >= 0) show.current(chosen);
  }, [chosen]);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  return (
    <>
      {!inBranch && items.length > 0 && (
        <div className={`${ROW} pb-1 text-[13px] text-soft max-sm:hidden`} aria-hidden>
          <span className="pl-7">Along the water’s path</span>
          <span>Length, count</span>
          <span>{heights === "rises" ? "Rise or size" : "Ends at, or size"}</span>
          <span className="w-16 pointer-coarse:w-22" />
        </div>
      )}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={({ active, over }) => {
          if (over && over.id !== active.id) dropItem(String(active.id), String(over.id));
        }}
      >
        <SortableContext items={items.map(({ id }) => id)} strategy={verticalListSortingStrategy}>
          <ol
            ref={list}
            aria-label={label}
            style={{ paddingTop: before, paddingBottom: after }}
            className="*:pb-1.5"
          >
            {indexes.map((index) => {
              const item = items[index] as JobPathItem;
              return (
                <LineRow
                  key={item.id}
                  {...{ item, index, measure, ...shared }}
                  last={index === items.length - 1}
                />
              );
            })}
          </ol>
        </SortableContext>
      </DndContext>
    </>
  );
}

function LineRow({
  item,
  index,
  measure,
  diagnostics,
  last,
  selected,
  onSelect,
}: {
  item: JobPathItem;
  index: number;
  measure: ((row: HTMLElement | null) => void) | undefined;
  last: boolean;
} & Pick<Props, "diagnostics" | "selected" | "onSelect">) {
  const chosen = item.id === selected;
  const row = useRef<HTMLLIElement | null>(null);
  const fromHere = useRef(false);
  const {
    attributes,
    listeners,
    setNodeRef,
    setActivatorNodeRef,
    transform,
    transition,
    isDragging,
  } = useSortable({ id: item.id });
  useEffect(() => {
    // Whoever is in the row, or in a menu of it, has it in sight: nothing moves under the pointer that chose it.
    if (chosen && !fromHere.current) row.current?.scrollIntoView({ block: "nearest" });
    fromHere.current = false;
  }, [chosen]);
  const problem = diagnostics
    .filter((diagnostic) => diagnostic.itemId === item.id)
    .map(diagnosticSentence)
    .join(" ");
  return (
    <li
      ref={(node) => {
        row.current = node;
        setNodeRef(node);
        measure?.(node);
      }}
      data-index={index}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`rounded ${chosen ? "bg-press" : ""} ${isDragging ? "relative z-10 bg-sheet shadow-lg" : ""}`}
      onFocus={(event) => {
        event.stopPropagation();
        fromHere.current = true;
        onSelect(item.id);
      }}
      onKeyDown={(event) => {
        if (!event.altKey || (event.key !== "ArrowUp" && event.key !== "ArrowDown")) return;
        event.preventDefault();
        event.stopPropagation();
        moveItem(item.id, event.key === "ArrowUp" ? -1 : 1);
      }}
    >
      <div className="flex items-start">
        <button
          ref={setActivatorNodeRef}
          type="button"
          aria-label="Drag this row"
          title="Drag, or press space and the arrow keys"
          className="target -ml-1 inline-flex w-7 min-w-7! shrink-0 cursor-grab touch-none items-center justify-center rounded text-soft hover:text-ink max-sm:hidden"
          {...attributes}
          {...listeners}
        >
          <GripVertical size={16} aria-hidden />
        </button>
        <div className={`${ROW} min-w-0 flex-1`}>
          <RowFields item={item} />
          <RowActions {...{ item, last }} first={index === 0} />
        </div>
      </div>
      <Opening item={item} />
      <AssumedMark itemId={item.id} />
      {item.kind === "split" && (
        <SplitRow
          {...{ item, onSelect }}
          rows={(label, items) => (
            <LineRows inBranch {...{ label, items, diagnostics, selected, onSelect }} />
          )}
        />
      )}
      {problem && (
        <p role="alert" className="pb-1 pl-7 text-[14px] text-signal max-sm:pl-0">
          {problem}
        </p>
      )}
    </li>
  );
}

/** Says which entries of a row nobody has measured yet. */
function AssumedMark({ itemId }: { itemId: string }) {
  const what = useJobStore(({ job }) => assumedMark(job, itemId));
  return what === "" ? null : (
    <p className="pb-0.5 pl-7 text-[13px] text-soft max-sm:pl-0">{what}</p>
  );
}

/** What can be done with a row, beside its entries. */
const RowActions = memo(function RowActions({
  item,
  first,
  last,
}: {
  item: JobPathItem;
  first: boolean;
  last: boolean;
}) {
  return (
    <span className="flex max-sm:col-start-3 max-sm:row-start-1">
      <Menu
        trigger={
          <IconButton label="More for this row">
            <Ellipsis size={17} aria-hidden />
          </IconButton>
        }
        actions={[
          {
            name: "Move towards the water",
            icon: <ArrowUp size={16} aria-hidden />,
            disabled: first,
            onSelect: () => moveItem(item.id, -1),
          },
          {
            name: "Move towards the outlet",
            icon: <ArrowDown size={16} aria-hidden />,
            disabled: last,
            onSelect: () => moveItem(item.id, 1),
          },
          {
            name: "Duplicate",
            icon: <Copy size={16} aria-hidden />,
            disabled: item.kind === "outlet",
            onSelect: () => replaceItem(item.id, (row) => [row, withNewIds(row)]),
          },
          ...(item.kind === "fitting" && findFitting(item.fitting)?.group === "check"
            ? [
                {
                  name: item.reversed ? "Turn it with the water" : "It is fitted backwards",
                  onSelect: () =>
                    editItem<"fitting">(item.id, {
                      reversed: item.reversed ? undefined : true,
                    }),
                },
              ]
            : []),
          ...(item.kind === "pipe"
            ? [
                {
                  name: ageOf(item) === "aged" ? "Take it as new pipe" : "Take it as old pipe",
                  onSelect: () =>
                    editItem<"pipe">(item.id, {
                      age: ageOf(item) === "aged" ? "new" : "aged",
                    }),
                },
                {
                  name: "Cut in two",
                  icon: <Scissors size={16} aria-hidden />,
                  onSelect: () => replaceItem(item.id, halves),
                },
              ]
            : []),
        ]}
      />
      <IconButton label="Remove" onClick={() => removeItem(item.id)}>
        <Trash2 size={17} aria-hidden />
      </IconButton>
    </span>
  );
});

function ageOf({ age, stock }: Extract<JobPathItem, { kind: "pipe" }>): PipeAge | undefined {
  const family = findPipeStock(stock)?.family;
  return age ?? (family && FAMILIES[family].usual);
}

function withNewIds(item: JobPathItem): JobPathItem {
  if (item.kind !== "split") return { ...item, id: newId() };
  const branches = item.branches.map((branch) => branch.map(withNewIds));
  return { ...item, id: newId(), branches };
}

/** A run as two of half its length and rise, so that a fitting or a size can go between. */
function halves(item: JobPathItem): JobPathItem[] {
  if (item.kind !== "pipe") return [item];
  const half = { ...item, length: item.length / 2, rise: item.rise / 2 };
  return [half, { ...half, id: newId() }];
}
