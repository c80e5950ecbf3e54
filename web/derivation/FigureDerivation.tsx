import { lazy, Suspense } from "react";
import { useSearchParams } from "react-router";
import type { Derivation } from "#core/formula/formula.ts";
import { Dialog } from "../ui/Dialog.tsx";
import { Loading } from "../ui/Notices.tsx";

const DerivationSheet = lazy(() => import("./DerivationSheet.tsx"));

/** Opens the working of a figure of one kind; it stands in the address, so that a link reopens it. */
export function useFigureDerivation(of: string): (figure: string | undefined) => void {
  const [, setParams] = useSearchParams();
  return (figure) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        if (figure) next.set("working", `${of}.${figure}`);
        else next.delete("working");
        return next;
      },
      { replace: true },
    );
}

/** The figure of one kind whose working the address asks for, in its parts: "throw.2" as ["throw", "2"]. */
export function useAskedFigure(of: string): string[] {
  const [params] = useSearchParams();
  const [head, ...parts] = (params.get("working") ?? "").split(".");
  return head === of ? parts : [];
}

/** The sheet over the page, of steps that end with the figure. */
export function FigureDerivation({
  steps,
  title,
  onClose,
}: {
  steps: Derivation;
  /** the last step's when absent */
  title?: string;
  onClose: () => void;
}) {
  return (
    <Dialog open onClose={onClose} title={title ?? steps.at(-1)?.title ?? ""}>
      <Suspense fallback={<Loading what="the working" />}>
        <DerivationSheet steps={steps} />
      </Suspense>
    </Dialog>
  );
}
