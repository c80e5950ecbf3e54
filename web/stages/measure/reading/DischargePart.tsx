import { useMemo } from "react";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import type { Reach } from "#core/measurement/reach.ts";
import { lineKnown } from "#model/job/assumed.ts";
import { endOf } from "#model/job/sectionGeometry.ts";
import type { JobSolution } from "#model/job/solveJob.ts";
import { wellheadItem } from "#model/well/dropPipe.ts";
import { itemName } from "#words/items.ts";
import { Section } from "../../../drawings/Section.tsx";
import { pumpItems } from "../../../openJob/jobStore.ts";
import { useUnits } from "../../../state/settings.ts";
import { PercentField, SelectField } from "../../../ui/Fields.tsx";
import { QuantityField } from "../../../ui/QuantityField.tsx";
import { InstrumentPick } from "./InstrumentPick.tsx";
import { legend, type PartProps } from "./part.ts";
import { dischargeBy } from "./readingDraft.ts";

/** The discharge gauge: what it reads, how good it is, and where it sits. */
export function DischargePart({
  draft,
  change,
  job,
  solved,
  tap,
  scale,
  reach,
}: PartProps & {
  job: JobDocument;
  solved: JobSolution;
  /** m above the datum; none on a line that nobody has drawn */
  tap: number | undefined;
  /** Pa: the dial taken until one is picked */
  scale: number;
  reach: Reach;
}) {
  const units = useUnits();
  const pump = draft.running[0] ?? pumpItems(job.path)[0]?.id;
  const after = (pump !== undefined && onward(job.path, pump)) || [];
  // Past a fork only part of the water goes by a gauge, so the last place is before it.
  const end = after.findIndex(({ kind }) => kind === "split" || kind === "outlet");
  const known = lineKnown(job);
  const tapped = after.slice(0, end < 0 ? undefined : end).filter(({ kind }) => kind !== "rise");
  // No hand reaches what hangs in a well, and on a line nobody drew there is only the pump.
  const reached = tapped.findIndex(({ id }) => id === wellheadItem(job));
  const places = known ? tapped.slice(Math.max(reached, 0)) : after.slice(0, 1);
  const { discharge, suctionKind, suctions } = draft;
  const set = (by: Partial<typeof discharge>) => change(dischargeBy(by));
  const dial = discharge.elevation ?? tap;
  const { afterItemId } = discharge;
  const { elevation: suctionElevation } = suctions.gauge;
  const gauges = useMemo(() => {
    const marks = [];
    const at = endOf(solved, afterItemId);
    if (at && dial !== undefined)
      marks.push({ at, dial, label: `gauge ${format(dial, "length", units)}` });
    // A suction gauge stands before the pump, at its port.
    const port = pump === undefined ? undefined : endOf(solved, pump);
    if (suctionKind === "gauge" && port) {
      const own = suctionElevation ?? port.height;
      marks.push({ at: port, dial: own, label: `suction ${format(own, "length", units)}` });
    }
    return marks;
  }, [solved, afterItemId, dial, suctionKind, suctionElevation, pump, units]);
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Discharge gauge</legend>
      {known && (
        <>
          <div className="h-44 border border-rule bg-sheet">
            <Section
              {...{ job, solved, gauges }}
              selected={discharge.afterItemId}
              onPart={(_, itemId) => {
                if (places.some(({ id }) => id === itemId)) {
                  set({ afterItemId: itemId as string, elevation: undefined });
                }
              }}
            />
          </div>
          <p className="text-[13px] text-soft">Tap the part the gauge is tapped in after.</p>
        </>
      )}
      <div className="grid grid-cols-3 gap-2">
        <QuantityField
          label="Gauge reads"
          optional
          quantity="pressure"
          range={RANGES.pressure}
          value={discharge.pressure}
          onChange={(pressure) => set({ pressure })}
        />
        <QuantityField
          label="Full scale"
          quantity="pressure"
          range={RANGES.fullScale}
          value={discharge.fullScale ?? scale}
          onChange={(fullScale) => set({ fullScale })}
        />
        <PercentField
          label="Class, of full scale"
          max={50}
          value={discharge.accuracyClass}
          onChange={(accuracyClass) => set({ accuracyClass })}
        />
      </div>
      <div className="grid grid-cols-[1.9fr_1fr] gap-2">
        <SelectField
          label="Tapped in after"
          visibleLabel
          value={discharge.afterItemId}
          onChange={(afterItemId) => set({ afterItemId, elevation: undefined })}
        >
          {places.map((item) => (
            <option key={item.id} value={item.id}>
              {item.kind === "pump" ? "the pump’s port" : itemName(job.path, item.id, units)}
            </option>
          ))}
        </SelectField>
        <QuantityField
          label="Dial’s height"
          optional
          quantity="length"
          range={RANGES.elevation}
          value={discharge.elevation ?? tap}
          onChange={(elevation) => set({ elevation })}
        />
      </div>
      <InstrumentPick {...{ draft, change, reach }} of="discharge" />
      {reach.gauge && (
        <p className="text-[13px]">
          With the line shut the pump makes{reach.gauge.published ? "" : " at least"}{" "}
          <strong>{format(reach.gauge.most, "pressure", units)}</strong> there: the dial must reach
          over that.
        </p>
      )}
      <p className="text-[13px] text-soft">
        {solved.kind === "solved"
          ? "Height above the job’s datum; what lies between pump and gauge is counted at the measured flow. Let the pressure off before opening a joint."
          : !known
            ? "Height above the mark that levels are measured from. Let the pressure off before opening a joint."
            : "The gauge’s place on the line counts once the line can be solved."}
      </p>
    </fieldset>
  );
}

/** An item and what the water meets after it: its own leg first, then the main. */
function onward(list: readonly JobPathItem[], id: string): JobPathItem[] | undefined {
  for (const [index, item] of list.entries()) {
    if (item.id === id) return list.slice(index);
    if (item.kind !== "split") continue;
    for (const branch of item.branches) {
      const leg = onward(branch, id);
      if (leg) return [...leg, ...list.slice(index + 1)];
    }
  }
  return undefined;
}
