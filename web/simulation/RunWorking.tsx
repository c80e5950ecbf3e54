import { useMemo } from "react";
import type { Answers } from "#core/simulation/answers.ts";
import { runDerivation, WORKED } from "#model/simulation/derivations.ts";
import { answerLines } from "#words/overTime.ts";
import { FigureWorking, useAskedFigure, useFigureWorking } from "../derivation/FigureWorking.tsx";
import { useUnits } from "../state/settings.ts";

/** The sheet over the page while the address asks for one that exists. */
export function RunWorking({ answers }: { answers: Answers }) {
  const show = useFigureWorking("time");
  const [name] = useAskedFigure("time");
  const figure = WORKED.find((each) => each === name);
  const steps = useMemo(() => figure && runDerivation(figure, answers), [figure, answers]);
  const units = useUnits();
  if (!figure || !steps) return null;
  const title = answerLines(answers, units).find(({ worked }) => worked === figure)?.name ?? "";
  return <FigureWorking {...{ steps, title }} onClose={() => show(undefined)} />;
}
