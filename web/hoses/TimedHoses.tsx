import { RANGES } from "#contract/documents/ranges.ts";
import { formatUncertain } from "#contract/units/format.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import { type Estimate, USUAL_FILL } from "#core/measurement/instruments.ts";
import { unfitOf } from "#core/measurement/reach.ts";
import type { FlowMeasurement } from "#core/measurement/reading.ts";
import { sideBySide } from "#core/measurement/sideBySide.ts";
import type { HoseRow } from "#core/whatif/hoses.ts";
import { ratioWords } from "#words/fieldTests.ts";
import { unfitWords } from "#words/instruments.ts";
import { stockName } from "#words/items.ts";
import { USUAL_BUCKET } from "../stages/measure/reading/usual.ts";
import { useUnits } from "../state/settings.ts";
import { SelectField } from "../ui/Fields.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";

/** Two hoses that were timed with one bucket, their ratio with its doubt beside the one that was worked out. */
export function TimedHoses({
  rows,
  params,
  set,
}: {
  rows: readonly HoseRow[];
  params: URLSearchParams;
  set: (name: string, value: string) => void;
}) {
  const units = useUnits();
  const number = (name: string) => {
    const typed = Number(params.get(name) || Number.NaN);
    return Number.isFinite(typed) && typed > 0 ? typed : undefined;
  };
  const volume = number("bucket") ?? USUAL_BUCKET[units];
  const sides = (["a", "b"] as const).map((side, i) => {
    const stock = params.get(`hose-${side}`);
    const row = rows.find((own) => own.stock.id === stock) ?? (rows[i === 0 ? 1 : 3] as HoseRow);
    const time = number(`time-${side}`);
    const flow: FlowMeasurement | undefined =
      time === undefined
        ? undefined
        : {
            ...{ method: "bucket", volume, times: [time], ...USUAL_FILL },
          };
    return { side, row, time, flow, unfit: flow && unfitOf({ flow }, {}) };
  });
  const [first, second] = sides as [(typeof sides)[number], (typeof sides)[number]];
  const unfit = first.unfit ?? second.unfit;
  const [found] =
    first.flow && second.flow && !unfit
      ? sideBySide([{ flow: first.flow }], [{ flow: second.flow }])
      : [];
  const model =
    first.row.flow && second.row.flow ? { model: second.row.flow / first.row.flow } : {};
  const said = ({ value, standardUncertainty }: Estimate) =>
    formatUncertain(value, COVERAGE * standardUncertainty, "flow", units);
  return (
    <section aria-labelledby="timed-hoses" className="mt-5 max-w-3xl border-t border-rule pt-3">
      <h2 id="timed-hoses" className="text-xl">
        Two of them timed
      </h2>
      <p className="mb-2 text-[14px] text-soft">
        The same bucket, the same tap or pump, one hose after the other. What the bucket’s mark is
        wrong by drops out of the ratio.
      </p>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-[1.4fr_1fr_1.4fr_1fr_1fr]">
        {sides.map(({ side, row, time }, i) => (
          <div key={side} className="contents">
            <SelectField
              label={i === 0 ? "First hose" : "Second hose"}
              visibleLabel
              value={row.stock.id}
              onChange={(next) => set(`hose-${side}`, next)}
            >
              {rows.map((own) => (
                <option key={own.stock.id} value={own.stock.id}>
                  {stockName(own.stock.id)}
                </option>
              ))}
            </SelectField>
            <QuantityField
              label={i === 0 ? "It filled in" : "And it in"}
              optional
              quantity="time"
              unit="s"
              range={RANGES.time}
              value={time}
              onChange={(seconds) => set(`time-${side}`, String(seconds ?? ""))}
            />
          </div>
        ))}
        <QuantityField
          label="Bucket"
          quantity="volume"
          range={RANGES.volume}
          value={volume}
          onChange={(next) => set("bucket", String(next))}
        />
      </div>
      <div className="mt-2 min-h-14" aria-live="polite">
        {unfit && <p className="text-signal">{unfitWords(unfit, units)}</p>}
        {found && (
          <>
            <p className="text-lg font-medium">
              {ratioWords({ ...found, ...model }, stockName(second.row.stock.id))}
            </p>
            <p className="text-[14px] text-soft">
              {stockName(first.row.stock.id)}: {said(found.first)}; {stockName(second.row.stock.id)}
              : {said(found.second)}.
            </p>
          </>
        )}
      </div>
    </section>
  );
}
