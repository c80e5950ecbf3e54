import { UNITS } from "#contract/units/units.ts";
import { Button } from "../../ui/Button.tsx";
import { NumberField, SelectField, TextField } from "../../ui/Fields.tsx";
import { OptionalNumber } from "../../ui/OptionalNumber.tsx";
import { withMark } from "./marks.ts";
import { type Aim, type TraceDraft, withAnotherLine, withAskew, withLine } from "./traceDraft.ts";

interface Props {
  draft: TraceDraft;
  change: (by: (before: TraceDraft) => TraceDraft) => void;
}

const aiming =
  ({ change }: Props) =>
  (aim: Aim) =>
    change((before) => ({ ...before, aim }));

/** Where the sheet lies in the picture, and what is printed at two places of each axis. */
export function SheetFields(props: Props) {
  const { draft, change } = props;
  const { marks, aim, units } = draft;
  const setAim = aiming(props);
  return (
    <>
      <label className="flex min-h-9 items-center gap-2">
        <input
          type="checkbox"
          className="size-5"
          checked={marks.askew}
          onChange={({ target }) => change((before) => withAskew(before, target.checked))}
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
            value={units[axis]}
            onChange={(unit) =>
              change((before) => ({ ...before, units: { ...before.units, [axis]: unit } }))
            }
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
                  change((before) => ({
                    ...before,
                    marks: withMark(before.marks, axis, index, { value }),
                  }))
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
    </>
  );
}

/** The lines on the sheet, each to be clicked along. */
export function LineFields({ ratedSpeed, ...props }: Props & { ratedSpeed: number }) {
  const { draft, change } = props;
  const { lines, aim, snaps } = draft;
  const setAim = aiming(props);
  return (
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
                onChange={(name) => change((before) => withLine(before, i, { name }))}
              />
              <OptionalNumber
                label="rpm, if not rated"
                most={30_000}
                whole={false}
                value={line.speed}
                onChange={(speed) =>
                  change((before) => withLine(before, i, { speed: speed || undefined }))
                }
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
        <Button look="quiet" onClick={() => change(withAnotherLine)}>
          Another speed or impeller on the sheet
        </Button>
        <label className="flex min-h-9 items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={snaps}
            onChange={({ target }) => change((before) => ({ ...before, snaps: target.checked }))}
          />
          Draw clicks to the line
        </label>
      </div>
    </section>
  );
}
