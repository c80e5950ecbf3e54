import { type KeyboardEvent, useMemo, useState } from "react";
import { SHOWN, UNITS } from "#contract/units/units.ts";
import type { Spot } from "#core/trace/projective.ts";
import { lookOver, type SheetFault, type TraceRemark } from "#core/trace/sheet.ts";
import { snapToLine } from "#core/trace/snapToLine.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { NumberField, SelectField, TextField } from "../../ui/Fields.tsx";
import { OptionalNumber } from "../../ui/OptionalNumber.tsx";
import type { GotCurve } from "./gotCurve.ts";
import { Loupe } from "./Loupe.tsx";
import {
  type Held,
  type Line,
  type Marks,
  nearest,
  readingOf,
  spotOf,
  toSi,
  traceOf,
  withMark,
} from "./marks.ts";
import { Overlay } from "./Overlay.tsx";
import { type Opened, usePicture } from "./usePicture.ts";

/** What a click on the picture sets next. */
type Aim =
  | { what: "corner"; index: number }
  | { what: "flow" | "head"; index: 0 | 1 }
  | { what: "line"; line: number };

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
  const units = useUnits();
  const [flowUnit, setFlowUnit] = useState(SHOWN[units].flow);
  const [headUnit, setHeadUnit] = useState(SHOWN[units].head);
  const [marks, setMarks] = useState<Marks>({
    ...{ corners: [], askew: false },
    flow: [{ value: 0 }, { value: 0 }],
    head: [{ value: 0 }, { value: 0 }],
  });
  const [lines, setLines] = useState<Line[]>([
    { name: "Rated speed", speed: undefined, clicks: [] },
  ]);
  const [aim, setAim] = useState<Aim>({ what: "flow", index: 0 });
  const [held, setHeld] = useState<Held>();
  const [over, setOver] = useState<Spot>();
  const [snaps, setSnaps] = useState(true);
  const reading = useMemo(() => readingOf(marks), [marks]);
  const at = reading?.kind === "read" ? reading.at : undefined;

  const changeLine = (at: number, change: (line: Line) => Partial<Line>) =>
    setLines((all) => all.map((own, i) => (i === at ? { ...own, ...change(own) } : own)));
  const changeClicks = (line: number, change: (clicks: Spot[]) => Spot[]) =>
    changeLine(line, ({ clicks }) => ({ clicks: change(clicks) }));
  const place = (spot: Spot) => {
    switch (aim.what) {
      case "corner": {
        const corners = [...marks.corners];
        corners[aim.index] = spot;
        setMarks({ ...marks, corners });
        setHeld({ what: "corner", index: aim.index });
        if (aim.index < 3) setAim({ what: "corner", index: aim.index + 1 });
        else setAim({ what: "flow", index: 0 });
        return;
      }
      case "flow":
      case "head": {
        const { what, index } = aim;
        setMarks((before) => withMark(before, what, index, { at: spot }));
        setHeld({ what, index });
        return;
      }
      case "line": {
        const own = snaps ? (snapToLine(picture.grey, spot, picture.reach) ?? spot) : spot;
        changeClicks(aim.line, (clicks) => [...clicks, own]);
        setHeld({ what: "line", line: aim.line, index: lines[aim.line]?.clicks.length ?? 0 });
      }
    }
  };
  const move = (by: Spot) => {
    const shift = ([x, y]: Spot): Spot => [x + by[0], y + by[1]];
    if (!held) return;
    if (held.what === "corner") {
      setMarks({
        ...marks,
        corners: marks.corners.map((own, i) => (i === held.index ? shift(own) : own)),
      });
    } else if (held.what === "line") {
      changeClicks(held.line, (clicks) =>
        clicks.map((own, k) => (k === held.index ? shift(own) : own)),
      );
    } else {
      const before = marks[held.what][held.index].at;
      if (before) setMarks(withMark(marks, held.what, held.index, { at: shift(before) }));
    }
  };
  const takeOut = () => {
    if (held?.what !== "line") return;
    changeClicks(held.line, (clicks) => clicks.filter((_, k) => k !== held.index));
    setHeld(undefined);
  };
  const onKey = (event: KeyboardEvent) => {
    const step = event.shiftKey ? 5 : 0.5;
    const ways: Record<string, Spot> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const way = ways[event.key];
    if (way && held) {
      event.preventDefault();
      move(way);
    } else if ((event.key === "Delete" || event.key === "Backspace") && held?.what === "line") {
      event.preventDefault();
      takeOut();
    }
  };
  const read = lines.map(({ clicks }) => (at ? lookOver(clicks.map(at)) : undefined));
  const first = read[0];
  // Another line that was begun is right before it is used, or is taken out again.
  const begun = read.flatMap((own, i) =>
    own && (i === 0 || lines[i]?.clicks.length) ? [{ ...own, name: lines[i]?.name ?? "" }] : [],
  );
  const stops = begun.some(({ remarks }) => remarks.some(({ kind }) => STOPPING.has(kind)));
  const heldSpot = spotOf(held, marks, lines);
  const use = () => {
    if (!at || !first || reading?.kind !== "read") return;
    const si = ({ flow, head }: { flow: number; head: number }) => ({
      flow: Math.max(toSi(flow, "flow", flowUnit), 0),
      head: Math.max(toSi(head, "head", headUnit), 0),
    });
    const others = lines.slice(1).flatMap(({ name, speed, clicks }, i) => {
      const points = read[i + 1]?.points.map(si);
      if (!points || clicks.length === 0) return [];
      return [{ name: name.trim() || `Line ${i + 2}`, ...(speed && { speed }), points }];
    });
    onGot({
      ...{ points: first.points.map(si), from: "traced", picture: picture.content },
      trace: traceOf(marks, lines, flowUnit, headUnit),
      ...(others.length > 0 && { otherLines: others }),
    });
  };

  return (
    <div className="grid gap-3 lg:grid-cols-[minmax(0,1fr)_20rem]">
      <div className="min-w-0">
        <div
          className="relative w-full overflow-hidden rounded border border-rule"
          style={{ aspectRatio: `${picture.width} / ${picture.height}` }}
        >
          <img
            src={picture.url}
            alt=""
            className="absolute inset-0 h-full w-full"
            draggable={false}
          />
          <Overlay {...{ picture, marks, lines, held, read }} />
          <button
            type="button"
            className="absolute inset-0 cursor-crosshair touch-none"
            aria-label="The picture: click to place a mark; arrow keys move it by half a pixel, with Shift by five"
            onKeyDown={onKey}
            onPointerMove={(event) => setOver(spotAt(event, picture))}
            onPointerLeave={() => setOver(undefined)}
            onClick={(event) => {
              // The Enter key places a mark where the pointer is.
              const spot = event.detail === 0 ? over : spotAt(event, picture);
              if (!spot) return;
              const near = nearest(spot, lines, picture.width / 90);
              if (near && aim.what === "line") setHeld(near);
              else place(spot);
            }}
          />
        </div>
        <div className="flex items-end gap-3">
          <Loupe picture={picture} at={over ?? heldSpot} />
          <Button disabled={held?.what !== "line"} onClick={takeOut}>
            Take this click out
          </Button>
        </div>
      </div>
      <div className="grid content-start gap-3 text-[15px]">
        <label className="flex min-h-9 items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={marks.askew}
            onChange={(event) => {
              setMarks({ ...marks, askew: event.target.checked });
              setAim(
                event.target.checked ? { what: "corner", index: 0 } : { what: "flow", index: 0 },
              );
            }}
          />
          Photographed askew: mark four corners of a rectangle on the sheet
        </label>
        {marks.askew && (
          <div className="flex flex-wrap gap-1">
            {["top left", "top right", "bottom right", "bottom left"].map((name, index) => (
              <Button
                key={name}
                look={aim.what === "corner" && aim.index === index ? "strong" : "plain"}
                aria-pressed={aim.what === "corner" && aim.index === index}
                onClick={() => setAim({ what: "corner", index })}
              >
                {name}
                {marks.corners[index] ? " ✓" : ""}
              </Button>
            ))}
          </div>
        )}
        {(["flow", "head"] as const).map((axis) => (
          <fieldset key={axis} className="grid grid-cols-[auto_1fr_1fr] items-end gap-2">
            <legend className="plate text-[18px]">
              {axis === "flow" ? "Flow axis" : "Head axis"}
            </legend>
            <SelectField
              label={axis === "flow" ? "Flow in" : "Head in"}
              visibleLabel
              value={axis === "flow" ? flowUnit : headUnit}
              onChange={axis === "flow" ? setFlowUnit : setHeadUnit}
            >
              {UNITS[axis].map(({ symbol }) => (
                <option key={symbol} value={symbol}>
                  {symbol}
                </option>
              ))}
            </SelectField>
            {([0, 1] as const).map((index) => (
              <div key={index}>
                <NumberField
                  label={`${axis === "flow" ? "Flow" : "Head"} at place ${index + 1}`}
                  visibleLabel
                  value={marks[axis][index].value}
                  min={0}
                  max={1e6}
                  onChange={(value) =>
                    setMarks((before) => withMark(before, axis, index, { value }))
                  }
                />
                <Button
                  className="mt-1 w-full"
                  look={aim.what === axis && aim.index === index ? "strong" : "plain"}
                  aria-pressed={aim.what === axis && aim.index === index}
                  onClick={() => setAim({ what: axis, index })}
                >
                  {marks[axis][index].at ? "Placed ✓" : `Click place ${index + 1}`}
                </Button>
              </div>
            ))}
          </fieldset>
        ))}
        <section aria-label="Lines" className="grid gap-2">
          <h3 className="plate text-[18px]">Lines</h3>
          {lines.map((line, i) => (
            <div
              key={i}
              className={i === 0 ? "grid grid-cols-[1fr_auto] items-end gap-2" : "grid gap-1"}
            >
              {i === 0 ? (
                <p className="self-center">
                  Rated speed{ratedSpeed ? `, ${ratedSpeed.toFixed(0)} rpm` : ""}
                </p>
              ) : (
                <div className="grid grid-cols-[1.6fr_1fr] items-end gap-2">
                  <TextField
                    label="Name"
                    value={line.name}
                    maxLength={40}
                    onChange={(name) => changeLine(i, () => ({ name }))}
                  />
                  <OptionalNumber
                    label="rpm, if not rated"
                    most={30_000}
                    whole={false}
                    value={line.speed}
                    onChange={(speed) => changeLine(i, () => ({ speed: speed || undefined }))}
                  />
                </div>
              )}
              <Button
                look={aim.what === "line" && aim.line === i ? "strong" : "plain"}
                aria-pressed={aim.what === "line" && aim.line === i}
                onClick={() => setAim({ what: "line", line: i })}
              >
                Click along it <span className="text-[13px]">({line.clicks.length})</span>
              </Button>
            </div>
          ))}
          <div className="flex flex-wrap items-center gap-2">
            <Button
              look="quiet"
              onClick={() => {
                setLines((all) => [
                  ...all,
                  { name: `Line ${all.length + 1}`, speed: undefined, clicks: [] },
                ]);
                setAim({ what: "line", line: lines.length });
              }}
            >
              Another speed or impeller on the sheet
            </Button>
            <label className="flex min-h-9 items-center gap-2">
              <input
                type="checkbox"
                className="size-5"
                checked={snaps}
                onChange={(event) => setSnaps(event.target.checked)}
              />
              Draw clicks to the line
            </label>
          </div>
        </section>
        {reading?.kind === "fault" && (
          <p role="alert" className="text-signal">
            {FAULTS[reading.fault]}
          </p>
        )}
        {begun.length > 0 && (
          <ul aria-label="What is said of the trace" className="text-[14px]">
            {begun.flatMap(({ name, points, remarks }, i) => {
              const whose = begun.length > 1 ? `${name}: ` : "";
              return [
                ...remarks.map((remark) => (
                  <li key={`${i} ${remark.kind} ${"index" in remark ? remark.index : ""}`}>
                    {whose}
                    {remarkWords(remark, points, flowUnit)}
                  </li>
                )),
                <li key={`${i} points`} className="text-soft">
                  {whose}
                  {points.length} points
                  {points.length > 0 &&
                    `, from ${points[0]?.flow.toFixed(1)} to ${points.at(-1)?.flow.toFixed(1)} ${flowUnit}`}
                </li>,
              ];
            })}
          </ul>
        )}
        <Button look="strong" disabled={!first || stops} onClick={use}>
          Use this curve
        </Button>
      </div>
    </div>
  );
}

