import { useMemo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { WELL_FIGURES, wellDerivation } from "#model/well/derivations.ts";
import type { OtherPumpsResult } from "#model/well/otherPumps.ts";
import type { WellResult } from "#model/well/well.ts";
import {
  FigureDerivation,
  useAskedFigure,
  useFigureDerivation,
} from "../../derivation/FigureDerivation.tsx";

/** The sheet over the page while the address asks for a figure that is there. */
export function WellDerivation({
  job,
  told,
  others,
}: {
  job: JobDocument;
  told: WellResult;
  others?: OtherPumpsResult;
}) {
  const show = useFigureDerivation("well");
  const [name] = useAskedFigure("well");
  const figure = WELL_FIGURES.find((each) => each === name);
  const steps = useMemo(
    () => figure && wellDerivation(figure, job, told, others),
    [figure, job, told, others],
  );
  return steps ? <FigureDerivation steps={steps} onClose={() => show(undefined)} /> : null;
}
