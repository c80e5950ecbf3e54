import clsx from "clsx";
import { useId } from "react";
import { format } from "#contract/units/format.ts";
import { bareUnit, inBareUnit, MEASURES, type Measure } from "#model/kinds/kind.ts";
import { DRAWN } from "../drawings/drawings.tsx";
import { useUnits } from "../state/settings.ts";
import { Problem } from "../ui/Problem.tsx";
import { useRefusal } from "../ui/refusals.ts";
import { type Entry, NAMES_A_UNIT } from "./sketchDraft.ts";

/** A dimension to be typed, where it stands on the drawing; without a place, one of the assumptions beside it. */
export function SketchField({
  measure,
  label,
  entry,
  usual,
  clash,
  x,
  y,
  autoFocus,
  onType,
}: {
  measure: Measure;
  label: string;
  entry: Entry;
  /** SI: stands in while nothing is typed */
  usual?: number | undefined;
  clash: string | undefined;
  x?: number;
  y?: number;
  autoFocus?: boolean;
  onType: (text: string) => void;
}) {
  const units = useUnits();
  const id = useId();
  const { quantity } = MEASURES[measure];
  const { text, value } = entry;
  const problem = entry.problem ?? clash;
  useRefusal(id, label, problem !== undefined);
  const unit = bareUnit(measure, units);
  const placed = x !== undefined && y !== undefined;
  // Paces, bricks, feet and inches: what they come to in the unit shown.
  const said = value !== undefined && NAMES_A_UNIT.test(text) ? format(value, quantity, units) : "";
  return (
    <div
      className={clsx("min-w-0", placed && "absolute w-[31%] max-w-32")}
      style={
        placed
          ? { left: `${(x / DRAWN.width) * 100}%`, top: `${(y / DRAWN.height) * 100}%` }
          : undefined
      }
    >
      <label
        htmlFor={id}
        className={clsx(
          "mb-0.5 block text-[13px] leading-tight",
          placed ? "w-fit rounded-sm bg-sheet/85 font-medium" : "text-soft",
        )}
      >
        {label}
      </label>
      <div className="relative">
        <input
          id={id}
          className={clsx(
            "entry target plate text-[18px]",
            problem && "border-signal outline-2 outline-signal",
            placed && !problem && "border-soft",
          )}
          style={{ paddingRight: `calc(0.5rem + ${(said || unit).length * 0.45}rem)` }}
          inputMode="text"
          autoComplete="off"
          spellCheck={false}
          // biome-ignore lint/a11y/noAutofocus: the card is opened to type its first dimension
          autoFocus={autoFocus && matchMedia("(pointer: fine)").matches}
          value={text}
          placeholder={
            usual === undefined ? undefined : inBareUnit(measure, usual, units).split(" ")[0]
          }
          aria-invalid={problem !== undefined}
          aria-describedby={problem ? `${id}-problem` : undefined}
          onChange={(event) => onType(event.target.value)}
        />
        <span
          aria-hidden
          className="pointer-events-none absolute inset-y-0 right-1.5 flex items-center text-[13px] text-soft"
        >
          {said || unit}
        </span>
      </div>
      <Problem id={`${id}-problem`}>{problem}</Problem>
    </div>
  );
}
