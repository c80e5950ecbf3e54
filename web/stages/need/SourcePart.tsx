import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import type { WaterLevel } from "#core/fluid/levels.ts";
import { levelsOf } from "#core/line/path.ts";
import { uncertaintyOf } from "#model/job/assumed.ts";
import { AssumedList } from "../../jobFields/AssumedList.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { PlaceFields, withKnown } from "../../jobFields/PlaceFields.tsx";
import { edit, visit } from "../../openJob/jobStore.ts";
import { NumberField, PercentField, SelectField, TextField } from "../../ui/Fields.tsx";
import { BodiesPart } from "./BodiesPart.tsx";
import { EmptyingPart } from "./EmptyingPart.tsx";
import { FloatsPart } from "./FloatsPart.tsx";
import { NeedPart } from "./NeedPart.tsx";
import { StormPart } from "./StormPart.tsx";
import { YardPart } from "./YardPart.tsx";

/** Where the water is, what is wanted of it, and how it is reckoned. */
export default function SourcePart({ job }: { job: JobDocument }) {
  const { source, site, method } = job;
  const setLevel = (name: WaterLevel) => (value: number) =>
    edit((j) =>
      j.source.kind === "mains"
        ? j
        : { ...j, source: { ...j.source, level: { ...j.source.level, [name]: value } } },
    );
  const levels = levelsOf(source);
  const levelName = (open: string, well: string) => (source.kind === "well" ? well : open);
  const elevation = { quantity: "length", range: RANGES.elevation } as const;
  return (
    <div className="grid gap-3 p-3">
      <NeedPart job={job} />
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="Place"
          value={job.place ?? ""}
          maxLength={200}
          onVisit={visit}
          onChange={(place) => edit((j) => ({ ...j, place }))}
        />
        <TextField
          label="Customer"
          value={job.customer?.name ?? ""}
          onVisit={visit}
          onChange={(name) => edit((j) => ({ ...j, customer: { ...j.customer, name } }))}
        />
      </div>
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="Water"
          value={source.name ?? ""}
          onVisit={visit}
          maxLength={80}
          onChange={(name) => edit((j) => ({ ...j, source: { ...j.source, name } }))}
        />
        <TextField
          label="Levels measured from"
          value={job.datum ?? ""}
          onVisit={visit}
          onChange={(datum) => edit((j) => ({ ...j, datum }))}
        />
      </div>
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        <JobQuantity
          {...elevation}
          label={levelName("Low water", "Dry-season water")}
          value={levels.low}
          onChange={setLevel("low")}
        />
        <JobQuantity
          {...elevation}
          label={levelName("Normal water", "Usual water")}
          value={levels.normal}
          onChange={setLevel("normal")}
        />
        <JobQuantity
          {...elevation}
          label={levelName("High water", "Wet-season water")}
          value={levels.high}
          onChange={setLevel("high")}
        />
        <JobQuantity
          {...elevation}
          label="Intake"
          value={source.intake}
          onChange={(intake) => edit((j) => ({ ...j, source: { ...j.source, intake } }))}
        />
      </div>
      {(job.need?.kind === "rain" || job.yard) && <YardPart job={job} />}
      <BodiesPart job={job} />
      <FloatsPart job={job} />
      {job.bodies && job.bodies.length > 0 && <StormPart job={job} />}
      {job.kind === "emptying" && <EmptyingPart job={job} />}
      <PlaceFields
        site={site}
        onChange={(patch) => edit((j) => ({ ...j, site: withKnown(j.site, patch) }))}
      />
      <AssumedList job={job} />
      <details>
        <summary className="plate min-h-11 content-center text-[17px]">More about this job</summary>
        <div className="grid gap-3 pt-1">
          <div className="grid grid-cols-2 gap-2 sm:grid-cols-3">
            {(source.kind === "open" || source.kind === "tank") && (
              <JobQuantity
                label="Closed tank: pressure"
                optional
                quantity="pressure"
                range={RANGES.gasPressure}
                value={source.kind === "tank" ? source.gasPressure : undefined}
                onChange={(gasPressure) =>
                  edit((j) => ({ ...j, source: tankOr(j.source, gasPressure) }))
                }
              />
            )}
            <JobQuantity
              label="Altitude"
              quantity="length"
              range={RANGES.altitude}
              value={site.altitude}
              onChange={(altitude) => edit((j) => ({ ...j, site: { ...j.site, altitude } }))}
            />
            <JobQuantity
              label="Water temperature"
              quantity="temperature"
              range={RANGES.waterTemperature}
              value={site.waterTemperature}
              onChange={(waterTemperature) =>
                edit((j) => ({ ...j, site: { ...j.site, waterTemperature } }))
              }
            />
            <NumberField
              label="Specific gravity"
              visibleLabel
              value={site.specificGravity}
              min={0.9}
              max={1.6}
              onVisit={visit}
              onChange={(specificGravity) =>
                edit((j) => ({ ...j, site: { ...j.site, specificGravity } }))
              }
            />
            <TextField
              label="Note"
              value={job.note ?? ""}
              maxLength={5000}
              onVisit={visit}
              onChange={(note) => edit((j) => ({ ...j, note }))}
            />
          </div>
          <div className="grid grid-cols-1 gap-2 sm:grid-cols-2">
            <SelectField
              label="Friction by"
              visibleLabel
              value={method.friction}
              onChange={(friction) =>
                edit((j) => ({
                  ...j,
                  method: { ...j.method, friction: friction as typeof method.friction },
                }))
              }
            >
              <option value="darcy-weisbach">Darcy–Weisbach</option>
              <option value="hazen-williams">Hazen–Williams</option>
            </SelectField>
            <SelectField
              label="Fittings by"
              visibleLabel
              value={method.fittings}
              onChange={(fittings) =>
                edit((j) => ({
                  ...j,
                  method: { ...j.method, fittings: fittings as typeof method.fittings },
                }))
              }
            >
              <option value="coefficient">Loss coefficient K</option>
              <option value="equivalent-length">Equivalent length</option>
            </SelectField>
          </div>
          <DoubtPart job={job} />
          <p className="text-[13px] text-soft">
            Dirty water: the specific gravity counts in pressure and power; its viscosity stays that
            of clean water.
          </p>
        </div>
      </details>
    </div>
  );
}

