import { lazy, Suspense, useState } from "react";
import { CURVE_WAYS, type CurveWay } from "#contract/documents/pump.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { formatPercent } from "#contract/units/format.ts";
import { isBareNumber, parseQuantity } from "#contract/units/parse.ts";
import type { Quantity } from "#contract/units/units.ts";
import { SHOWN } from "#contract/units/units.ts";
import {
  type ChartRow,
  fromChartRows,
  fromSticker,
  fromThreePoints,
  STICKER_UNCERTAINTY,
} from "#core/pump/curveFrom.ts";
import { CURVE_WAY_NAMES } from "#words/plate.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { SelectField } from "../ui/Fields.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";
import type { GotCurve } from "./trace/gotCurve.ts";

const TraceSheet = lazy(() => import("./trace/TraceSheet.tsx"));

/** How a curve is got in where its points are not simply typed. */
export function CurveEntry({
  from,
  ratedSpeed,
  onGot,
}: {
  from: CurveWay;
  ratedSpeed: number;
  onGot: (curve: GotCurve) => void;
}) {
  const [way, setWay] = useState<CurveWay>(from);
  return (
    <div className="grid gap-2 pb-2">
      <SelectField
        label="How its curve is known"
        visibleLabel
        className="sm:w-80"
        value={way}
        onChange={(next) => setWay(next as CurveWay)}
      >
        {CURVE_WAYS.map((own) => (
          <option key={own} value={own}>
            {CURVE_WAY_NAMES[own]}
          </option>
        ))}
      </SelectField>
      {way === "three-points" && <ThreePoints onGot={onGot} />}
      {way === "sticker" && <Sticker onGot={onGot} />}
      {way === "chart-rows" && <ChartRows onGot={onGot} />}
      {way === "traced" && <Traced {...{ ratedSpeed, onGot }} />}
    </div>
  );
}

type Numbers = Record<string, number | undefined>;

function Entries({
  fields,
  values,
  onChange,
}: {
  fields: readonly { key: string; label: string; quantity: "flow" | "head" }[];
  values: Numbers;
  onChange: (values: Numbers) => void;
}) {
  return (
    <div className="grid grid-cols-2 items-end gap-2 sm:grid-cols-5">
      {fields.map(({ key, label, quantity }) => (
        <QuantityField
          key={key}
          {...{ label, quantity }}
          optional
          range={quantity === "flow" ? RANGES.curveFlow : RANGES.head}
          value={values[key]}
          onChange={(value) => onChange({ ...values, [key]: value })}
        />
      ))}
    </div>
  );
}

function ThreePoints({ onGot }: { onGot: (curve: GotCurve) => void }) {
  const [values, setValues] = useState<Numbers>({});
  const { shutOff, bestFlow, bestHead, lastFlow, lastHead } = values;
  const whole =
    shutOff !== undefined &&
    bestFlow &&
    bestHead !== undefined &&
    lastFlow &&
    lastHead !== undefined;
  const found = whole
    ? fromThreePoints(
        shutOff,
        { flow: bestFlow, head: bestHead },
        { flow: lastFlow, head: lastHead },
      )
    : undefined;
  return (
    <>
      <Entries
        fields={[
          { key: "shutOff", label: "Head at no flow", quantity: "head" },
          { key: "bestFlow", label: "Flow at its best", quantity: "flow" },
          { key: "bestHead", label: "Head there", quantity: "head" },
          { key: "lastFlow", label: "Last flow", quantity: "flow" },
          { key: "lastHead", label: "Head there, at the last", quantity: "head" },
        ]}
        values={values}
        onChange={setValues}
      />
      {found && found.kind !== "drawn" && (
        <p role="alert" className="text-signal">
          {found.kind === "not-falling"
            ? "The head has to fall from no flow to its best and on to the last."
            : "No plain curve passes these three points: type more of them, or trace it."}
        </p>
      )}
      <Button
        className="justify-self-start"
        disabled={found?.kind !== "drawn"}
        onClick={() =>
          found?.kind === "drawn" && onGot({ points: found.points, from: "three-points" })
        }
      >
        Draw the curve through them
      </Button>
    </>
  );
}

