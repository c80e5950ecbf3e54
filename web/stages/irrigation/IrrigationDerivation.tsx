import { useMemo } from "react";
import { IRRIGATION_FIGURES, irrigationDerivation } from "#model/irrigation/derivations.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import {
  FigureDerivation,
  useAskedFigure,
  useFigureDerivation,
} from "../../derivation/FigureDerivation.tsx";

/** The sheet over the page while the address asks for a figure that is there. */
export function IrrigationDerivation({ told }: { told: IrrigationResult }) {
  const show = useFigureDerivation("water");
  const [name, gun] = useAskedFigure("water");
  const figure = IRRIGATION_FIGURES.find((each) => each === name);
  const steps = useMemo(
    () => figure && irrigationDerivation(figure, told, told.guns[Number(gun ?? 0)]),
    [figure, gun, told],
  );
  return steps ? <FigureDerivation steps={steps} onClose={() => show(undefined)} /> : null;
}
