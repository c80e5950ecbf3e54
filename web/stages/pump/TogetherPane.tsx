import { useMemo, useState } from "react";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import { FAMILIES, findPipeStock, PIPE_STOCK, type PipeFamily } from "#core/catalogue/pipes.ts";
import { everyItem, type PathItem } from "#core/line/path.ts";
import { laidIn, type Money, type Year } from "#core/selection/front.ts";
import { placeOf, withArrangement } from "#model/selection/arrangement.ts";
import type { TogetherFound } from "#model/selection/together.ts";
import { itemName, stockName } from "#words/items.ts";
import { FrontPlot } from "../../charts/FrontPlot.tsx";
import { edit, pumpItems } from "../../openJob/jobStore.ts";
import { useLibraryPumps, useLibraryText } from "../../openJob/useLibraryPumps.ts";
import { useResult } from "../../openJob/useResult.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { NumberField, SelectField } from "../../ui/Fields.tsx";
import { QuantityField } from "../../ui/QuantityField.tsx";
import { USUAL } from "./usual.ts";

/** Pump and pipe at once: what each pair costs and gives, and the few that nothing beats. */
export default function TogetherPane({
  job,
  selected,
}: {
  job: JobDocument;
  selected: string | undefined;
}) {
  const units = useUnits();
  const [money, setMoney] = useState<Money>("price");
  const [asked, setAsked] = useState<{
    volume?: number | undefined;
    price?: number;
    fuel?: number;
    lasts?: number;
  }>({});
  const [family, setFamily] = useState<PipeFamily>();
  const places = pumpItems(job.path);
  const place = places.find(({ id }) => id === selected) ?? places[0];
  const longest = everyItem<JobPathItem>(job.path).reduce<
    Extract<JobPathItem, { kind: "pipe" }> | undefined
  >(
    (best, item) => (item.kind === "pipe" && !(best && best.length >= item.length) ? item : best),
    undefined,
  );
  const laid = longest && findPipeStock(longest.stock);
  const shown = family ?? laid?.family ?? "pvc-sch40";
  const energyPrice = asked.price ?? job.overTime?.energyPrice ?? USUAL.energyPrice;
  const volume = asked.volume ?? (job.wantedFlow ?? 0) * USUAL.hours * 3600;
  const documents = useLibraryPumps(job.pumps);
  const libraryText = useLibraryText(documents);
  const { wantedFlow, path, pumps } = job;
  const pairing = useMemo(() => {
    const runs = everyItem<JobPathItem>(path).flatMap((item) =>
      item.kind === "pipe" && item.stock === longest?.stock ? [item.id] : [],
    );
    const year: Year = {
      ...{ volume, energyPrice: energyPrice / 3.6e6, lasts: asked.lasts ?? USUAL.lasts },
      fuelPrice: (asked.fuel ?? USUAL.fuelPrice) * 1000,
    };
    return {
      place: placeOf({ path, pumps }, place?.id ?? ""),
      itemIds: runs,
      sizes: PIPE_STOCK.filter((stock) => stock.family === shown),
      ...(wantedFlow !== undefined && { wanted: wantedFlow }),
      year,
    };
  }, [
    path,
    pumps,
    place?.id,
    longest?.stock,
    shown,
    wantedFlow,
    volume,
    energyPrice,
    asked.fuel,
    asked.lasts,
  ]);
  const { value, stale, kind, progress, cancel, again, error } = useResult("together", {
    ...{ job, libraryText, pairing, money },
  });
  if (!place || !longest) {
    return (
      <p className="p-4 text-soft">
        It takes a pump and a run of pipe to weigh one against the other.
      </p>
    );
  }
  const known = new Map(documents.map((pump) => [pump.id, pump]));
  const take = ({ pump: id, stock }: TogetherFound) => {
    const pump = known.get(id);
    if (pump) edit((j) => laidWith(j, place.id, pump, stock, pairing.itemIds));
  };
  const nameOf = ({ pump: id, stock }: TogetherFound) => {
    const pump = known.get(id);
    return `${pump?.maker} ${pump?.model}, ${stockName(stock)}`;
  };
  const worth = (own: TogetherFound) => (money === "price" ? own.price : own.yearly) ?? 0;
  return (
    <div className="grid gap-2 p-3">
      {places.length > 1 && (
        <p className="plate text-[18px]">
          {itemName(job.path, place.id, units)}{" "}
          <span className="text-soft">with its pipe, the others as they are</span>
        </p>
      )}
      <div className="grid grid-cols-2 gap-2">
        <SelectField
          label="Pipe"
          visibleLabel
          value={shown}
          onChange={(next) => setFamily(next as PipeFamily)}
        >
          {Object.entries(FAMILIES).map(([own, { label }]) => (
            <option key={own} value={own}>
              {label}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Held against"
          visibleLabel
          value={money}
          onChange={(next) => setMoney(next as Money)}
        >
          <option value="price">what it costs to buy</option>
          <option value="yearly">what it costs a year</option>
        </SelectField>
      </div>
      {money === "yearly" && (
        <div className="grid grid-cols-2 items-end gap-2">
          <QuantityField
            label={`Water a year${asked.volume === undefined ? ", assumed" : ""}`}
            quantity="volume"
            unit={units === "us" ? "gal" : "m³"}
            range={RANGES.jobVolume}
            value={volume}
            onChange={(next) => setAsked((own) => ({ ...own, volume: next }))}
          />
          <NumberField
            label={`Price of a kWh${asked.price === undefined && !job.overTime?.energyPrice ? ", assumed" : ""}`}
            visibleLabel
            value={energyPrice}
            min={0}
            max={1000}
            onChange={(price) => setAsked((own) => ({ ...own, price }))}
          />
          <NumberField
            label={`Price of a litre of fuel${asked.fuel === undefined ? ", assumed" : ""}`}
            visibleLabel
            value={asked.fuel ?? USUAL.fuelPrice}
            min={0}
            max={1000}
            onChange={(fuel) => setAsked((own) => ({ ...own, fuel }))}
          />
          <NumberField
            label={`Years it lasts${asked.lasts === undefined ? ", assumed" : ""}`}
            visibleLabel
            value={asked.lasts ?? USUAL.lasts}
            min={1}
            max={50}
            onChange={(lasts) => setAsked((own) => ({ ...own, lasts }))}
          />
        </div>
      )}
      <p className="flex min-h-9 items-center gap-2 text-[14px] text-soft" aria-live="polite">
        {kind === "failed" ? (
          <>
            It could not be worked out: {error}
            <Button look="quiet" onClick={again}>
              Try again
            </Button>
          </>
        ) : kind === "working" ? (
          <>
            {documents.length} pumps in {pairing.sizes.length} sizes, {formatPercent(progress)} …
            <Button look="quiet" onClick={cancel}>
              Cancel
            </Button>
          </>
        ) : kind === "cancelled" ? (
          <Button look="quiet" onClick={again}>
            Try them
          </Button>
        ) : value ? (
          `${value.tried} pairs that run at every level${wantedFlow === undefined ? "" : " and move what is wanted"}; ${value.front.length} that nothing beats.`
        ) : null}
      </p>
      {value && (
        <div className={stale ? "opacity-60" : ""} aria-busy={stale}>
          {value.front.length === 0 ? (
            <p className="py-2">
              Nothing here runs at every level and has a price. Add prices to the pumps of the
              library, or try another pipe.
            </p>
          ) : (
            <>
              <div className="h-72">
                <FrontPlot {...{ value, money, nameOf, wanted: wantedFlow }} onTake={take} />
              </div>
              <ol aria-label="What nothing beats" className="grid">
                {value.front.map((own) => (
                  <li
                    key={`${own.pump} ${own.stock}`}
                    className="grid grid-cols-[minmax(0,1fr)_auto_auto_auto] items-center gap-3 border-t border-rule py-1"
                  >
                    <span className="plate text-[17px] leading-tight">{nameOf(own)}</span>
                    <strong className="font-semibold">{format(own.flow, "flow", units)}</strong>
                    <span className="w-16 text-right">{worth(own).toFixed(0)}</span>
                    <Button aria-label={`Take ${nameOf(own)}`} onClick={() => take(own)}>
                      Take
                    </Button>
                  </li>
                ))}
              </ol>
            </>
          )}
        </div>
      )}
      <p className="text-[13px] text-soft">
        Each pair at its own duty at normal water; it has to run at low and high water too, and a
        check may find nothing to stop for.{" "}
        {money === "price" ? "Pump and pipe" : "Energy, and pump and pipe over the years"}, in the
        firm’s money; what is owned costs nothing. Prices of pipe are invented.
      </p>
    </div>
  );
}

/** The job with a pump in its place and the runs laid in a size. */
function laidWith(
  job: JobDocument,
  itemId: string,
  pump: PumpDocument,
  stock: string,
  runs: readonly string[],
): JobDocument {
  const path = laidIn({ path: job.path as PathItem[] }, pump, { id: stock }, new Set(runs), itemId);
  const laid = { ...job, path: path as JobPathItem[] };
  return withArrangement(laid, itemId, { kind: "one", pump }) ?? laid;
}
