import { type Column, type Holding, type Said, unitOf, unitsFor } from "#model/import/table.ts";
import { SelectField } from "../ui/Fields.tsx";

/** What each column of a table holds, and in which unit: as its heading says, or as a person does. */
export function Columns({
  columns,
  first,
  holdings,
  many = false,
  onSaid,
}: {
  columns: readonly Column[];
  /** cells of the first row, to tell the columns by */
  first?: readonly string[];
  holdings: readonly Holding[];
  /** as many as a plate has fields */
  many?: boolean;
  onSaid: (column: number, said: Said) => void;
}) {
  return (
    <ul className={`grid gap-2 sm:grid-cols-2 ${many ? "lg:grid-cols-4" : ""}`}>
      {columns.map((column, i) => {
        const own = holdings.find(({ id }) => id === column.holds);
        const units = own ? unitsFor(own) : [];
        const shown = own && unitOf(own, column.units)?.symbol;
        return (
          <li key={i} className="flex items-end gap-2">
            <SelectField
              className="flex-1"
              label={`${column.heading}${first?.[i] ? `: ${first[i]}` : ""}`}
              visibleLabel
              value={column.holds ?? ""}
              onChange={(holds) => onSaid(i, { holds })}
            >
              <option value="">not used</option>
              {holdings.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </SelectField>
            {units.length > 1 && (
              <SelectField
                className="w-24"
                label={`Unit of “${column.heading}”`}
                value={shown ?? ""}
                onChange={(unit) => onSaid(i, { holds: column.holds ?? "", unit })}
              >
                {!shown && <option value="">as usual</option>}
                {units.map(({ symbol }) => (
                  <option key={symbol} value={symbol}>
                    {symbol}
                  </option>
                ))}
              </SelectField>
            )}
          </li>
        );
      })}
    </ul>
  );
}
