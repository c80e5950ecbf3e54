import { lazy, Suspense, useMemo } from "react";
import { useSearchParams } from "react-router";
import { WATERING_FIGURES, wateringDerivation } from "#model/watering/derivations.ts";
import type { WateringTold } from "#model/watering/watering.ts";
import { Dialog } from "../ui/Dialog.tsx";
import { Loading } from "../ui/Notices.tsx";
import { useWateringWorking } from "./Figure.tsx";

const WorkingSheet = lazy(() => import("../job/WorkingSheet.tsx"));

/** The sheet over the page while the address asks for a figure that is there. */
export function WateringWorking({ told }: { told: WateringTold }) {
  const [params] = useSearchParams();
  const show = useWateringWorking();
  const [head, name, gun] = (params.get("working") ?? "").split(".");
  const figure = head === "water" ? WATERING_FIGURES.find((each) => each === name) : undefined;
  const steps = useMemo(
    () => figure && wateringDerivation(figure, told, told.guns[Number(gun ?? 0)]),
    [figure, gun, told],
  );
  if (!figure || !steps) return null;
  return (
    <Dialog open onClose={() => show(undefined)} title={steps.at(-1)?.title ?? ""}>
      <Suspense fallback={<Loading what="the working" />}>
        <WorkingSheet steps={steps} />
      </Suspense>
    </Dialog>
  );
}
