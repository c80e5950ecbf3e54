import { lazy, memo } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { Fetched } from "../lib/Fetched.tsx";
import { useJobStore } from "../openJob/jobStore.ts";
import type { Part } from "../openJob/part.ts";
import { Loading } from "../ui/Notices.tsx";

// The drawing and the duty do not wait for what is typed into, nor one part for another.
const source = () => import("../stages/need/SourcePart.tsx");
const line = () => import("../stages/line/LinePart.tsx");
const pump = () => import("../stages/pump/PumpPart.tsx");
const outlet = () => import("../stages/line/OutletPart.tsx");
const SourcePart = lazy(source);
const LinePart = lazy(line);
const PumpPart = lazy(pump);
const OutletPart = lazy(outlet);

const LOADS = { source, suction: line, discharge: line, pump, outlet };
/** Has what a part is typed into fetched. */
export const loadPart = (part: Part): Promise<unknown> => LOADS[part]();

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
  return <Fetched fallback={<Loading what={LOADED[part]} />}>{panel(part, props)}</Fetched>;
});

const LOADED: Record<Part, string> = {
  source: "the need",
  suction: "the line",
  discharge: "the line",
  pump: "the pumps",
  outlet: "the outlet",
};

function panel(part: Part, props: Omit<Props, "part"> & { job: JobDocument }) {
  switch (part) {
    case "source":
      return <SourcePart job={props.job} />;
    case "suction":
    case "discharge":
      return <LinePart {...props} side={part} />;
    case "pump":
      return <PumpPart {...props} />;
    case "outlet":
      return <OutletPart {...props} />;
  }
}
