import clsx from "clsx";
import { readNumber } from "./Fields.tsx";
import { Problem } from "./Problem.tsx";
import { useEntry } from "./useEntry.ts";

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
  const { id, draft, problem, input } = useEntry<number | undefined>({
    ...{ label, value, onChange },
    read: (text) =>
      text.trim() === ""
        ? { value: undefined }
        : readNumber(text, { label, min: 0, max: most, whole }),
    without: { value: undefined },
  });
  return (
    <div className="relative min-w-0">
      <label htmlFor={id} className="block text-[13px] text-soft">
        {label}
      </label>
      <input
        {...input}
        className={clsx("entry target plate text-[17px]", problem && "border-signal")}
        inputMode="decimal"
        autoComplete="off"
        value={draft ?? (value === undefined ? "" : String(value))}
      />
      <Problem id={`${id}-problem`}>{problem}</Problem>
    </div>
  );
}
