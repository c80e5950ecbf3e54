import clsx from "clsx";
import { lazy, type ReactNode } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { hasWell } from "#model/well/settle.ts";
import { Fetched } from "../../lib/Fetched.tsx";
import { useJobStore } from "../../openJob/jobStore.ts";
import type { OwnProps } from "../../openJob/stage.ts";
import { useResult } from "../../openJob/useResult.ts";
import { Loading, NotWorkedOut } from "../../ui/Notices.tsx";
import { Switch } from "../../ui/Switch.tsx";
import { CableFields, CableResults } from "./Cable.tsx";
import { DayFields } from "./DayFields.tsx";
import { DayResults } from "./DayResults.tsx";
import { HoleResults } from "./Hole.tsx";
import { OtherFields, OtherResults } from "./OtherPumps.tsx";
import { PipeFields, PipeResults } from "./Pipe.tsx";
import type { FieldProps, ResultProps } from "./props.ts";
import { TankFields, TankResults } from "./Tank.tsx";
import { WELL_VIEWS, type WellView } from "./views.ts";
import { WellDerivation } from "./WellDerivation.tsx";
import { WellDrawing } from "./WellDrawing.tsx";

const WhatIfPane = lazy(() => import("../../whatif/WhatIfPane.tsx"));

/** A job's well: what is typed of it on one side, what it comes to on the other. */
export default function WellPane({ job, view, onView }: OwnProps<WellView>) {
  const { value: told, stale, kind, error, again } = useResult("well", { job });
  // As typed, where what is told of it follows later.
  const typed = useJobStore((s) => s.job);
  if (!hasWell(typed)) {
    return (
      <section aria-label="The well" className="p-3 lg:col-span-2">
        <p className="text-soft">
          This job does not draw from a well. One that does is begun under New job, “Draw from a
          well”.
        </p>
      </section>
    );
  }
  const fields = fieldsOf(view, { job: typed, told });
  return (
    <>
      {fields && (
        <section
          aria-label="What is known of the well"
          className="flex flex-col border-b border-rule max-lg:order-2 lg:min-h-0 lg:border-r lg:border-b-0"
        >
          <div className="min-h-0 flex-1 p-3 lg:overflow-y-auto">{fields}</div>
        </section>
      )}
      <section
        aria-label="What it comes to"
        className={clsx("flex flex-col max-lg:order-1 lg:min-h-0", !fields && "lg:col-span-2")}
      >
        <Switch label="Well" options={WELL_VIEWS} value={view} onChange={onView} />
        <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
          <div className={clsx(view === "hole" && "lg:grid lg:grid-cols-[26rem_minmax(0,1fr)]")}>
            {view === "hole" && <WellDrawing job={typed} told={told} />}
            <div className={clsx("p-3", stale && "opacity-60")} aria-busy={stale}>
              {kind === "failed" && <NotWorkedOut {...{ error, again }} />}
              {told
                ? toldOf(view, { job, told }, typed)
                : kind !== "failed" && <Loading what="the well" />}
            </div>
          </div>
          {told && view !== "other" && <WellDerivation {...{ job, told }} />}
        </div>
      </section>
    </>
  );
}

function fieldsOf(view: WellView, props: FieldProps): ReactNode {
  switch (view) {
    case "pipe":
      return <PipeFields {...props} />;
    case "cable":
      return <CableFields {...props} />;
    case "tank":
      return <TankFields {...props} />;
    case "day":
      return <DayFields {...props} />;
    case "other":
      return <OtherFields {...props} />;
    case "hole":
    case "what-if":
      return undefined;
  }
}

function toldOf(view: WellView, props: ResultProps, typed: JobDocument): ReactNode {
  switch (view) {
    case "hole":
      return <HoleResults {...props} typed={typed} />;
    case "pipe":
      return <PipeResults {...props} />;
    case "cable":
      return <CableResults {...props} />;
    case "tank":
      return <TankResults {...props} />;
    case "day":
      return <DayResults {...props} />;
    case "other":
      return <OtherResults {...props} />;
    case "what-if":
      return (
        <Fetched fallback={<Loading what="the columns" />}>
          <WhatIfPane job={props.job} />
        </Fetched>
      );
  }
}
