import { memo } from "react";
import type { JobPathItem } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { findFitting } from "#core/catalogue/fittings.ts";
import { startElevations } from "#core/line/elevations.ts";
import { levelsOf } from "#core/line/path.ts";
import { gunOf } from "#core/outlet/outlets.ts";
import { openingName, stockName } from "#words/items.ts";
import { AS_PIPE, FITTING_OPTIONS, FITTING_SIZES, STOCK_OPTIONS } from "../../jobFields/choices.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { hasMore, newOutlet, OutletOptions } from "../../jobFields/outletKinds.tsx";
import { editItem, endItemAt, pumpItems, useJobStore, visit } from "../../openJob/jobStore.ts";
import { useSettings } from "../../state/settings.ts";
import { NumberField, SelectField } from "../../ui/Fields.tsx";
import { SearchField } from "../../ui/SearchField.tsx";

export const ROW =
  "grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-start gap-1 sm:grid-cols-[minmax(0,2.1fr)_minmax(0,0.95fr)_minmax(0,1.1fr)_auto]";
/** On a phone the choice takes a line of its own. */
const CHOICE = "max-sm:col-span-2";

/** The entries of one row of the line; drawn anew when the row itself changes, not with every key in another. */
export const RowFields = memo(function RowFields({ item }: { item: JobPathItem }) {
  switch (item.kind) {
    case "pipe":
      return (
        <>
          <SearchField
            className={CHOICE}
            label="Pipe or hose"
            shown={stockName(item.stock)}
            value={item.stock}
            options={STOCK_OPTIONS}
            onChange={(stock) => editItem<"pipe">(item.id, { stock })}
          />
          <JobQuantity
            label="Length"
            visibleLabel="phone"
            quantity="length"
            range={RANGES.length}
            value={item.length}
            onChange={(length) => editItem<"pipe">(item.id, { length })}
          />
          <Height item={item} />
        </>
      );
    case "fitting":
      return <FittingFields item={item} />;
    case "rise":
      return (
        <>
          <span className={`flex min-h-9 items-center px-2 ${CHOICE}`}>Rise only</span>
          <span />
          <Height item={item} />
        </>
      );
    case "orifice":
      return (
        <>
          <SelectField
            className={CHOICE}
            label="Hole"
            value={item.purpose}
            onChange={(purpose) =>
              editItem<"orifice">(item.id, { purpose: purpose as typeof item.purpose })
            }
          >
            <option value="vent-hole">Vent hole</option>
            <option value="leak">Leak</option>
          </SelectField>
          <span className="flex min-h-9 items-center px-2 text-[14px] text-soft">bore</span>
          <JobQuantity
            label="Bore of hole"
            visibleLabel={false}
            quantity="diameter"
            range={RANGES.bore}
            value={item.bore}
            onChange={(bore) => editItem<"orifice">(item.id, { bore })}
          />
        </>
      );
    case "pump":
      return <PumpFields item={item} />;
    case "outlet":
      return <OutletRowFields item={item} />;
    case "split":
      return (
        <span className="col-span-2 flex min-h-9 items-center px-2 font-medium sm:col-span-3">
          The line parts in {item.branches.length}
        </span>
      );
  }
});

/** A run's rise, or the level it ends at. */
function Height({ item }: { item: Extract<JobPathItem, { kind: "pipe" | "rise" }> }) {
  const byLevel = useSettings(({ heights }) => heights === "elevations");
  const start = useJobStore(({ job }) =>
    byLevel ? (startElevations(job.path, job.source.intake).get(item.id) ?? 0) : 0,
  );
  if (!byLevel) {
    return (
      <JobQuantity
        label="Rise"
        visibleLabel="phone"
        quantity="length"
        range={RANGES.rise}
        value={item.rise}
        onChange={(rise) => editItem<"pipe" | "rise">(item.id, { rise })}
      />
    );
  }
  return (
    <JobQuantity
      label="Ends at level"
      visibleLabel="phone"
      quantity="length"
      range={RANGES.elevation}
      value={start + item.rise}
      onChange={(end) => endItemAt(item.id, end)}
    />
  );
}

