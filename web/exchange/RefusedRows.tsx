import type { Refusal } from "#model/import/table.ts";

/** Rows shown of what cannot be taken; the rest is counted. */
const SHOWN = 12;

/** What of a table cannot be taken, row by row with the reason. */
export function RefusedRows({ refused }: { refused: readonly Refusal[] }) {
  if (refused.length === 0) return null;
  return (
    <section aria-label="Refused rows" role="alert" className="text-[14px] text-signal">
      {refused.length > 1 && <h3 className="plate text-[18px]">{refused.length} refused</h3>}
      <ul className="grid gap-1">
        {refused.slice(0, SHOWN).map(({ row, column, why }, i) => (
          <li key={i}>
            {[row !== undefined && `Row ${row}`, column].filter(Boolean).join(", ")}
            {(row !== undefined || column) && ": "}
            {why}
          </li>
        ))}
        {refused.length > SHOWN && <li>and {refused.length - SHOWN} more</li>}
      </ul>
    </section>
  );
}
