import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { applyChanges, type Variant } from "#model/job/changes.ts";
import { OFFER_COMPUTATIONS } from "#model/results/ofOffers.ts";
import type { Column } from "#model/whatif/columns.ts";
import { amountOf, formatDuration } from "#words/simulation.ts";
import { workOf } from "#words/well.ts";
import { offerLabel } from "#words/whatif.ts";
import { edit } from "../openJob/jobStore.ts";
import { onPage } from "../openJob/results.ts";
import { useLibraryPumps } from "../openJob/useLibraryPumps.ts";
import { useResult } from "../openJob/useResult.ts";
import { useUnits } from "../state/settings.ts";
import { Button, IconButton } from "../ui/Button.tsx";
import { Plus, Trash2 } from "../ui/icons.ts";
import { Loading, NotWorkedOut } from "../ui/Notices.tsx";

onPage.learn(OFFER_COMPUTATIONS);

/** Beside the job as it is. */
const MOST = 4;

/** The job as it is beside what it would be with one thing changed, a column each. */
export default function WhatIfPane({ job }: { job: JobDocument }) {
  const units = useUnits();
  const variants = job.variants ?? NONE;
  const { value, stale, kind, error, again } = useResult("columns", { job });
  const documents = useLibraryPumps(job.pumps);
  const offers = onPage.look({ job, documents })("offers");
  const labels = new Set(variants.map(({ label }) => label));
  const open = offers.filter((offer) => !labels.has(offerLabel(offer, units)));
  const set = (change: (own: Variant[]) => Variant[]) =>
    edit((j) => ({ ...j, variants: change([...(j.variants ?? [])]) }));
  const rows = value ? rowsOf(value, units) : [];
  return (
    <section aria-label="What if" className="grid gap-3 border-b border-rule p-3">
      <h2 className="plate text-[19px]">What if</h2>
      <div role="group" aria-label="Put beside it" className="flex flex-wrap gap-2">
        {open.map((offer) => {
          const label = offerLabel(offer, units);
          return (
            <Button
              key={label}
              disabled={variants.length >= MOST}
              onClick={() => set((all) => [...all, { label, changes: offer.changes }])}
            >
              <Plus size={16} aria-hidden /> {label}
            </Button>
          );
        })}
      </div>
      {variants.length >= MOST && (
        <p className="text-[14px] text-soft">Four columns at the most: take one out first.</p>
      )}
      {kind === "failed" && <NotWorkedOut {...{ error, again }} />}
      {!value ? (
        kind !== "failed" && <Loading what="the columns" />
      ) : (
        <div className={`overflow-x-auto ${stale ? "opacity-60" : ""}`} aria-busy={stale}>
          <table className="w-full border-collapse text-left text-[14px]">
            <caption className="sr-only">The job as it is beside each change of it</caption>
            <thead>
              <tr className="align-bottom">
                <td />
                <th scope="col" className="plate px-1.5 pb-1 text-[16px] leading-tight">
                  As it is
                </th>
                {variants.map(({ label }, i) => (
                  // A label may come twice.
                  <th
                    key={`${i} ${label}`}
                    scope="col"
                    className="plate min-w-16 px-1.5 pb-1 text-[16px] leading-tight"
                  >
                    {label}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map(({ name, values }) => (
                <tr key={name} className="border-t border-rule">
                  <th
                    scope="row"
                    className="sticky left-0 bg-paper py-1.5 pr-1.5 text-[13px] leading-tight font-normal text-soft"
                  >
                    {name}
                  </th>
                  {values.slice(0, variants.length + 1).map((said, i) => (
                    <td
                      key={i}
                      className={`px-1.5 py-1.5 leading-tight ${i > 0 && said !== values[0] ? "font-semibold" : ""}`}
                    >
                      {said}
                    </td>
                  ))}
                </tr>
              ))}
              <tr className="border-t border-rule">
                <td />
                <td />
                {variants.map((variant, i) => (
                  <td key={`${i} ${variant.label}`} className="px-0.5 py-1.5">
                    <span className="flex flex-wrap">
                      <Button
                        disabled={value[i + 1]?.refused === "not-there"}
                        aria-label={`Apply: ${variant.label}`}
                        onClick={() =>
                          edit((j) => {
                            const changed = applyChanges(j, variant.changes);
                            if (!changed.ok) return j;
                            // What has been done is no what-if any more.
                            const left = (j.variants ?? []).filter((own) => own !== variant);
                            return { ...changed.job, variants: left };
                          })
                        }
                      >
                        Apply
                      </Button>
                      <IconButton
                        label={`Take out: ${variant.label}`}
                        onClick={() => set((all) => all.filter((own) => own !== variant))}
                      >
                        <Trash2 size={16} aria-hidden />
                      </IconButton>
                    </span>
                  </td>
                ))}
              </tr>
            </tbody>
          </table>
        </div>
      )}
      <p className="text-[13px] text-soft">
        Each column is the whole job solved and run anew. Applying one changes the job; undo takes
        it back. Prices of pipe are invented.
      </p>
    </section>
  );
}

const NONE: readonly Variant[] = [];

const DOES = { throws: "throws", ring: "in a ring", mist: "mists" } as const;

/** Rows that at least one column has something to say in. */
function rowsOf(columns: readonly Column[], units: UnitSystem) {
  const row = (name: string, of: (column: Column) => string | undefined) => ({
    name,
    values: columns.map((column) =>
      column.refused === "not-there"
        ? "does not fit any more"
        : column.refused === "no-line"
          ? "cannot be solved"
          : (of(column) ?? "–"),
    ),
    said: columns.some((column) => !column.refused && of(column) !== undefined),
  });
  const flow = (si: number | undefined) =>
    si === undefined ? undefined : format(si, "flow", units);
  const time = (si: number | undefined) => (si === undefined ? undefined : formatDuration(si));
  return [
    row("Delivered", ({ duty }) => flow(duty?.flow)),
    row("Total head", ({ duty }) => duty && format(duty.head, "head", units)),
    row("Stops", ({ stops }) => String(stops)),
    row("At the gun", ({ watering }) => watering && format(watering.pressure, "pressure", units)),
    row("It throws", ({ watering }) =>
      watering?.radius !== undefined
        ? format(watering.radius, "length", units)
        : watering && DOES[watering.does],
    ),
    row("Sets", ({ watering }) => watering?.sets?.toFixed(0)),
    row("Minutes a set", ({ watering }) => time(watering?.perSet)),
    row("Once round", ({ watering }) => time(watering?.whole)),
    row("Fuel once round", ({ watering }) =>
      watering?.fuel === undefined ? undefined : format(watering.fuel, "volume", units),
    ),
    row("Lowest pumping level", ({ well }) =>
      well?.pumping === undefined ? undefined : format(well.pumping, "length", units),
    ),
    row("Lifting it", ({ well }) =>
      well?.lifting === undefined ? undefined : workOf(well.lifting, units),
    ),
    row("Booster", ({ well }) =>
      well?.boosting === undefined ? undefined : workOf(well.boosting, units),
    ),
    row("Energy at the taps", ({ well }) =>
      well?.whole === undefined ? undefined : workOf(well.whole, units),
    ),
    row("Energy a day", ({ well }) =>
      well?.perDay === undefined ? undefined : format(well.perDay, "energy", units),
    ),
    row("Dry after", ({ overTime }) => time(overTime?.dry?.at)),
    row("Full after", ({ overTime }) => time(overTime?.full?.at)),
    row("Floor wet", ({ overTime }) =>
      overTime?.wet
        ? formatDuration(overTime.wet.at)
        : overTime?.survives === undefined
          ? undefined
          : overTime.findings.some(({ code }) => code === "falls-behind")
            ? "falls behind"
            : "stays dry",
    ),
    row("Over the rim", ({ overTime }) =>
      overTime?.wet ? amountOf(overTime.wet.spilled, units) : undefined,
    ),
    row("No pump: wet in", ({ overTime }) => time(overTime?.unpumped?.fromOn)),
    row("Holds", ({ overTime }) => flow(overTime?.survives)),
    row("Starts an hour", ({ overTime }) => {
      const starts = overTime?.switching?.worst.startsPerHour;
      return starts === undefined ? undefined : starts.toFixed(starts < 9.5 ? 1 : 0);
    }),
    row("Runs back", ({ overTime }) =>
      overTime && overTime.ranBack > 1e-3 ? amountOf(overTime.ranBack, units) : undefined,
    ),
    row("Energy", ({ overTime }) =>
      overTime?.energy === undefined ? undefined : format(overTime.energy, "energy", units),
    ),
    row("Hired, by the day", ({ overTime }) => overTime?.hire?.toFixed(0)),
    row(
      "Wet vacuum instead",
      ({ overTime }) => overTime?.vacuum && `${overTime.vacuum.trips} trips`,
    ),
    row("Price", ({ price }) =>
      price ? `${price.known.toFixed(0)}${price.whole ? "" : " and the pump"}` : undefined,
    ),
  ].filter(({ said }) => said);
}
