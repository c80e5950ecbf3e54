import clsx from "clsx";
import { lazy, type ReactNode } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { WateringTold } from "#model/irrigation/watering.ts";
import { Fetched } from "../../lib/Fetched.tsx";
import { useJobStore } from "../../openJob/jobStore.ts";
import { useWatering } from "../../openJob/useWatering.ts";
import { Loading, NotWorkedOut } from "../../ui/Notices.tsx";
import { Switch } from "../../ui/Switch.tsx";
import { CansFields, CansTold } from "./Cans.tsx";
import { DayFields, DayTold } from "./Day.tsx";
import { DripFields, DripTold } from "./Drip.tsx";
import { FieldFields } from "./FieldFields.tsx";
import { FieldTold } from "./FieldTold.tsx";
import { GunsFields } from "./GunsFields.tsx";
import { GunsTold } from "./GunsTold.tsx";
import { SeasonFields, SeasonTold } from "./Season.tsx";
import type { ToldProps } from "./toldProps.ts";
import { GROUND_VIEWS, type GroundView } from "./views.ts";
import { WateringWorking } from "./WateringWorking.tsx";
import { ReadFields, ReadTold } from "./WorkedBack.tsx";

const WhatIfPane = lazy(() => import("../../whatif/WhatIfPane.tsx"));

interface Props {
  job: JobDocument;
  view: GroundView;
  onView: (view: GroundView) => void;
}

/** A job's ground: what is typed of it on one side, what it comes to on the other. */
export default function GroundPane({ job, view, onView }: Props) {
  const watered = useWatering(job);
  const { value: told, stale, kind, error, again } = watered;
  // As typed, where what is told of it follows later.
  const typed = useJobStore((s) => s.job);
  const field = typed.field ?? {};
  return (
    <>
      {view !== "what-if" && (
        <section
          aria-label="What is known of the ground"
          className="flex flex-col border-b border-rule max-lg:order-2 lg:min-h-0 lg:border-r lg:border-b-0"
        >
          <div className="min-h-0 flex-1 p-3 lg:overflow-y-auto">
            {fieldsOf(view, { job: typed, field }, told)}
          </div>
        </section>
      )}
      <section
        aria-label="What it comes to"
        className={clsx(
          "flex flex-col max-lg:order-1 lg:min-h-0",
          // Columns beside one another have the room of both.
          view === "what-if" && "lg:col-span-2",
        )}
      >
        <Switch label="Ground" options={GROUND_VIEWS} value={view} onChange={onView} />
        <div
          className={clsx("relative min-h-0 flex-1 p-3 lg:overflow-y-auto", stale && "opacity-60")}
          aria-busy={stale}
        >
          {kind === "failed" && <NotWorkedOut {...{ error, again }} />}
          {told ? toldOf(view, { job, told }) : kind !== "failed" && <Loading what="the ground" />}
          {told && <WateringWorking told={told} />}
        </div>
      </section>
    </>
  );
}

function fieldsOf(
  view: Exclude<GroundView, "what-if">,
  props: { job: JobDocument; field: NonNullable<JobDocument["field"]> },
  told: WateringTold | undefined,
): ReactNode {
  switch (view) {
    case "guns":
      return <GunsFields {...props} told={told} />;
    case "field":
      return <FieldFields {...props} told={told} />;
    case "day":
      return <DayFields {...props} told={told} />;
    case "season":
      return <SeasonFields {...props} told={told} />;
    case "cans":
      return <CansFields {...props} />;
    case "drip":
      return <DripFields {...props} />;
    case "read":
      return <ReadFields {...props} />;
  }
}

function toldOf(view: GroundView, props: ToldProps): ReactNode {
  switch (view) {
    case "guns":
      return <GunsTold {...props} />;
    case "field":
      return <FieldTold {...props} />;
    case "day":
      return <DayTold {...props} />;
    case "season":
      return <SeasonTold {...props} />;
    case "cans":
      return <CansTold {...props} />;
    case "drip":
      return <DripTold {...props} />;
    case "read":
      return <ReadTold {...props} />;
    case "what-if":
      return (
        <Fetched fallback={<Loading what="the columns" />}>
          <WhatIfPane job={props.job} />
        </Fetched>
      );
  }
}
