import { memo } from "react";
import type { HouseDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { GALLON } from "#core/quantity/constants.ts";
import { USUAL_TAP } from "#core/well/useOfDay.ts";
import { drawsOf, USUAL_COUNT } from "#model/well/day.ts";
import { stockName } from "#words/items.ts";
import { ClockField } from "../../jobFields/ClockField.tsx";
import { STOCK_OPTIONS } from "../../jobFields/choices.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { visit } from "../../openJob/jobStore.ts";
import { Button, IconButton } from "../../ui/Button.tsx";
import { NumberField, SelectField, TextField } from "../../ui/Fields.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";
import { SearchField } from "../../ui/SearchField.tsx";
import { editHouse, setHouse } from "./edits.ts";
import type { FieldProps } from "./props.ts";

const USES = {
  house: "A house, as it usually is",
  plots: "Allotment plots, as they usually are",
  typed: "As typed below",
} as const;

/** Who draws water, where, and when. */
export function DayFields({ job }: FieldProps) {
  const house = job.house ?? {};
  const { use = "house", taps = NO_TAPS, draws = [], days = 1, shared } = house;
  const counted = use === "typed" ? undefined : (house.count ?? USUAL_COUNT[use]);
  return (
    <div className="grid gap-4">
      <section aria-label="Use" className="grid grid-cols-2 items-end gap-2">
        <SelectField
          className="col-span-2"
          label="Water is drawn by"
          visibleLabel
          value={use}
          onChange={(next) => setHouse(withUse(house, next as keyof typeof USES))}
        >
          {Object.entries(USES).map(([value, name]) => (
            <option key={value} value={value}>
              {name}
            </option>
          ))}
        </SelectField>
        {counted !== undefined && (
          <NumberField
            label={`${use === "house" ? "Heads" : "Plots"}${house.count === undefined ? " (assumed)" : ""}`}
            visibleLabel
            whole
            min={1}
            max={200}
            value={counted}
            onVisit={visit}
            onChange={(count) => setHouse({ count })}
          />
        )}
        <SelectField
          label="Looked at"
          visibleLabel
          value={String(days)}
          onChange={(value) => setHouse({ days: Number(value) })}
        >
          <option value="1">one day</option>
          <option value="7">a week</option>
        </SelectField>
      </section>
      <section aria-label="Taps" className="grid gap-2">
        <h2 className="text-xl">Taps</h2>
        {shared ? (
          <div className="grid grid-cols-[1fr_6rem_auto] items-end gap-2">
            <SearchField
              label="Pipe all share"
              visibleLabel
              shown={stockName(shared.stock)}
              value={shared.stock}
              options={STOCK_OPTIONS}
              onChange={(stock) => setHouse({ shared: { ...shared, stock } })}
            />
            <JobQuantity
              label="Length"
              quantity="length"
              range={RANGES.length}
              value={shared.length}
              onChange={(length) => setHouse({ shared: { ...shared, length } })}
            />
            <IconButton
              label="Take the shared pipe out"
              onClick={() => setHouse({ shared: undefined })}
            >
              <Trash2 size={16} aria-hidden />
            </IconButton>
          </div>
        ) : (
          <Button
            look="quiet"
            className="justify-self-start"
            onClick={() => setHouse({ shared: { stock: BRANCH, length: 10 } })}
          >
            <Plus size={16} aria-hidden /> A pipe all share
          </Button>
        )}
        {taps.map((tap, i) => {
          const set = (patch: Partial<typeof tap>) =>
            setHouse({ taps: taps.with(i, { ...tap, ...patch }) });
          return (
            <fieldset
              key={i}
              className="grid grid-cols-6 items-end gap-2 border-t border-rule pt-2"
            >
              <legend className="sr-only">{tap.name}</legend>
              <TextField
                className="col-span-3"
                label={`Tap ${i + 1}`}
                value={tap.name}
                maxLength={60}
                onVisit={visit}
                onChange={(name) => set({ name })}
              />
              <div className="col-span-2">
                <JobQuantity
                  label="Draws"
                  quantity="flow"
                  range={RANGES.emitterFlow}
                  value={tap.flow}
                  onChange={(flow) => set({ flow })}
                />
              </div>
              <IconButton
                label={`Take ${tap.name || `tap ${i + 1}`} out`}
                onClick={() => setHouse({ taps: taps.toSpliced(i, 1) })}
              >
                <Trash2 size={16} aria-hidden />
              </IconButton>
              <SearchField
                className="col-span-2"
                label="On"
                visibleLabel
                shown={stockName(tap.stock)}
                value={tap.stock}
                options={STOCK_OPTIONS}
                onChange={(stock) => set({ stock })}
              />
              <div className="col-span-2">
                <JobQuantity
                  label="Branch"
                  quantity="length"
                  range={RANGES.length}
                  value={tap.length}
                  onChange={(length) => set({ length })}
                />
              </div>
              <div className="col-span-2">
                <JobQuantity
                  label="Over the tank"
                  quantity="length"
                  range={HEIGHT}
                  value={tap.height}
                  onChange={(height) => set({ height })}
                />
              </div>
            </fieldset>
          );
        })}
        <Button
          className="justify-self-start"
          disabled={taps.length >= 40}
          onClick={() =>
            setHouse({
              taps: [
                ...taps,
                {
                  ...{ name: `Tap ${taps.length + 1}`, height: 1, stock: BRANCH, length: 10 },
                  flow: USUAL_TAP,
                },
              ],
            })
          }
        >
          <Plus size={16} aria-hidden /> A tap
        </Button>
      </section>
      {use === "typed" && <Draws {...{ draws, taps }} />}
    </div>
  );
}

/** The same list each time, so that rows that take it stay as they are. */
const NO_TAPS: Taps = [];
const BRANCH = "pe100-sdr11-25mm";
const HEIGHT = { min: -200, max: 200, what: "The height" };

/** Another way to say who draws; what is usual is taken over row by row where it is to be typed. */
function withUse(house: HouseDocument, use: keyof typeof USES) {
  if (use !== "typed" || (house.draws?.length ?? 0) > 0) return { use };
  const { draws } = drawsOf({ ...house, days: 1 });
  return {
    use,
    draws: draws.slice(0, 24).map(({ start, duration, flow, tap }) => ({
      at: Math.round(start / 60) * 60,
      volume: duration * flow,
      ...((house.taps?.length ?? 0) > 0 && { tap }),
    })),
  };
}

type Draw = NonNullable<HouseDocument["draws"]>[number];
type Taps = NonNullable<HouseDocument["taps"]>;

/** Draws of a day, one by one. */
function Draws({ draws, taps }: { draws: readonly Draw[]; taps: Taps }) {
  return (
    <section aria-label="Draws" className="grid gap-2">
      <h2 className="text-xl">Draws, each day</h2>
      {draws.map((own, i) => (
        <DrawRow key={i} {...{ own, i, taps }} />
      ))}
      <Button
        className="justify-self-start"
        disabled={draws.length >= 500}
        onClick={() => {
          const at = ((draws.at(-1)?.at ?? 7 * 3600) + 3600) % 86_400;
          setHouse({ draws: [...draws, { at, volume: 10 * GALLON }] });
        }}
      >
        <Plus size={16} aria-hidden /> A draw
      </Button>
    </section>
  );
}

/** Changes one draw of the job on the bench, or takes it out. */
function editDraw(at: number, patch: Partial<Draw> | undefined): void {
  editHouse((house) => {
    const draws = house.draws ?? [];
    const own = draws[at];
    if (!own) return house;
    return {
      ...house,
      draws: patch ? draws.with(at, { ...own, ...patch }) : draws.toSpliced(at, 1),
    };
  });
}

/** One draw: drawn anew when it changes itself, not with every key in another. */
const DrawRow = memo(function DrawRow({ own, i, taps }: { own: Draw; i: number; taps: Taps }) {
  return (
    <div className="grid grid-cols-[5.4rem_1fr_1.1fr_auto] items-end gap-1.5">
      <ClockField
        label={`Draw ${i + 1}`}
        seconds={own.at}
        onChange={(at) => editDraw(i, { at: at ?? 0 })}
      />
      <JobQuantity
        label="Water"
        quantity="volume"
        range={RANGES.volume}
        value={own.volume}
        onChange={(volume) => editDraw(i, { volume })}
      />
      {taps.length > 0 && (
        <SelectField
          label="At"
          visibleLabel
          value={String(own.tap ?? 0)}
          onChange={(tap) => editDraw(i, { tap: Number(tap) })}
        >
          {taps.map(({ name }, k) => (
            <option key={k} value={k}>
              {name}
            </option>
          ))}
        </SelectField>
      )}
      <IconButton label={`Take draw ${i + 1} out`} onClick={() => editDraw(i, undefined)}>
        <Trash2 size={16} aria-hidden />
      </IconButton>
    </div>
  );
});
