import type { ComponentProps } from "react";
import type { IrrigationFigure } from "#model/irrigation/derivations.ts";
import { useFigureDerivation } from "../../derivation/FigureDerivation.tsx";
import { Figure as PlainFigure } from "../../ui/Figure.tsx";

/** A figure of the watering; one that has a working opens it. */
export function Figure({
  working,
  gun,
  ...rest
}: Omit<ComponentProps<typeof PlainFigure>, "onShow"> & {
  working?: IrrigationFigure;
  /** number of the gun it is of */
  gun?: number;
}) {
  const show = useFigureDerivation("water");
  return (
    <PlainFigure
      {...rest}
      onShow={working && (() => show(gun === undefined ? working : `${working}.${gun}`))}
    />
  );
}
