import type { ReactNode } from "react";
import { useSearchParams } from "react-router";
import type { WateringFigure } from "#model/watering/derivations.ts";

/** Opens the working of a figure; it stands in the address, so that a link reopens it. */
export function useWateringWorking(): (figure: string | undefined) => void {
  const [, setParams] = useSearchParams();
  return (figure) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (figure) next.set("working", `water.${figure}`);
        else next.delete("working");
        return next;
      },
      { replace: true },
    );
}

/** A figure under its name; one that has a working opens it. */
export function Figure({
  name,
  value,
  note,
  working,
  gun,
}: {
  name: string;
  value: ReactNode;
  note?: ReactNode;
  working?: WateringFigure;
  /** number of the gun it is of */
  gun?: number;
}) {
  const show = useWateringWorking();
  return (
    <div>
      <dt className="text-[13px] text-soft">{name}</dt>
      <dd>
        {working ? (
          <button
            type="button"
            title="Show the working"
            className="plate text-2xl leading-none underline decoration-rule decoration-1 underline-offset-4 hover:decoration-ink"
            onClick={() => show(gun === undefined ? working : `${working}.${gun}`)}
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
