import { lazy, memo, Suspense } from "react";
import type { JobSolution } from "#model/solveJob.ts";
import { Loading } from "../ui/Notices.tsx";
import { useJobStore } from "./jobStore.ts";
import type { Part } from "./part.ts";
import { LinePart } from "./parts/LinePart.tsx";
import { OutletPart } from "./parts/OutletPart.tsx";
import { PumpPart } from "./parts/PumpPart.tsx";

// A job opened on its line does not wait for all that the need can be said by.
const SourcePart = lazy(() => import("./parts/SourcePart.tsx"));

interface Props {
  part: Part;
  solved: JobSolution;
  selected: string | undefined;
  onSelect: (itemId: string | undefined) => void;
}

/** The part of the job being worked on, as rows for keyboard or thumb. */
export const PartInHand = memo(function PartInHand({ part, ...rest }: Props) {
  // As typed, where all around it follows a frame later.
  const props = { ...rest, job: useJobStore((s) => s.job) };
  switch (part) {
    case "source":
      return (
        <Suspense fallback={<Loading what="the need" />}>
          <SourcePart job={props.job} />
        </Suspense>
      );
    case "suction":
    case "discharge":
      return <LinePart {...props} side={part} />;
    case "pump":
      return <PumpPart {...props} />;
    case "outlet":
      return <OutletPart {...props} />;
  }
});
