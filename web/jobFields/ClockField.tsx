import clsx from "clsx";
import { useId } from "react";
import { visit } from "../openJob/jobStore.ts";

/** An hour of the day, in the platform's own entry. */
export function ClockField({
  label,
  seconds,
  usual,
  onChange,
  className,
}: {
  label: string;
  /** from midnight */
  seconds: number | undefined;
  usual?: number;
  onChange: (seconds: number | undefined) => void;
  className?: string;
}) {
  const id = useId();
  const shown = seconds ?? usual;
  const two = (n: number) => String(n).padStart(2, "0");
  return (
    <div className={clsx("min-w-0", className)}>
      <label htmlFor={id} className="block text-[13px] text-soft">
        {seconds === undefined && usual !== undefined ? `${label} (assumed)` : label}
      </label>
      <input
        id={id}
        type="time"
        className="entry target plate text-[17px]"
        value={
          shown === undefined
            ? ""
            : `${two(Math.floor(shown / 3600) % 24)}:${two(Math.floor((shown % 3600) / 60))}`
        }
        onFocus={() => visit(true)}
        onBlur={() => visit(false)}
        onChange={(event) => {
          const [h, m] = event.target.value.split(":").map(Number);
          onChange(h === undefined || m === undefined ? undefined : h * 3600 + m * 60);
        }}
      />
    </div>
  );
}