/** What a line cannot be used with. */
const STOPPING: ReadonlySet<TraceRemark["kind"]> = new Set(["too-few", "negative", "doubled"]);

/** Where a pointer is, in pixels of the picture. */
function spotAt(
  event: { clientX: number; clientY: number; currentTarget: Element },
  { width, height }: Opened,
): Spot {
  const box = event.currentTarget.getBoundingClientRect();
  return [
    ((event.clientX - box.left) / box.width) * width,
    ((event.clientY - box.top) / box.height) * height,
  ];
}

const FAULTS: Record<SheetFault, string> = {
  "corners-in-line": "Three of the corners lie on one line: mark the four corners of a rectangle.",
  "flow-marks-together": "The two places on the flow axis are the same.",
  "head-marks-together": "The two places on the head axis are the same.",
  "same-flow-twice": "Type the two flows that are printed at the places on the flow axis.",
  "same-head-twice": "Type the two heads that are printed at the places on the head axis.",
  "axes-in-line": "The two axes run the same way: one goes along the flow, one along the head.",
};

function remarkWords(
  remark: TraceRemark,
  points: readonly { flow: number }[],
  unit: string,
): string {
  const where = (index: number) => `${points[index]?.flow.toFixed(1)} ${unit}`;
  switch (remark.kind) {
    case "too-few":
      return `Click along the line: ${remark.count} so far, at least four.`;
    case "doubled":
      return `Two clicks stand at nearly the same flow, ${where(remark.index)}: take one out.`;
    case "negative":
      return `The click at ${where(remark.index)} lies outside the axes: look at the axes again.`;
    case "rises":
      return `The head rises towards ${where(remark.index)}: few pumps do, so look again.`;
    case "wild":
      return `The click at ${where(remark.index)} lies off the others' curve: look again.`;
  }
}