const OPENINGS = [1, 0.75, 0.5, 1 / 3, 0.25, 0];

/** How far a valve is open; nothing for a fitting that cannot be shut. */
export function Opening({ item }: { item: JobPathItem }) {
  if (item.kind !== "fitting" || !findFitting(item.fitting)?.throttles) return null;
  const opening = item.opening ?? 1;
  const openings = OPENINGS.includes(opening) ? OPENINGS : [...OPENINGS, opening];
  return (
    <div className="w-40 pt-1 sm:ml-6">
      <SelectField
        label="How far open"
        value={String(opening)}
        onChange={(value) =>
          editItem<"fitting">(item.id, { opening: value === "1" ? undefined : Number(value) })
        }
      >
        {openings.map((value) => (
          <option key={value} value={value}>
            Valve {openingName(value)}
          </option>
        ))}
      </SelectField>
    </div>
  );
}

function FittingFields({ item }: { item: Extract<JobPathItem, { kind: "fitting" }> }) {
  return (
    <>
      <SearchField
        className={CHOICE}
        label="Fitting"
        shown={findFitting(item.fitting)?.label ?? item.fitting}
        value={item.fitting}
        options={FITTING_OPTIONS}
        onChange={(fitting) =>
          editItem<"fitting">(item.id, {
            ...{ fitting, opening: undefined, reversed: undefined },
            // As wide as its pipe no pump would go into it.
            ...(findFitting(fitting)?.sleeve && !item.stock && { stock: "pvc-sch40-6in" }),
          })
        }
      />
      <NumberField
        label="Count"
        value={item.count}
        min={1}
        max={999}
        whole
        onVisit={visit}
        onChange={(count) => editItem<"fitting">(item.id, { count })}
      />
      <SearchField
        label="Size of fitting"
        shown={item.stock ? stockName(item.stock) : AS_PIPE}
        value={item.stock ?? ""}
        options={FITTING_SIZES}
        onChange={(stock) =>
          editItem<"fitting">(item.id, { stock: stock === "" ? undefined : stock })
        }
      />
    </>
  );
}

function PumpFields({ item }: { item: Extract<JobPathItem, { kind: "pump" }> }) {
  const job = useJobStore((s) => s.job);
  const number = pumpItems(job.path).findIndex(({ id }) => id === item.id) + 1;
  return (
    <>
      <SelectField
        className="col-span-2"
        label={`Pump ${number}`}
        value={item.pump ?? ""}
        onChange={(pump) => editItem<"pump">(item.id, { pump: pump === "" ? null : pump })}
      >
        <option value="">Pump {number}: choose it under Pump</option>
        {job.pumps.map(({ id, maker, model }) => (
          <option key={id} value={id}>
            Pump {number}: {maker} {model}
          </option>
        ))}
      </SelectField>
      <span className="max-sm:hidden" />
    </>
  );
}

function OutletRowFields({ item }: { item: Extract<JobPathItem, { kind: "outlet" }> }) {
  const { outlet } = item;
  const gun = gunOf(outlet);
  return (
    <>
      <SelectField
        className={CHOICE}
        label="The water leaves"
        value={outlet.type}
        onChange={(type) =>
          editItem<"outlet">(item.id, {
            outlet: newOutlet(type, levelsOf(useJobStore.getState().job.source)),
          })
        }
      >
        <OutletOptions />
      </SelectField>
      {gun ? (
        <JobQuantity
          label="Nozzle bore"
          visibleLabel="phone"
          quantity="diameter"
          range={RANGES.bore}
          value={gun.bore}
          onChange={(bore) => editItem<"outlet">(item.id, { outlet: { ...gun, bore } })}
        />
      ) : (
        <span />
      )}
      <span className="flex min-h-9 items-center text-[13px] text-soft">
        {hasMore(outlet.type) ? "more under Outlet" : ""}
      </span>
    </>
  );
}
