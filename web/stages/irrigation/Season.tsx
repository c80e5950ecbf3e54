import { useQuery } from "@tanstack/react-query";
import type { FieldDocument, JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { Season } from "#core/irrigation/season.ts";
import { ACRE } from "#core/quantity/constants.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import { DRIP_LOSS, LOSS, WEEKLY } from "#model/irrigation/usual.ts";
import { duration } from "#words/duration.ts";
import { depthOf } from "#words/irrigation.ts";
import { amountOf } from "#words/simulation.ts";
import { theFirm } from "../../api/queries.ts";
import { Usual } from "../../jobFields/Usual.tsx";
import { visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { PercentField, TextField } from "../../ui/Fields.tsx";
import { Plus } from "../../ui/icons.ts";
import { OptionalNumber } from "../../ui/OptionalNumber.tsx";
import { QuantityField } from "../../ui/QuantityField.tsx";
import { Figure } from "./Figure.tsx";
import { setIn } from "./field.ts";
import type { ResultProps } from "./resultProps.ts";

/** The season week by week, and what it costs; by guns and by drip side by side. */
export function SeasonResults({ job, told }: ResultProps) {
  const units = useUnits();
  const { season, drive } = told;
  const own = job.field?.season ?? {};
  const engine = drive.kind === "engine";
  if (!season || (!season.guns && !season.drip)) {
    return (
      <p className="text-soft">
        {(own.rain?.length ?? 0) === 0
          ? "Type the rain of the weeks so far: what was wanted less what fell is what is to be watered."
          : "The hours follow from the sets, or from a drip zone: tell the ground under Field."}
      </p>
    );
  }
  const ways = [
    ["Guns", season.guns],
    ["Drip", season.drip],
  ] as const;
  const known = ways.flatMap(([name, of]) => (of ? [[name, of] as const] : []));
  return (
    <div className="grid gap-4">
      {known.map(([name, of]) => (
        <section key={name} aria-label={name} className="grid gap-2">
          {known.length > 1 && <h2 className="plate text-xl">{name}</h2>}
          <dl
            className="grid grid-cols-2 gap-x-4 gap-y-2 sm:grid-cols-3"
            data-testid={`season-${name.toLowerCase()}`}
          >
            <Figure
              name="Water"
              value={amountOf(of.total.volume, units)}
              note={`${depthOf(of.total.net, units)} wanted, ${depthOf(of.total.gross, units)} put out`}
            />
            <Figure name="Running" value={hours(of.total.hours)} />
            {of.total.work > 0 && <Figure name="Work" value={hours(of.total.work)} />}
            {of.total.energy !== undefined && (
              <Figure
                name={engine ? "Fuel" : "Energy"}
                value={format(
                  of.total.energy,
                  drive.kind === "engine" ? "volume" : "energy",
                  units,
                )}
              />
            )}
            {of.total.cost !== undefined && of.costPerArea !== undefined && (
              <Figure
                name="Cost"
                value={of.total.cost.toFixed(0)}
                note={`${costOf(own, engine)}; ${(of.costPerArea * 1e4).toFixed(0)} a hectare, ${(of.costPerArea * ACRE).toFixed(0)} an acre`}
              />
            )}
          </dl>
        </section>
      ))}
      {season.guns && season.drip && season.drip.total.gross > 0 && (
        <p>
          For the same {depthOf(season.guns.total.net, units)} wanted, guns put out{" "}
          {depthOf(season.guns.total.gross, units)} and drip{" "}
          {depthOf(season.drip.total.gross, units)}:{" "}
          {formatPercent(1 - season.drip.total.gross / season.guns.total.gross)} less water, on the
          ground where it lies.
        </p>
      )}
      {season.guns && <Weeks season={season.guns} {...{ job, engine }} />}
      <p className="text-[13px] text-soft">
        A round laid in part still takes every move of it. Losses are common practice, no source:
        from guns {Math.round(LOSS * 100)} % to wind and air, from drip{" "}
        {Math.round(DRIP_LOSS * 100)} %.
        {season.drip &&
          " The drip zone waters its own ground, not the whole field; what its pumping costs is not told."}
        {drive.kind === "none" && " Without a pump on the line nothing is said of fuel."}
      </p>
    </div>
  );
}

const hours = (seconds: number) => `${(seconds / 3600).toFixed(0)} h`;

/** What of the cost is known. */
function costOf(
  { fuelPrice, energyPrice, wage }: NonNullable<FieldDocument["season"]>,
  engine: boolean,
): string {
  const price = engine ? fuelPrice : energyPrice;
  const energy = engine ? "fuel" : "energy";
  if (price === undefined) return `work alone, no price of ${energy} is typed`;
  return wage === undefined ? `${energy} alone, no wage is typed` : `${energy} and work`;
}

function Weeks({ season, job, engine }: { season: Season; job: JobDocument; engine: boolean }) {
  const units = useUnits();
  const own = job.field?.season ?? {};
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-collapse text-left text-[14px]">
        <caption className="sr-only">Week by week</caption>
        <thead>
          <tr className="text-soft">
            {[
              "Week",
              "Rain",
              "Wanted",
              "Put out",
              "Running",
              engine ? "Fuel" : "Energy",
              "Cost",
            ].map((name) => (
              <th key={name} scope="col" className="px-1.5 pb-1 font-normal">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {season.weeks.map((week, i) => (
            <tr key={i} className="border-t border-rule">
              <th scope="row" className="px-1.5 py-1 font-normal whitespace-nowrap">
                {weekName(own.from, i)}
              </th>
              <td className="px-1.5">{depthOf(own.rain?.[i] ?? 0, units)}</td>
              <td className="px-1.5">{week.net > 0 ? depthOf(week.net, units) : "none"}</td>
              <td className="px-1.5">{week.net > 0 ? amountOf(week.volume, units) : ""}</td>
              <td className="px-1.5">{week.net > 0 ? duration(week.hours) : ""}</td>
              <td className="px-1.5">
                {week.energy !== undefined && week.net > 0
                  ? format(week.energy, engine ? "volume" : "energy", units)
                  : ""}
              </td>
              <td className="px-1.5">
                {week.cost !== undefined && week.net > 0 ? week.cost.toFixed(0) : ""}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** "4 May" of a season's first day so many weeks on; without one its number. */
function weekName(from: string | undefined, week: number): string {
  if (!from) return `Week ${week + 1}`;
  const at = new Date(Date.parse(`${from}T00:00:00Z`) + week * 7 * 86_400_000);
  return at.toLocaleDateString("en-GB", { day: "numeric", month: "short", timeZone: "UTC" });
}

export function SeasonFields({
  field,
  told,
}: {
  job: JobDocument;
  field: FieldDocument;
  told: IrrigationResult | undefined;
}) {
  const units = useUnits();
  const firm = useQuery(theFirm);
  const season = field.season ?? {};
  const rain = season.rain ?? [];
  const set = (patch: Parameters<typeof setIn<"season">>[1]) => setIn("season", patch);
  const small = units === "us" ? "in" : "mm";
  const engine = told?.drive.kind === "engine";
  const firmPrice = engine ? firm.data?.document.fuelPrice : firm.data?.document.tariff;
  const price = engine ? season.fuelPrice : season.energyPrice;
  return (
    <div className="grid gap-4">
      <section aria-label="What is wanted" className="grid grid-cols-2 items-end gap-2">
        <Usual
          label="Wanted a week"
          quantity="length"
          unit={small}
          range={RANGES.rain}
          usual={WEEKLY}
          value={season.weekly}
          onChange={(weekly) => set({ weekly })}
        />
        <TextField
          label="First week begins"
          type="date"
          value={season.from ?? ""}
          onVisit={visit}
          onChange={(from) => set({ from: from === "" ? undefined : from })}
        />
        <PercentField
          label={season.loss === undefined ? "Lost on the way (assumed)" : "Lost on the way"}
          max={80}
          value={season.loss ?? LOSS}
          onVisit={visit}
          onChange={(loss) => set({ loss })}
        />
        {field.drip && (
          <PercentField
            label={season.dripLoss === undefined ? "Lost by drip (assumed)" : "Lost by drip"}
            max={80}
            value={season.dripLoss ?? DRIP_LOSS}
            onVisit={visit}
            onChange={(dripLoss) => set({ dripLoss })}
          />
        )}
        <PercentField
          label={season.effective === undefined ? "Rain that counts (assumed)" : "Rain that counts"}
          max={100}
          value={season.effective ?? 1}
          onVisit={visit}
          onChange={(effective) => set({ effective })}
        />
      </section>
      <section aria-label="Rain" className="grid gap-2">
        <h2 className="text-xl">Rain of each week</h2>
        <div className="grid grid-cols-3 items-end gap-2">
          {rain.map((own, i) => (
            <QuantityField
              key={i}
              label={weekName(season.from, i)}
              quantity="length"
              unit={small}
              range={RANGES.rain}
              value={own}
              onVisit={visit}
              onChange={(depth) => set({ rain: rain.with(i, depth) })}
            />
          ))}
        </div>
        <div className="flex flex-wrap gap-2">
          <Button disabled={rain.length >= 53} onClick={() => set({ rain: [...rain, 0] })}>
            <Plus size={16} aria-hidden /> A week
          </Button>
          {rain.length > 0 && (
            <Button look="quiet" onClick={() => set({ rain: rain.slice(0, -1) })}>
              One week less
            </Button>
          )}
        </div>
      </section>
      <section aria-label="Money" className="grid grid-cols-2 items-end gap-2">
        <OptionalNumber
          label={engine ? "Price of a litre of fuel" : "Price of a kWh"}
          whole={false}
          most={1000}
          value={price}
          onChange={(value) => set(engine ? { fuelPrice: value } : { energyPrice: value })}
        />
        <OptionalNumber
          label="Wage an hour"
          whole={false}
          most={1000}
          value={season.wage}
          onChange={(wage) => set({ wage })}
        />
        {firmPrice !== undefined && price === undefined && (
          <Button
            look="quiet"
            className="col-span-2 justify-self-start"
            onClick={() => set(engine ? { fuelPrice: firmPrice } : { energyPrice: firmPrice })}
          >
            Take the firm’s price, {firmPrice}
          </Button>
        )}
        <label className="target col-span-2 flex items-center gap-2">
          <input
            type="checkbox"
            className="size-5"
            checked={season.attended ?? false}
            onChange={(event) => set({ attended: event.target.checked || undefined })}
          />
          Somebody stays with it while it runs
        </label>
      </section>
    </div>
  );
}
