import { useCallback, useState } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { format } from "#contract/units/format.ts";
import { runoffArea } from "#model/demand/demand.ts";
import { readStorm, STORM_COLUMNS, STORM_ORDER } from "#model/import/readStorm.ts";
import type { Table } from "#model/import/table.ts";
import { LEAD_ACID, onBattery } from "#model/simulation/battery.ts";
import { firstStorm, USUAL_POWER } from "#model/simulation/storm.ts";
import { troublesOf } from "#model/simulation/troubles.ts";
import { itemName } from "#words/items.ts";
import { troubleWords } from "#words/simulation.ts";
import { ImportTable } from "../../exchange/ImportTable.tsx";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { edit, pumpItems, visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { NumberField, SelectField } from "../../ui/Fields.tsx";
import { FileUp } from "../../ui/icons.ts";
import { CatchRows } from "./CatchRows.tsx";
import { useRainUnit } from "./useRainUnit.ts";

type InTime = NonNullable<JobDocument["overTime"]>;

const STORMS = {
  none: "no storm",
  block: "even rain",
  triangle: "rising to the middle, and falling",
  alternating: "hardest in the middle, in blocks",
  table: "from a table",
} as const;

/** What happens to the water from outside: a storm, a power cut, and what it costs. */
export function StormPart({ job }: { job: JobDocument }) {
  const units = useUnits();
  const rain = useRainUnit();
  const [reading, setReading] = useState(false);
  const time: InTime = job.overTime ?? {};
  const { storm, hyetograph, powerCut } = time;
  const put = (patch: Partial<InTime>) =>
    edit((j) => ({ ...j, overTime: { ...j.overTime, ...patch } }));
  const chosen = storm?.kind ?? (hyetograph && hyetograph.length > 0 ? "table" : "none");
  const needCatches = job.need?.kind === "rain" ? job.need.catches : undefined;
  const hardestHour = job.need?.kind === "rain" ? job.need.hardestHour : undefined;
  const area = runoffArea(storm?.catches ?? needCatches ?? []);
  const read = useCallback((table: Table) => readStorm(table, area, units), [area, units]);
  const wrong = troublesOf(job).filter(
    ({ at }) => at === "overTime.hyetograph" || at === "overTime.powerCut.to",
  );
  const choose = (kind: keyof typeof STORMS) => {
    if (kind === "none") put({ storm: undefined, hyetograph: undefined } as Partial<InTime>);
    else if (kind === "table") setReading(true);
    else {
      put({
        hyetograph: undefined,
        storm: {
          ...firstStorm(kind, hardestHour),
          ...(!needCatches && { catches: [{ surface: "roof" as const, area: 100 }] }),
          ...storm,
          kind,
        },
      } as Partial<InTime>);
    }
  };
  const setStorm = (patch: object) => put({ storm: { ...storm, ...patch } as InTime["storm"] });
  return (
    <section aria-label="Storm and power" className="grid gap-2">
      <div className="grid grid-cols-3 gap-2">
        <SelectField
          label="Storm"
          visibleLabel
          className="col-span-full"
          value={chosen}
          onChange={(kind) => choose(kind as keyof typeof STORMS)}
        >
          {Object.entries(STORMS).map(([kind, name]) => (
            <option key={kind} value={kind}>
              {name}
            </option>
          ))}
        </SelectField>
        {storm && (
          <>
            <JobQuantity
              label="Rain in all"
              quantity="length"
              unit={rain}
              range={RANGES.rain}
              value={storm.depth}
              onChange={(depth) => setStorm({ depth })}
            />
            <JobQuantity
              label="Within"
              quantity="time"
              unit="h"
              range={RANGES.longTime}
              value={storm.duration}
              onChange={(duration) => setStorm({ duration })}
            />
            <JobQuantity
              label="Begins after"
              quantity="time"
              unit="h"
              range={FROM_START}
              value={storm.start ?? 0}
              onChange={(start) => setStorm({ start })}
            />
          </>
        )}
        {chosen === "table" && (
          <p className="content-end text-[14px] text-soft">{hyetograph?.length} rows of inflow</p>
        )}
      </div>
      {storm && !needCatches && (
        <CatchRows catches={storm.catches ?? []} onChange={(catches) => setStorm({ catches })} />
      )}
      {storm && (
        <p className="text-[14px] text-soft">
          {format(area * storm.depth, "volume", units)} run off in all, on average{" "}
          {format((area * storm.depth) / storm.duration, "flow", units)}.
          {storm.kind === "alternating" &&
            !hardestHour &&
            ` Assumed: the most that falls within a part of the storm goes with that part to the power ${USUAL_POWER}; a hardest hour typed under the need takes its place.`}
        </p>
      )}
      {chosen === "table" && (
        <Button className="justify-self-start" onClick={() => setReading(true)}>
          <FileUp size={16} aria-hidden /> Another table
        </Button>
      )}
      {reading && (
        <ImportTable
          title="A storm from a table"
          says="A row for each time: what flows in then, or the rain that falls from it until the next row"
          placeholder={"Time (min)\tRain (mm)\n0\t1.2\n5\t3.4"}
          holdings={STORM_COLUMNS}
          order={STORM_ORDER}
          read={read}
          shown={(rows) => (
            <p role="status" className="font-medium">
              {rows.length - 1} rows, {format(intoIt(rows), "volume", units)} in all
            </p>
          )}
          take="Take it"
          onTake={(rows) => put({ hyetograph: rows, storm: undefined } as Partial<InTime>)}
          onClose={() => setReading(false)}
        />
      )}
      {wrong.map((own) => (
        <p key={own.at} role="alert" className="text-[14px] text-signal">
          {troubleWords(own, units)}
        </p>
      ))}
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        <JobQuantity
          label="Power gone after"
          optional
          quantity="time"
          unit="h"
          range={FROM_START}
          value={powerCut?.from}
          onChange={(from) =>
            put({
              powerCut:
                from === undefined
                  ? undefined
                  : { from, to: Math.max(powerCut?.to ?? 0, from + 3600) },
            } as Partial<InTime>)
          }
        />
        <JobQuantity
          label="And back after"
          optional
          quantity="time"
          unit="h"
          range={FROM_START}
          value={powerCut?.to}
          onChange={(to) =>
            put({
              powerCut: to === undefined ? undefined : { from: powerCut?.from ?? 0, to },
            } as Partial<InTime>)
          }
        />
        <JobQuantity
          label="Look at so long"
          optional
          quantity="time"
          unit="h"
          range={RANGES.longTime}
          value={time.span}
          onChange={(span) => put({ span } as Partial<InTime>)}
        />
        <NumberField
          label="Price of a kWh"
          visibleLabel
          value={time.energyPrice ?? 0}
          min={0}
          max={1000}
          onVisit={visit}
          onChange={(price) => put({ energyPrice: price || undefined } as Partial<InTime>)}
        />
      </div>
      <BatteryFields job={job} onChange={(battery) => put({ battery } as Partial<InTime>)} />
    </section>
  );
}

function BatteryFields({
  job,
  onChange,
}: {
  job: JobDocument;
  onChange: (battery: InTime["battery"]) => void;
}) {
  const units = useUnits();
  const { battery } = job.overTime ?? {};
  const pumps = pumpItems(job.path);
  const wrong = troublesOf(job).find(({ at }) => at === "overTime.battery");
  const put = (patch: object) => onChange({ ...battery, ...patch });
  // A pump made for a battery is on one whatever is chosen here.
  const fed = battery?.pumps?.[0] ?? [...onBattery(job)][0];
  return (
    <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
      <SelectField
        label="On a battery"
        visibleLabel
        value={fed ?? ""}
        onChange={(value) =>
          value === ""
            ? onChange(undefined)
            : onChange({ ampereHours: 75, volts: 12, ...battery, pumps: [value] })
        }
      >
        <option value="">no pump</option>
        {pumps.map(({ id }) => (
          <option key={id} value={id}>
            {itemName(job.path, id, units)}
          </option>
        ))}
      </SelectField>
      {fed && (
        <>
          <NumberField
            label="Battery, Ah"
            visibleLabel
            value={battery?.ampereHours ?? 0}
            min={0}
            max={100_000}
            onVisit={visit}
            onChange={(ampereHours) => put({ ampereHours })}
          />
          <NumberField
            label="Volts"
            visibleLabel
            value={battery?.volts ?? 0}
            min={0}
            max={1000}
            onVisit={visit}
            onChange={(volts) => put({ volts })}
          />
          <NumberField
            label="Its exponent"
            visibleLabel
            value={battery?.peukert ?? LEAD_ACID.peukert}
            min={1}
            max={2}
            onVisit={visit}
            onChange={(peukert) => put({ peukert })}
          />
        </>
      )}
      {wrong && (
        <p role="alert" className="col-span-full text-[14px] text-signal">
          {troubleWords(wrong, units)}
        </p>
      )}
    </div>
  );
}

/** s from the start of a run */
const FROM_START = { min: 0, max: 3.2e7, what: "The time" };

/** m³ that rows of inflow bring in all, each until the next. */
function intoIt(rows: NonNullable<InTime["hyetograph"]>): number {
  let sum = 0;
  for (const [i, { from, inflow }] of rows.entries())
    sum += inflow * ((rows[i + 1]?.from ?? from) - from);
  return sum;
}
