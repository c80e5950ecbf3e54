import { useMemo } from "react";
import { WATERING_FIGURES, wateringDerivation } from "#model/irrigation/derivations.ts";
import type { WateringTold } from "#model/irrigation/watering.ts";
import {
  FigureWorking,
  useAskedFigure,
  useFigureWorking,
} from "../../derivation/FigureWorking.tsx";

/** The sheet over the page while the address asks for a figure that is there. */
export function WateringWorking({ told }: { told: WateringTold }) {
  const show = useFigureWorking("water");
  const [name, gun] = useAskedFigure("water");
  const figure = WATERING_FIGURES.find((each) => each === name);
  const steps = useMemo(
    () => figure && wateringDerivation(figure, told, told.guns[Number(gun ?? 0)]),
    [figure, gun, told],
  );
  return steps ? <FigureWorking steps={steps} onClose={() => show(undefined)} /> : null;
}
