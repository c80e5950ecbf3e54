import clsx from "clsx";
import { useId, useState } from "react";
import { Problem } from "./Problem.tsx";

/** A plain number that may be left out. */
export function OptionalNumber({
  label,
  value,
  most,
  whole,
  onChange,
}: {
  label: string;
  value: number | undefined;
  most: number;
  whole: boolean;
  onChange: (value: number | undefined) => void;
}) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const check = (text: string): string | undefined => {
    if (text.trim() === "") return undefined;
    const number = Number(text.trim().replace(",", "."));
    if (Number.isNaN(number)) return "Type a number.";
    if (number < 0) return `${label} cannot be negative.`;
    if (number > most) return `${label} cannot be more than ${most}.`;
    return whole && !Number.isInteger(number) ? `${label} must be a whole number.` : undefined;
  };
  const problem = draft === null ? undefined : check(draft);
  return (
    <div className="relative min-w-0">
      <label htmlFor={id} className="block text-[13px] text-soft">
        {label}
      </label>
      <input
        id={id}
        className={clsx("entry target plate text-[17px]", problem && "border-signal")}
        inputMode="decimal"
        autoComplete="off"
        value={draft ?? (value === undefined ? "" : String(value))}
        aria-invalid={problem !== undefined}
        aria-describedby={problem ? `${id}-problem` : undefined}
        onChange={(event) => {
          const text = event.target.value;
          setDraft(text);
          if (!check(text)) {
            onChange(text.trim() === "" ? undefined : Number(text.trim().replace(",", ".")));
          }
        }}
        onBlur={() => !problem && setDraft(null)}
      />
      <Problem id={`${id}-problem`}>{problem}</Problem>
    </div>
  );
}