/** A pressure on its surface makes open water a closed tank; none makes a tank open water. */
function tankOr(
  source: JobDocument["source"],
  gasPressure: number | undefined,
): JobDocument["source"] {
  if (source.kind !== "open" && source.kind !== "tank") return source;
  const { level, intake, name } = source;
  const same = { level, intake, ...(name !== undefined && { name }) };
  return gasPressure === undefined
    ? { kind: "open", ...same }
    : { kind: "tank", ...same, gasPressure };
}

/** How sure the inputs are: what the likely range of the duty is drawn from. */
function DoubtPart({ job }: { job: JobDocument }) {
  const doubt = uncertaintyOf(job);
  const set = (patch: Partial<typeof doubt>) =>
    edit((j) => ({ ...j, doubt: { ...uncertaintyOf(j), ...patch } }));
  return (
    <fieldset className="grid grid-cols-2 gap-2 sm:grid-cols-4">
      <legend className="plate pb-1 text-[17px]">How sure these are</legend>
      <JobQuantity
        label="Levels, up or down"
        quantity="length"
        range={RANGES.doubtLevel}
        value={doubt.level}
        onChange={(level) => set({ level })}
      />
      <NumberField
        label="Roughness, factor"
        visibleLabel
        value={doubt.roughnessFactor}
        min={1}
        max={20}
        onVisit={visit}
        onChange={(roughnessFactor) => set({ roughnessFactor })}
      />
      <PercentField
        label="C of the pipe, ±"
        value={doubt.hazenWilliamsC}
        max={50}
        onVisit={visit}
        onChange={(fraction) => set({ hazenWilliamsC: fraction })}
      />
      <PercentField
        label="Fittings, ±"
        value={doubt.fittings}
        max={100}
        onVisit={visit}
        onChange={(fraction) => set({ fittings: fraction })}
      />
    </fieldset>
  );
}
