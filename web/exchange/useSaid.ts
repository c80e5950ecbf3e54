import { useState } from "react";
import type { Said } from "#model/import/table.ts";

const NOTHING: Readonly<Record<number, Said>> = {};

/** What a person says the columns of a table hold; of a table with another first line nothing was said. */
export function useSaid(
  text: string,
): [said: Readonly<Record<number, Said>>, say: (column: number, said: Said) => void] {
  const [first = ""] = text.trimStart().split(/\r?\n/, 1);
  const [state, setState] = useState({ of: "", columns: NOTHING });
  return [
    state.of === first ? state.columns : NOTHING,
    (column, said) =>
      setState((before) => ({
        of: first,
        columns: { ...(before.of === first && before.columns), [column]: said },
      })),
  ];
}