function Sticker({ onGot }: { onGot: (curve: GotCurve) => void }) {
  const [{ flow, head }, setValues] = useState<Numbers>({});
  return (
    <>
      <Entries
        fields={[
          { key: "flow", label: "Most flow", quantity: "flow" },
          { key: "head", label: "Most head", quantity: "head" },
        ]}
        values={{ flow, head }}
        onChange={setValues}
      />
      <p className="text-[14px] text-soft">
        Two numbers make a parabola that may be out by ±{formatPercent(STICKER_UNCERTAINTY)}: it is
        marked so wherever it is used.
      </p>
      <Button
        className="justify-self-start"
        disabled={!flow || !head}
        onClick={() =>
          flow &&
          head &&
          onGot({
            points: fromSticker(flow, head),
            from: "sticker",
            curveDoubt: STICKER_UNCERTAINTY,
          })
        }
      >
        Draw the curve of the sticker
      </Button>
    </>
  );
}

/** Rows as they are printed: a head and the flow there, either as a range such as "40–45". */
function ChartRows({ onGot }: { onGot: (curve: GotCurve) => void }) {
  const units = useUnits();
  const [text, setText] = useState("");
  const lines = text.split("\n").filter((line) => line.trim() !== "");
  const read = lines.map((line, i) => rowOf(line, i, units));
  const problems = read.flatMap((own) => ("problem" in own ? [own.problem] : []));
  const rows = read.flatMap((own) => ("row" in own ? [own.row] : []));
  return (
    <>
      <label className="text-[14px]">
        <span className="block text-[13px] text-soft">
          A row a line: head, then flow, in {SHOWN[units].head} and {SHOWN[units].flow} unless said;
          a range as 40–45
        </span>
        <textarea
          className="entry mt-1 min-h-28 font-mono text-[14px]"
          value={text}
          placeholder={"10   40–45\n15   28–33\n20   12–16"}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {problems.length > 0 && (
        <ul role="alert" className="text-[14px] text-signal">
          {problems.slice(0, 5).map((problem) => (
            <li key={problem}>{problem}</li>
          ))}
        </ul>
      )}
      <Button
        className="justify-self-start"
        disabled={rows.length < 3 || problems.length > 0}
        onClick={() => {
          const { points, doubt } = fromChartRows(rows);
          onGot({
            points,
            from: "chart-rows",
            ...(doubt > 0 && { curveDoubt: Math.min(doubt, 0.5) }),
          });
        }}
      >
        Draw the curve through their middles
      </Button>
    </>
  );
}

function rowOf(
  line: string,
  index: number,
  units: "us" | "metric",
): { row: ChartRow } | { problem: string } {
  const cells = line.trim().split(/\t|;|\s{2,}|\s+\|\s+/);
  const [head, flow] = cells.length >= 2 ? cells : line.trim().split(/\s+/);
  if (head === undefined || flow === undefined) {
    return { problem: `Row ${index + 1}: a head and a flow are needed.` };
  }
  const range = (cell: string, quantity: Quantity) => {
    const unit = /[a-z/³%°]+\s*$/i.exec(cell)?.[0] ?? "";
    const ends = cell.split(/\s*(?:–|—|-|\bto\b)\s*/).filter((end) => end !== "");
    const parsed = ends.map((end) =>
      parseQuantity(isBareNumber(end) ? `${end} ${unit}` : end, quantity, units),
    );
    const wrong = parsed.find((own) => !own.ok);
    if (wrong && !wrong.ok) return wrong.message;
    const values = parsed.map((own) => (own.ok ? own.value : 0));
    return [Math.min(...values), Math.max(...values)] as const;
  };
  const [heads, flows] = [range(head, "head"), range(flow, "flow")];
  if (typeof heads === "string") return { problem: `Row ${index + 1}, head: ${heads}` };
  if (typeof flows === "string") return { problem: `Row ${index + 1}, flow: ${flows}` };
  return { row: { head: heads, flow: flows } };
}

function Traced({ ratedSpeed, onGot }: { ratedSpeed: number; onGot: (curve: GotCurve) => void }) {
  const [file, setFile] = useState<File>();
  return (
    <>
      <label className="text-[14px]">
        <span className="block text-[13px] text-soft">
          A photo of the curve, or its page as a picture
        </span>
        <input
          type="file"
          accept="image/*"
          className="target w-full"
          onChange={(event) => setFile(event.target.files?.[0])}
        />
      </label>
      {file && (
        <Suspense fallback={null}>
          <TraceSheet
            key={`${file.name} ${file.size} ${file.lastModified}`}
            {...{ file, ratedSpeed }}
            onClose={() => setFile(undefined)}
            onGot={(curve) => {
              setFile(undefined);
              onGot(curve);
            }}
          />
        </Suspense>
      )}
    </>
  );
}
