import { useMemo, useState } from "react";
import { SHOWN } from "#contract/units/units.ts";
import { lookOver, type TraceRemark } from "#core/trace/sheet.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import type { GotCurve } from "./gotCurve.ts";
import { readingOf, toSi, traceOf } from "./marks.ts";
import { LineFields, SheetFields } from "./TraceFields.tsx";
import { TracePicture } from "./TracePicture.tsx";
import { FAULTS, TraceRemarks } from "./TraceRemarks.tsx";
import { beginTrace } from "./traceDraft.ts";
import { type Opened, usePicture } from "./usePicture.ts";

/** A curve traced on a picture: where its sheet and axes lie, clicks along each line, the trace over the picture. */
export default function TraceSheet({
  file,
  ratedSpeed,
  onGot,
  onClose,
}: {
  file: File;
  ratedSpeed: number;
  onGot: (curve: GotCurve) => void;
  onClose: () => void;
}) {
  const picture = usePicture(file);
  return (
    <Dialog open onClose={onClose} title="Trace the curve" wide>
      {picture.kind === "opening" && <p>Opening the picture …</p>}
      {picture.kind === "failed" && (
        <p role="alert" className="text-signal">
          {picture.message}
        </p>
      )}
      {picture.kind === "opened" && <Trace {...{ picture, ratedSpeed, onGot }} />}
    </Dialog>
  );
}

function Trace({
  picture,
  ratedSpeed,
  onGot,
}: {
  picture: Opened;
  ratedSpeed: number;
  onGot: (curve: GotCurve) => void;
}) {
  const { flow, head } = SHOWN[useUnits()];
  const [draft, change] = useState(() => beginTrace({ flow, head }));
  const { marks, lines, units } = draft;
  const reading = useMemo(() => readingOf(marks), [marks]);
  const at = reading?.kind === "read" ? reading.at : undefined;
  const read = lines.map(({ clicks }) => (at ? lookOver(clicks.map(at)) : undefined));
  const first = read[0];
  // Another line that was begun is right before it is used, or is taken out again.
  const begun = read.flatMap((own, i) =>
    own && (i === 0 || lines[i]?.clicks.length) ? [{ ...own, name: lines[i]?.name ?? "" }] : [],
  );
  const stops = begun.some(({ remarks }) => remarks.some(({ kind }) => STOPPING.has(kind)));
  const use = () => {
    if (!at || !first || reading?.kind !== "read") return;
    const si = ({ flow, head }: { flow: number; head: number }) => ({
      flow: Math.max(toSi(flow, "flow", units.flow), 0),
      head: Math.max(toSi(head, "head", units.head), 0),
    });
    const others = lines.slice(1).flatMap(({ name, speed, clicks }, i) => {
      const points = read[i + 1]?.points.map(si);
      if (!points || clicks.length === 0) return [];
      return [{ name: name.trim() || `Line ${i + 2}`, ...(speed && { speed }), points }];
    });
    onGot({
      ...{ points: first.points.map(si), from: "traced", picture: picture.content },
      trace: traceOf(marks, lines, units.flow, units.head),
      ...(others.length > 0 && { otherLines: others }),
    });
  };

  return (
    <div className="grid gap-3 lg:grid-cols-[minmax(0,1fr)_20rem]">
      <TracePicture {...{ picture, draft, change, read }} />
      <div className="grid content-start gap-3 text-[15px]">
        <SheetFields {...{ draft, change }} />
        <LineFields {...{ draft, change, ratedSpeed }} />
        {reading?.kind === "fault" && (
          <p role="alert" className="text-signal">
            {FAULTS[reading.fault]}
          </p>
        )}
        <TraceRemarks begun={begun} unit={units.flow} />
        <Button look="strong" disabled={!first || stops} onClick={use}>
          Use this curve
        </Button>
      </div>
    </div>
  );
}

/** What a line cannot be used with. */
const STOPPING: ReadonlySet<TraceRemark["kind"]> = new Set(["too-few", "negative", "doubled"]);
