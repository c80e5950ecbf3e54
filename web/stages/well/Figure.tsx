import type { ComponentProps } from "react";
import type { WellFigure } from "#model/well/derivations.ts";
import { useFigureDerivation } from "../../derivation/FigureDerivation.tsx";
import { Figure as PlainFigure } from "../../ui/Figure.tsx";

/** A figure of the well; one that has a working opens it. */
export function Figure({
  working,
  ...rest
}: Omit<ComponentProps<typeof PlainFigure>, "onShow"> & { working?: WellFigure | undefined }) {
  const show = useFigureDerivation("well");
  return <PlainFigure {...rest} onShow={working && (() => show(working))} />;
}
