import clsx from "clsx";
import type { ComponentProps } from "react";

type Look = "plain" | "strong" | "quiet";

export function Button({
  look = "plain",
  className,
  ...rest
}: ComponentProps<"button"> & { look?: Look }) {
  return (
    <button
      type="button"
      className={clsx(
        "target inline-flex items-center justify-center gap-1.5 rounded px-3 font-medium disabled:opacity-50",
        look === "plain" && "border border-rule bg-sheet hover:bg-press",
        look === "strong" && "bg-water text-paper hover:opacity-90",
        look === "quiet" && "hover:bg-press",
        className,
      )}
      {...rest}
    />
  );
}

/** A button that shows only an icon; `label` is its name for everyone who cannot see it. */
export function IconButton({
  label,
  className,
  ...rest
}: ComponentProps<"button"> & { label: string }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className={clsx(
        "target inline-flex items-center justify-center rounded text-soft hover:bg-press hover:text-ink disabled:opacity-35",
        className,
      )}
      {...rest}
    />
  );
}
