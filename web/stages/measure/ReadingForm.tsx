import { lazy, Suspense, useMemo, useState } from "react";
import type { WholeProps } from "../../openJob/stage.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { TextField } from "../../ui/Fields.tsx";
import { Loading } from "../../ui/Notices.tsx";
import { DischargePart } from "./reading/DischargePart.tsx";
import { FlowPart } from "./reading/FlowPart.tsx";
import { PicturesPart } from "./reading/PicturesPart.tsx";
import { emptyDraft } from "./reading/readingDraft.ts";
import type { ReadingStore } from "./reading/readingStore.ts";
import { SpeedPart } from "./reading/SpeedPart.tsx";
import { SuctionPart } from "./reading/SuctionPart.tsx";
import { SupplyPart } from "./reading/SupplyPart.tsx";
import { takenLive } from "./reading/takenLive.ts";
import { ValvePart } from "./reading/ValvePart.tsx";
import { SweepCard } from "./SweepCard.tsx";
import { useAbout } from "./useAbout.ts";
import type { ReadingInHand } from "./useReadingInHand.ts";
import type { VisitsInHand } from "./useVisits.ts";
import { VisitDetails } from "./VisitDetails.tsx";
import { VisitKind } from "./VisitKind.tsx";

const LivePanel = lazy(() =>
  import("../../streams/LivePanel.tsx").then((own) => ({ default: own.LivePanel })),
);

interface Props extends Pick<WholeProps, "job" | "solved" | "owner">, ReadingStore {
  inHand: ReadingInHand;
  visits: VisitsInHand;
  /** whether what is read beside the flow is shown */
  also: boolean;
  setAlso: (also: boolean) => void;
  /** why an entry was refused, where one was */
  refused: string | undefined;
  filing: boolean;
  file: () => Promise<void>;
}

/** What is read and how, part by part. */
export function ReadingForm(props: Props) {
  const { job, solved, owner, draft, change, replace, inHand, visits } = props;
  const { also, setAlso, refused, filing, file } = props;
  const { id } = owner;
  const onJob = owner.of === "jobs";
  const units = useUnits();
  const [live, setLive] = useState(false);
  const { ran, tap, pump, water, reach, scale, setups, result, sweep, needle } = inHand;
  const { today, todays } = visits;
  const rated = ran?.pump;
  const changes = useMemo(
    () => (job.variants ?? []).map(({ label }) => label ?? ""),
    [job.variants],
  );
  const [about, sayOfVisit] = useAbout(id, todays, draft.about, (next) => change({ about: next }));
  return (
    <section
      aria-label="Reading"
      className="grid content-start gap-4 border-rule p-3 lg:overflow-y-auto lg:border-r"
    >
      <div>
        {onJob && <VisitKind {...{ draft, change }} />}
        <VisitDetails
          key={today.id}
          {...{ about, changes }}
          pump={ran?.pump}
          units={onJob}
          onChange={sayOfVisit}
        />
      </div>
      {onJob && (
        <details open={live} onToggle={(event) => setLive(event.currentTarget.open)}>
          <summary className="plate min-h-11 content-center text-xl">
            I have instruments that stream …
          </summary>
          {live && (
            <Suspense fallback={<Loading what="the instruments" />}>
              <LivePanel
                jobId={id}
                shut={draft.valve === "shut"}
                onTake={(now) => {
                  change((before) => takenLive(now, before, rated?.ratedSpeedRpm, scale));
                  setAlso(true);
                }}
                onValve={(to) =>
                  change({ valve: to >= 1 ? "open" : to <= 0 ? "shut" : "throttled" })
                }
              />
            </Suspense>
          )}
        </details>
      )}
      {also && sweep && <SweepCard {...{ sweep, needle, job, draft, change }} />}
      {/* Another reading begins with entries of its own: a text that was refused goes with the reading it was of. What
          listens, and the clock of a shut valve, go on. */}
      <div key={draft.id} className="contents">
        {also && <ValvePart {...{ draft, change }} mayShut={sweep?.allowed.kind === "to-shut"} />}
        {draft.valve !== "shut" && <FlowPart {...{ draft, change, job, setups, reach }} />}
        <details open={also} onToggle={(event) => setAlso(event.currentTarget.open)}>
          <summary className="plate min-h-11 content-center text-xl">
            I also have a gauge{rated?.drive === "engine" ? ", a tachometer" : ", a clamp meter"} …
          </summary>
          <div className="grid gap-4 pt-1">
            <DischargePart {...{ draft, change, job, solved, tap, scale, reach }} />
            <SuctionPart {...{ draft, change, pump, water }} />
            {rated?.drive === "engine" && (
              <SpeedPart {...{ draft, change }} rated={rated.ratedSpeedRpm} />
            )}
            {rated && rated.drive !== "engine" && (
              <SupplyPart {...{ draft, change }} pump={rated} />
            )}
          </div>
        </details>
        <TextField
          label="Note"
          value={draft.note}
          maxLength={1000}
          onChange={(note) => change({ note })}
        />
        <PicturesPart {...{ draft, change }} jobId={id} />
      </div>
      <div className="flex flex-wrap gap-2 bg-paper lg:sticky lg:-bottom-3 lg:z-10 lg:py-3">
        <Button
          look="strong"
          disabled={filing || result.kind !== "ready" || refused !== undefined}
          onClick={() => void file()}
        >
          File this reading
        </Button>
        <Button onClick={() => replace(emptyDraft(job, units))}>Clear</Button>
        {refused && <p className="content-center text-[14px] text-signal">{refused}</p>}
      </div>
    </section>
  );
}
