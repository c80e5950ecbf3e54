import clsx from "clsx";
import { lazy, type ReactNode } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import { Fetched } from "../../lib/Fetched.tsx";
import { useJobStore } from "../../openJob/jobStore.ts";
import type { OwnProps } from "../../openJob/stage.ts";
import { useResult } from "../../openJob/useResult.ts";
import { Loading, NotWorkedOut } from "../../ui/Notices.tsx";
import { Switch } from "../../ui/Switch.tsx";
import { CansFields, CansResults } from "./Cans.tsx";
import { DayFields, DayResults } from "./Day.tsx";
import { DripFields, DripResults } from "./Drip.tsx";
import { FieldFields } from "./FieldFields.tsx";
import { FieldResults } from "./FieldResults.tsx";
import { ReadFields, ReadResults } from "./FromReadings.tsx";
import { GunsFields } from "./GunsFields.tsx";
import { GunsResults } from "./GunsResults.tsx";
import { IrrigationDerivation } from "./IrrigationDerivation.tsx";
import type { ResultProps } from "./resultProps.ts";
import { SeasonFields, SeasonResults } from "./Season.tsx";
import { IRRIGATION_VIEWS, type IrrigationView } from "./views.ts";

const WhatIfPane = lazy(() => import("../../whatif/WhatIfPane.tsx"));

/** A job's ground: what is typed of it on one side, what it comes to on the other. */
export default function IrrigationPane({ job, view, onView }: OwnProps<IrrigationView>) {
  const { value: told, stale, kind, error, again } = useResult("irrigation", { job });
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
        <Switch label="Ground" options={IRRIGATION_VIEWS} value={view} onChange={onView} />
        <div
          className={clsx("relative min-h-0 flex-1 p-3 lg:overflow-y-auto", stale && "opacity-60")}
          aria-busy={stale}
        >
          {kind === "failed" && <NotWorkedOut {...{ error, again }} />}
          {told ? toldOf(view, { job, told }) : kind !== "failed" && <Loading what="the ground" />}
          {told && <IrrigationDerivation told={told} />}
        </div>
      </section>
    </>
  );
}

function fieldsOf(
  view: Exclude<IrrigationView, "what-if">,
  props: { job: JobDocument; field: NonNullable<JobDocument["field"]> },
  told: IrrigationResult | undefined,
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

function toldOf(view: IrrigationView, props: ResultProps): ReactNode {
  switch (view) {
    case "guns":
      return <GunsResults {...props} />;
    case "field":
      return <FieldResults {...props} />;
    case "day":
      return <DayResults {...props} />;
    case "season":
      return <SeasonResults {...props} />;
    case "cans":
      return <CansResults {...props} />;
    case "drip":
      return <DripResults {...props} />;
    case "read":
      return <ReadResults {...props} />;
    case "what-if":
      return (
        <Fetched fallback={<Loading what="the columns" />}>
          <WhatIfPane job={props.job} />
        </Fetched>
      );
  }
}
