import clsx from "clsx";
import { outOfRange, type QuantityRange } from "#contract/documents/ranges.ts";
import { formatForEntry } from "#contract/units/format.ts";
import { isBareNumber, parseQuantity } from "#contract/units/parse.ts";
import { type Quantity, SHOWN, toUnit, unitOf } from "#contract/units/units.ts";
import { useStepUnits, useUnits } from "../state/settings.ts";
import { Problem } from "./Problem.tsx";
import { type ReadText, useEntry } from "./useEntry.ts";

interface Common {
  label: string;
  /** where the label is shown above the field: everywhere unless said; hidden, it still names the field */
  visibleLabel?: boolean | "phone";
  quantity: Quantity;
  range: QuantityRange;
  /** the unit shown, and the one a bare number is read in, where another than the quantity's own serves better */
  unit?: string;
  /** SI; undefined while an optional field is empty */
  value: number | undefined;
  /** called on entering and leaving, so that one visit is one step of undo */
  onVisit?: (inside: boolean) => void;
  className?: string;
}

type Props = Common &
  (
    | { optional: true; onChange: (value: number | undefined) => void }
    | { optional?: false; onChange: (value: number) => void }
  );

/**
 * An entry for a quantity in any unit. What is typed takes effect with every key that leaves it readable; anything else
 * stays in the field with a sentence below it, and leaves no value behind.
 */
export function QuantityField(props: Props) {
  const { label, visibleLabel = true, quantity, range, value, optional, onVisit, unit } = props;
  const onChange = props.onChange as (value: number | undefined) => void;
  const units = useUnits();
  const own = useStepUnits();
  const symbol = unit ?? SHOWN[units][quantity];
  const steps = quantity === "length" || quantity === "head" ? own : [];
  const read = (text: string): ReadText<number | undefined> => {
    if (optional && text.trim() === "") return { value: undefined };
    const given = unit && isBareNumber(text) ? `${text} ${unit}` : text;
    const parsed = parseQuantity(given, quantity, units, steps);
    if (!parsed.ok) return { problem: parsed.message };
    const outside = outOfRange(parsed.value, quantity, range);
    return outside ? { problem: outside } : { value: parsed.value };
  };
  const { id, draft, problem, input } = useEntry({
    ...{ label, value, read, onChange, onVisit },
    without: optional ? { value: undefined } : undefined,
  });
  const shown =
    value === undefined
      ? ""
      : unit
        ? String(Number(toUnit(value, unitOf(quantity, unit)).toPrecision(6)))
        : formatForEntry(value, quantity, units);

  return (
    <div className={clsx("relative min-w-0", props.className)}>
      <label
        htmlFor={id}
        className={clsx(
          "text-[13px] text-soft",
          visibleLabel === "phone" ? "sm:sr-only" : visibleLabel ? "block" : "sr-only",
        )}
      >
        {label}
      </label>
      <div className="relative">
        <input
          {...input}
          className={clsx(
            "entry target plate text-[17px]",
            problem && "border-signal outline-2 outline-signal",
          )}
          // Room for the unit and no more: narrow columns need their digits.
          style={{ paddingRight: `calc(0.75rem + ${symbol.length * 0.45}rem)` }}
          inputMode="text"
          autoComplete="off"
          spellCheck={false}
          value={draft ?? shown}
          onFocus={(event) => {
            event.currentTarget.select();
            input.onFocus();
          }}
        />
        <span
          aria-hidden
          className="pointer-events-none absolute inset-y-0 right-2 flex items-center text-[13px] text-soft"
        >
          {symbol}
        </span>
      </div>
      <Problem id={`${id}-problem`}>{problem}</Problem>
    </div>
  );
}
