import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { WELL_FIGURES, wellDerivation } from "#model/well/derivations.ts";
import type { WellTold } from "#model/well/well.ts";
import {
  FigureWorking,
  useAskedFigure,
  useFigureWorking,
} from "../../derivation/FigureWorking.tsx";

/** The sheet over the page while the address asks for a figure that is there. */
export function WellWorking({ job, told }: { job: JobDocument; told: WellTold }) {
  const show = useFigureWorking("well");
  const [name] = useAskedFigure("well");
  const figure = WELL_FIGURES.find((each) => each === name);
  const steps = useMemo(() => figure && wellDerivation(figure, job, told), [figure, job, told]);
  return steps ? <FigureWorking steps={steps} onClose={() => show(undefined)} /> : null;
}
