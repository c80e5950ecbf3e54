import type { ComponentProps } from "react";
import { useSearchParams } from "react-router";
import type { WateringFigure } from "#model/watering/derivations.ts";
import { Figure as PlainFigure } from "../ui/Figure.tsx";

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

/** A figure of the watering; one that has a working opens it. */
export function Figure({
  working,
  gun,
  ...rest
}: Omit<ComponentProps<typeof PlainFigure>, "onShow"> & {
  working?: WateringFigure;
  /** number of the gun it is of */
  gun?: number;
}) {
  const show = useWateringWorking();
  return (
    <PlainFigure
      {...rest}
      onShow={working && (() => show(gun === undefined ? working : `${working}.${gun}`))}
    />
  );
}
