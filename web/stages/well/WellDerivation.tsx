import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { WELL_FIGURES, wellDerivation } from "#model/well/derivations.ts";
import type { WellResult } from "#model/well/well.ts";
import {
  FigureDerivation,
  useAskedFigure,
  useFigureDerivation,
} from "../../derivation/FigureDerivation.tsx";

/** The sheet over the page while the address asks for a figure that is there. */
export function WellDerivation({ job, told }: { job: JobDocument; told: WellResult }) {
  const show = useFigureDerivation("well");
  const [name] = useAskedFigure("well");
  const figure = WELL_FIGURES.find((each) => each === name);
  const steps = useMemo(() => figure && wellDerivation(figure, job, told), [figure, job, told]);
  return steps ? <FigureDerivation steps={steps} onClose={() => show(undefined)} /> : null;
}
