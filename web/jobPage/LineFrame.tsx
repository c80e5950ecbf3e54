import clsx from "clsx";
import { lineKnown } from "#model/job/assumed.ts";
import { Section } from "../drawings/Section.tsx";
import { SectionStrip } from "../drawings/SectionStrip.tsx";
import { DutyPanel } from "../duty/DutyPanel.tsx";
import { DUTY, DutyStrip } from "../duty/DutyStrip.tsx";
import { Fetched } from "../lib/Fetched.tsx";
import { shrinkHeads } from "../lib/heads.ts";
import type { Part } from "../openJob/part.ts";
import type { LinePart, LineStage, LineView, LineViewProps } from "../openJob/stage.ts";
import { useSettings } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Loading } from "../ui/Notices.tsx";
import { Switch } from "../ui/Switch.tsx";
import { PartInHand } from "./PartInHand.tsx";
import { viewsAt } from "./stages.ts";
import { useScroller } from "./useScroller.ts";

interface Props extends LineViewProps {
  stage: LineStage;
  part: LinePart;
  view: LineView;
  onView: (view: string) => void;
  onPart: (part: Part, itemId?: string) => void;
  onSelect: (itemId: string | undefined) => void;
}

/** A stage of the line: its section, the part of it in hand, one view of it, and the duty. */
export function LineFrame({ stage, part, view, onView, onPart, onSelect, ...line }: Props) {
  const { job, solved, band, selected, onItem } = line;
  const { sectionFolded, toggleSection } = useSettings();
  const { verdictFirst = false, parts } = stage;
  return (
    <div
      ref={useScroller(stage.id)}
      onScroll={shrinkHeads}
      className={clsx(
        "relative min-h-0 flex-1 print:block max-lg:flex max-lg:flex-col max-lg:overflow-y-auto max-lg:*:shrink-0 lg:grid lg:grid-cols-[minmax(0,1.06fr)_minmax(0,0.94fr)_322px]",
        sectionFolded
          ? "lg:grid-rows-[auto_minmax(0,1fr)]"
          : "lg:grid-rows-[minmax(180px,37%)_minmax(0,1fr)]",
      )}
    >
      <section
        aria-label="Section"
        className={clsx(
          "border-b border-rule bg-sheet lg:col-span-2 print:h-64",
          !sectionFolded && "h-60 lg:h-auto",
        )}
      >
        {!lineKnown(job) ? (
          <p className="p-4 pr-20 text-soft">
            Nobody has drawn this line. What stands below is only there to be typed over: the
            drawing follows.
          </p>
        ) : sectionFolded ? (
          <SectionStrip {...{ job, solved }} />
        ) : (
          <Section {...{ job, solved, selected, onPart }} />
        )}
        <Button
          look="quiet"
          className="no-print absolute! top-1 right-1 bg-sheet/80 text-[14px] text-soft"
          aria-expanded={!sectionFolded}
          aria-label={sectionFolded ? "Unfold the section (F)" : "Fold the section (F)"}
          onClick={toggleSection}
        >
          {sectionFolded ? "Unfold" : "Fold"}
        </Button>
      </section>
      <section
        id={DUTY}
        aria-label="Duty and checks"
        className={clsx(
          "border-b border-rule lg:col-start-3 lg:row-span-2 lg:row-start-1 lg:overflow-y-auto lg:border-b-0 lg:border-l",
          verdictFirst ? "max-lg:order-2" : "max-lg:order-3",
        )}
      >
        <DutyPanel {...{ solved, job, band, onItem }} />
      </section>
      <section
        aria-label="Part in hand"
        className={clsx(
          "flex flex-col border-b border-rule lg:min-h-0 lg:border-b-0",
          verdictFirst ? "max-lg:order-3" : "max-lg:order-2",
        )}
      >
        {parts.length > 1 && (
          <Switch
            label="Part in hand"
            options={parts.map((own) => ({ value: own.part, name: own.name }))}
            value={part.part}
            onChange={(value) => onPart(value)}
          />
        )}
        <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
          <PartInHand {...{ part, solved, selected, onSelect }} />
        </div>
      </section>
      <section
        aria-label="Ledger, sizes or curve"
        className="flex flex-col max-lg:order-4 lg:min-h-0 lg:border-l lg:border-rule"
      >
        <Switch
          label="Ledger, sizes or curve"
          options={viewsAt(stage, job)}
          value={view.value}
          onChange={onView}
        />
        <div className="relative min-h-0 flex-1 lg:overflow-y-auto">
          <Fetched fallback={<Loading what={view.called} />}>
            <view.Shown {...line} />
          </Fetched>
        </div>
      </section>
      <DutyStrip {...{ job, solved }} />
    </div>
  );
}
