import clsx from "clsx";
import { type ReactNode, useId, useState } from "react";
import { Problem } from "./Problem.tsx";

/** A plain text entry. An empty required one says so and keeps the last good value. */
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
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const problem =
    required && draft !== null && draft.trim() === "" ? `${label} is needed.` : undefined;
  return (
    <div className={clsx("relative min-w-0", className)}>
      <label htmlFor={id} className="block text-[13px] text-soft">
        {label}
      </label>
      <input
        id={id}
        type={type}
        className={clsx("entry target", problem && "border-signal")}
        value={draft ?? value}
        maxLength={maxLength}
        aria-invalid={problem !== undefined}
        aria-describedby={problem ? `${id}-problem` : undefined}
        onFocus={() => onVisit?.(true)}
        onChange={(event) => {
          setDraft(event.target.value);
          if (!required || event.target.value.trim() !== "") onChange(event.target.value);
        }}
        onBlur={() => {
          if (!problem) setDraft(null);
          onVisit?.(false);
        }}
      />
      <Problem id={`${id}-problem`}>{problem}</Problem>
    </div>
  );
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
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const check = (text: string) => {
    const number = Number(text.trim().replace(",", "."));
    if (text.trim() === "" || Number.isNaN(number)) return "Type a number.";
    if (whole && !Number.isInteger(number)) return `${label} must be a whole number.`;
    if (number < min) return `${label} cannot be less than ${min}.`;
    if (number > max) return `${label} cannot be more than ${max}.`;
    return undefined;
  };
  const problem = draft === null ? undefined : check(draft);
  return (
    <div className={clsx("relative min-w-0", className)}>
      <label htmlFor={id} className={visibleLabel ? "block text-[13px] text-soft" : "sr-only"}>
        {label}
      </label>
      <div className="relative">
        <input
          id={id}
          className={clsx(
            "entry target plate text-[17px]",
            suffix && "pr-7",
            problem && "border-signal",
          )}
          inputMode="decimal"
          autoComplete="off"
          value={draft ?? String(Number(value.toPrecision(6)))}
          aria-invalid={problem !== undefined}
          aria-describedby={problem ? `${id}-problem` : undefined}
          onFocus={(event) => {
            event.currentTarget.select();
            onVisit?.(true);
          }}
          onChange={(event) => {
            setDraft(event.target.value);
            if (!check(event.target.value)) {
              onChange(Number(event.target.value.trim().replace(",", ".")));
            }
          }}
          onBlur={() => {
            if (!problem) setDraft(null);
            onVisit?.(false);
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
