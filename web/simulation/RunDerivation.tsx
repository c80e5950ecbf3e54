import { useMemo } from "react";
import type { Answers } from "#core/simulation/answers.ts";
import { DERIVED, runDerivation } from "#model/simulation/derivations.ts";
import { answerLines } from "#words/simulation.ts";
import {
  FigureDerivation,
  useAskedFigure,
  useFigureDerivation,
} from "../derivation/FigureDerivation.tsx";
import { useUnits } from "../state/settings.ts";

/** The sheet over the page while the address asks for one that exists. */
export function RunDerivation({ answers }: { answers: Answers }) {
  const show = useFigureDerivation("time");
  const [name] = useAskedFigure("time");
  const figure = DERIVED.find((each) => each === name);
  const steps = useMemo(() => figure && runDerivation(figure, answers), [figure, answers]);
  const units = useUnits();
  if (!figure || !steps) return null;
  const title = answerLines(answers, units).find(({ worked }) => worked === figure)?.name ?? "";
  return <FigureDerivation {...{ steps, title }} onClose={() => show(undefined)} />;
}
