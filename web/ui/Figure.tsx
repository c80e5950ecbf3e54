import type { ReactNode } from "react";

/** A figure under its name, with what it stands on; one that has a working opens it. */
export function Figure({
  name,
  value,
  note,
  onShow,
}: {
  name: string;
  value: ReactNode;
  note?: ReactNode;
  /** opens its working */
  onShow?: (() => void) | undefined;
}) {
  return (
    <div>
      <dt className="text-[13px] text-soft">{name}</dt>
      <dd>
        {onShow ? (
          <button
            type="button"
            title="Show the working"
            className="plate text-2xl leading-none underline decoration-rule decoration-1 underline-offset-4 hover:decoration-ink"
            onClick={onShow}
          >
            {value}
          </button>
        ) : (
          <span className="plate text-2xl leading-none">{value}</span>
        )}
        {note && <span className="block text-[13px] text-soft">{note}</span>}
      </dd>
    </div>
  );
}
