import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { sameDocument } from "#contract/documents/same.ts";
import { STANDINGS, WATER_KINDS } from "#core/line/path.ts";
import { STANDS, SUPPLIES, WATER_IN } from "#words/items.ts";
import { visit } from "../openJob/jobStore.ts";
import { SelectField } from "../ui/Fields.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";

type Site = JobDocument["site"];

/** Where the pump stands, what the water is and what power there is: what a pump may not stand against. */
export function PlaceFields({
  site,
  onChange: setSite,
}: {
  site: Site;
  /** what is undefined is not known any more */
  onChange: (patch: Partial<Site>) => void;
}) {
  const water = site.water ?? [];
  const known =
    site.supplies && SUPPLIES.findIndex(({ is }) => sameDocument(is, site.supplies ?? []));
  return (
    <div className="@container grid gap-2">
      <div className="grid grid-cols-2 gap-2 @md:grid-cols-3">
        <SelectField
          label="The pump stands"
          visibleLabel
          value={site.standsAt ?? ""}
          onChange={(value) => setSite({ standsAt: STANDINGS.find((place) => place === value) })}
        >
          <option value="">not said</option>
          {STANDINGS.map((place) => (
            <option key={place} value={place}>
              {STANDS[place]}
            </option>
          ))}
        </SelectField>
        <SelectField
          label="Power there"
          visibleLabel
          value={known === undefined ? "" : String(known)}
          onChange={(value) => setSite({ supplies: SUPPLIES[Number(value || -1)]?.is })}
        >
          <option value="">not said</option>
          {SUPPLIES.map(({ name }, i) => (
            <option key={name} value={i}>
              {name}
            </option>
          ))}
          {known === -1 && <option value="-1">as in the job file</option>}
        </SelectField>
        <QuantityField
          onVisit={visit}
          label="Way in, narrowest"
          optional
          quantity="diameter"
          range={RANGES.bore}
          value={site.access?.hatch}
          onChange={(hatch) =>
            setSite({ access: { ...site.access, ...(hatch ? { hatch } : { hatch: undefined }) } })
          }
        />
      </div>
      <fieldset className="flex flex-wrap items-center gap-x-4">
        <legend className="text-[13px] text-soft">The water is, or has in it</legend>
        {WATER_KINDS.map((kind) => (
          <label key={kind} className="target inline-flex items-center gap-2 text-[15px]">
            <input
              type="checkbox"
              className="size-5 accent-(--water)"
              checked={water.includes(kind)}
              onChange={(event) => {
                // What is clear has nothing in it.
                const others = water.filter(
                  (other) => other !== kind && (kind === "clear") === (other === "clear"),
                );
                const now = event.target.checked ? [...others, kind] : others;
                setSite({ water: now.length > 0 ? now : undefined });
              }}
            />
            {WATER_IN[kind]}
          </label>
        ))}
      </fieldset>
    </div>
  );
}

/** The place with what is known of it now. */
export function withKnown(site: Site, patch: Partial<Site>): Site {
  const entries = Object.entries({ ...site, ...patch });
  return Object.fromEntries(entries.filter(([, value]) => value !== undefined)) as Site;
}
