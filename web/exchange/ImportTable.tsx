import { type ReactNode, useMemo, useState } from "react";
import { asSaid, type Holding, readTable, type Table, type Taken } from "#model/import/table.ts";
import { Button } from "../ui/Button.tsx";
import { Dialog } from "../ui/Dialog.tsx";
import { Columns } from "./Columns.tsx";
import { RefusedRows } from "./RefusedRows.tsx";
import { TableSource } from "./TableSource.tsx";
import { useSaid } from "./useSaid.ts";

/**
 * A table taken into a job: its columns are said, what cannot be read is told row by row, and nothing is taken until
 * all of it can be.
 */
export function ImportTable<T>({
  title,
  says,
  placeholder,
  holdings,
  order,
  read,
  shown,
  take,
  mayTake = () => true,
  onTake,
  onClose,
}: {
  title: string;
  /** what its rows are to be */
  says: string;
  placeholder: string;
  holdings: readonly Holding[];
  /** ids in which columns come where no heading says what they hold */
  order: readonly string[];
  /** the same one for as long as it reads the same */
  read: (table: Table) => Taken<T>;
  /** what would be taken, and what is to be said of it before */
  shown: (value: T) => ReactNode;
  /** on the button */
  take: string;
  mayTake?: (value: T) => boolean;
  onTake: (value: T) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState("");
  const [said, say] = useSaid(text);
  const table = useMemo(
    () => asSaid(readTable(text, holdings, order), said),
    [text, holdings, order, said],
  );
  const taken = useMemo(() => (text.trim() === "" ? undefined : read(table)), [read, table, text]);
  return (
    <Dialog open onClose={onClose} title={title}>
      <div className="grid gap-3">
        <TableSource {...{ says, placeholder }} onText={setText} />
        {taken && (
          <Columns
            columns={table.columns}
            {...(table.rows[0] && { first: table.rows[0] })}
            holdings={holdings}
            onSaid={say}
          />
        )}
        {taken?.kind === "refused" && <RefusedRows refused={taken.refused} />}
        {taken?.kind === "taken" && shown(taken.value)}
        <div className="flex justify-end gap-2">
          <Button look="quiet" onClick={onClose}>
            Cancel
          </Button>
          <Button
            look="strong"
            disabled={taken?.kind !== "taken" || !mayTake(taken.value)}
            onClick={() => {
              if (taken?.kind !== "taken") return;
              onTake(taken.value);
              onClose();
            }}
          >
            {take}
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
