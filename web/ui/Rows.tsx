import clsx from "clsx";
import type { ReactNode } from "react";
import { without } from "../lib/without.ts";
import { Button, IconButton } from "./Button.tsx";
import { Plus, Trash2 } from "./icons.ts";

/** New values of a row's fields; undefined takes one out. */
export type RowPatch<T> = { [K in keyof T]?: T[K] | undefined };

/** A list of like rows: each with its fields and a way to take it out, and one more below. */
export function Rows<T extends object>({
  rows,
  onChange,
  columns,
  called,
  label,
  least = 0,
  add,
  beside,
  tight = false,
  children,
}: {
  rows: readonly T[];
  onChange: (rows: T[]) => void;
  /** class of the grid a row's fields stand in; its last column is the button's */
  columns: string;
  /** what a row is called as it is taken out: "step 2" */
  called: (row: T, index: number) => string;
  /** what the list is, where that is not said over it */
  label?: string;
  /** as many rows as stay in any case */
  least?: number;
  add?: { name: string; row: () => T; disabled?: boolean };
  /** other buttons beside that */
  beside?: ReactNode;
  /** rows stand closer, and scroll where there are many */
  tight?: boolean;
  children: (row: T, set: (patch: RowPatch<T>) => void, index: number) => ReactNode;
}) {
  return (
    <div className={clsx("grid", tight ? "gap-1" : "gap-2")}>
      <ol
        aria-label={label}
        className={clsx("grid", tight ? "max-h-64 gap-1 overflow-y-auto" : "gap-2")}
      >
        {rows.map((row, i) => (
          <li key={i} className={clsx("grid items-end gap-2", columns)}>
            {children(
              row,
              (patch) => onChange(rows.with(i, without({ ...row, ...patch }) as unknown as T)),
              i,
            )}
            <IconButton
              label={`Take ${called(row, i)} out`}
              className="self-end justify-self-end"
              disabled={rows.length <= least}
              onClick={() => onChange(rows.toSpliced(i, 1))}
            >
              <Trash2 size={16} aria-hidden />
            </IconButton>
          </li>
        ))}
      </ol>
      {(add || beside) && (
        <div className="flex flex-wrap gap-2">
          {add && (
            <Button disabled={add.disabled} onClick={() => onChange([...rows, add.row()])}>
              <Plus size={16} aria-hidden /> {add.name}
            </Button>
          )}
          {beside}
        </div>
      )}
    </div>
  );
}
