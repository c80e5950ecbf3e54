import { lazy, Suspense, useMemo } from "react";
import { useSearchParams } from "react-router";
import type { Answers } from "#core/simulation/answers.ts";
import { runDerivation } from "#model/overTime/derivations.ts";
import { answerLines, WORKED, type WorkedFigure } from "#words/overTime.ts";
import { useUnits } from "../app/settings.ts";
import { Dialog } from "../ui/Dialog.tsx";
import { Loading } from "../ui/Notices.tsx";

const WorkingSheet = lazy(() => import("../job/WorkingSheet.tsx"));

/** Opens the working of a figure of the run. It stands in the address, so that a link reopens it. */
export function useRunWorking(): (figure: WorkedFigure | undefined) => void {
  const [, setParams] = useSearchParams();
  return (figure) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (figure) next.set("working", `time.${figure}`);
        else next.delete("working");
        return next;
      },
      { replace: true },
    );
}

/** The sheet over the page while the address asks for one that exists. */
export function RunWorking({ answers }: { answers: Answers }) {
  const [params] = useSearchParams();
  const show = useRunWorking();
  const asked = params.get("working");
  const figure = WORKED.find((each) => asked === `time.${each}`);
  const steps = useMemo(() => figure && runDerivation(figure, answers), [figure, answers]);
  const units = useUnits();
  if (!figure || !steps) return null;
  const title = answerLines(answers, units).find(({ worked }) => worked === figure)?.name ?? "";
  return (
    <Dialog open onClose={() => show(undefined)} title={title}>
      <Suspense fallback={<Loading what="the working" />}>
        <WorkingSheet steps={steps} />
      </Suspense>
    </Dialog>
  );
}
