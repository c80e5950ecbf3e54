import clsx from "clsx";
import { type ReactNode, useId } from "react";
import { Problem } from "./Problem.tsx";
import { type ReadText, useEntry } from "./useEntry.ts";

/** A plain text entry. An empty required one says so, and what stood there before stands. */
export function TextField({
  label,
  value,
  onChange,
  onVisit,
  required,
  maxLength = 120,
  type = "text",
  className,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  onVisit?: (inside: boolean) => void;
  required?: boolean;
  maxLength?: number;
  type?: "text" | "date";
  className?: string;
}) {
  const { id, draft, problem, input } = useEntry<string>({
    ...{ label, value, onChange, onVisit },
    read: (text) =>
      required && text.trim() === "" ? { problem: `${label} is needed.` } : { value: text },
  });
  return (
    <div className={clsx("relative min-w-0", className)}>
      <label htmlFor={id} className="block text-[13px] text-soft">
        {label}
      </label>
      <input
        {...input}
        type={type}
        className={clsx("entry target", problem && "border-signal")}
        value={draft ?? value}
        maxLength={maxLength}
      />
      <Problem id={`${id}-problem`}>{problem}</Problem>
    </div>
  );
}

/** Reads a plain number, or says what is wrong with it. */
export function readNumber(
  text: string,
  {
    label,
    min,
    max,
    whole,
  }: { label: string; min: number; max: number; whole?: boolean | undefined },
): ReadText<number> {
  const number = Number(text.trim().replace(",", "."));
  if (text.trim() === "" || Number.isNaN(number)) return { problem: "Type a number." };
  if (whole && !Number.isInteger(number)) return { problem: `${label} must be a whole number.` };
  if (number < min)
    return {
      problem: min === 0 ? `${label} cannot be negative.` : `${label} cannot be less than ${min}.`,
    };
  if (number > max) return { problem: `${label} cannot be more than ${max}.` };
  return { value: number };
}

/** A plain number without a unit, such as a count or a percentage. */
export function NumberField({
  label,
  visibleLabel,
  value,
  onChange,
  onVisit,
  min,
  max,
  whole,
  suffix,
  className,
}: {
  label: string;
  visibleLabel?: boolean;
  value: number;
  onChange: (value: number) => void;
  onVisit?: (inside: boolean) => void;
  min: number;
  max: number;
  whole?: boolean;
  suffix?: string;
  className?: string;
}) {
  const { id, draft, problem, input } = useEntry<number>({
    ...{ label, value, onChange, onVisit },
    read: (text) => readNumber(text, { label, min, max, whole }),
  });
  return (
    <div className={clsx("relative min-w-0", className)}>
      <label htmlFor={id} className={visibleLabel ? "block text-[13px] text-soft" : "sr-only"}>
        {label}
      </label>
      <div className="relative">
        <input
          {...input}
          className={clsx(
            "entry target plate text-[17px]",
            suffix && "pr-7",
            problem && "border-signal",
          )}
          inputMode="decimal"
          autoComplete="off"
          value={draft ?? String(Number(value.toPrecision(6)))}
          onFocus={(event) => {
            event.currentTarget.select();
            input.onFocus();
          }}
        />
        {suffix && (
          <span
            aria-hidden
            className="pointer-events-none absolute inset-y-0 right-2 flex items-center text-[13px] text-soft"
          >
            {suffix}
          </span>
        )}
      </div>
      <Problem id={`${id}-problem`}>{problem}</Problem>
    </div>
  );
}

/** A fraction, typed and read in per cent from 0 to `max`. */
export function PercentField({
  value,
  onChange,
  ...rest
}: {
  label: string;
  value: number;
  onChange: (fraction: number) => void;
  onVisit?: (inside: boolean) => void;
  /** per cent */
  max: number;
}) {
  return (
    <NumberField
      {...rest}
      visibleLabel
      suffix="%"
      min={0}
      value={value * 100}
      onChange={(percent) => onChange(percent / 100)}
    />
  );
}

/**
 * A choice of one, in the platform's own control: it works with gloves. A list too long to look through is a `SearchField`.
 */
export function SelectField({
  label,
  visibleLabel,
  value,
  onChange,
  children,
  className,
}: {
  label: string;
  visibleLabel?: boolean;
  value: string;
  onChange: (value: string) => void;
  children: ReactNode;
  className?: string;
}) {
  const id = useId();
  return (
    <div className={clsx("min-w-0", className)}>
      <label htmlFor={id} className={visibleLabel ? "block text-[13px] text-soft" : "sr-only"}>
        {label}
      </label>
      <select
        id={id}
        className="entry target"
        value={value}
        onChange={(event) => onChange(event.target.value)}
      >
        {children}
      </select>
    </div>
  );
}
