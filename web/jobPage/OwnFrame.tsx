import { DutyPanel } from "../duty/DutyPanel.tsx";
import { DUTY, DutyStrip } from "../duty/DutyStrip.tsx";
import { Fetched } from "../lib/Fetched.tsx";
import { shrinkHeads } from "../lib/heads.ts";
import type { LineViewProps, OwnStage } from "../openJob/stage.ts";
import { Loading } from "../ui/Notices.tsx";
import { useScroller } from "./useScroller.ts";

interface Props extends Pick<LineViewProps, "job" | "solved" | "band" | "onItem"> {
  stage: OwnStage;
  view: string;
  onView: (view: string) => void;
}

/** A stage with views of its own, the duty beside it. */
export function OwnFrame({ stage, job, solved, band, view, onView, onItem }: Props) {
  return (
    <div
      ref={useScroller(stage.id)}
      onScroll={shrinkHeads}
      className="relative min-h-0 flex-1 print:block max-lg:flex max-lg:flex-col max-lg:overflow-y-auto max-lg:*:shrink-0 lg:grid lg:grid-cols-[348px_minmax(0,1fr)_322px] lg:grid-rows-[minmax(0,1fr)]"
    >
      <Fetched fallback={<Loading what={stage.called} />}>
        <stage.Shown {...{ job, view, onView }} />
      </Fetched>
      <section
        id={DUTY}
        aria-label="Duty and checks"
        className="max-lg:order-3 lg:col-start-3 lg:overflow-y-auto lg:border-l lg:border-rule"
      >
        <DutyPanel {...{ solved, job, band, onItem }} />
      </section>
      <DutyStrip {...{ job, solved }} />
    </div>
  );
}
