import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FirmDocument, firmVersions } from "#contract/documents/firm.ts";
import type { FieldDocument, JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { formatSize } from "#contract/units/format.ts";
import { coefficientOfChart } from "#core/irrigation/gun.ts";
import { findGun, GUNS, outletOf } from "#core/irrigation/guns.ts";
import { gunsOf, withOneGun, withSecondGun } from "#core/irrigation/gunsOnLine.ts";
import type { PathItem } from "#core/line/path.ts";
import type { NozzleOutlet } from "#core/outlet/gun.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import { api, newId, Refused } from "../../api/client.ts";
import { FIRM, theFirm } from "../../api/queries.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { without } from "../../lib/without.ts";
import { edit, editItem, visit } from "../../openJob/jobStore.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { NumberField, SelectField, TextField } from "../../ui/Fields.tsx";
import { Plus } from "../../ui/icons.ts";
import { OptionalNumber } from "../../ui/OptionalNumber.tsx";
import { toast } from "../../ui/toast.ts";
import { ChartRows } from "./ChartRows.tsx";
import { Throws } from "./Throws.tsx";

/** The guns' own numbers, throws that were measured, and how many stand on the line. */
export function GunsFields({
  job,
  field,
  told,
}: {
  job: JobDocument;
  field: FieldDocument;
  told: IrrigationResult | undefined;
}) {
  const guns = gunsOf(job.path as PathItem[]);
  const setPath = (path: PathItem[] | undefined) =>
    path && edit((own) => ({ ...own, path: path as JobPathItem[] }));
  return (
    <div className="grid gap-4">
      {guns.map(({ id, outlet }, i) => (
        <GunFields
          key={id}
          name={guns.length > 1 ? `Gun ${i + 1}` : "The gun"}
          outlet={outlet}
          set={(next) => editItem<"outlet">(id, { outlet: next })}
        />
      ))}
      <div className="flex flex-wrap gap-2">
        {guns.length === 1 && (
          <Button onClick={() => setPath(withSecondGun(job.path as PathItem[]))}>
            <Plus size={16} aria-hidden /> A second gun
          </Button>
        )}
        {guns.length > 1 && (
          <Button onClick={() => setPath(withOneGun(job.path as PathItem[]))}>One gun only</Button>
        )}
      </div>
      {guns.length > 0 && <Throws field={field} told={told} />}
    </div>
  );
}

function GunFields({
  name,
  outlet,
  set,
}: {
  name: string;
  outlet: NozzleOutlet;
  set: (next: NozzleOutlet) => void;
}) {
  const units = useUnits();
  const firm = useQuery(theFirm);
  const kept = firm.data?.document.guns ?? [];
  const change = (patch: Partial<NozzleOutlet>) =>
    set(without({ ...outlet, ...patch } as NozzleOutlet));
  const { leastPressure: least, greatestPressure: most } = outlet;
  const implied = coefficientOfChart(outlet);
  const listed = GUNS.find(({ model }) => model === outlet.model);
  const own = kept.find((gun) => gun.name === outlet.model);
  return (
    <section aria-label={name} className="grid gap-2">
      <h2 className="text-xl">{name}</h2>
      <SelectField
        label="Model"
        visibleLabel
        value={own ? own.id : (listed?.id ?? "")}
        onChange={(id) => {
          const stock = findGun(id);
          if (stock) return set(outletOf(stock));
          const mine = kept.find((gun) => gun.id === id);
          if (!mine) return change({ model: undefined, chart: undefined });
          const { id: _, name: model, ...rest } = mine;
          set({ ...rest, type: "nozzle", model });
        }}
      >
        <option value="">By its bores, or a chart typed here</option>
        {kept.length > 0 && (
          <optgroup label="The firm’s own">
            {kept.map((gun) => (
              <option key={gun.id} value={gun.id}>
                {gun.name}
              </option>
            ))}
          </optgroup>
        )}
        <optgroup label="Invented, to learn on">
          {GUNS.map(({ id, model }) => (
            <option key={id} value={id}>
              {model}
            </option>
          ))}
        </optgroup>
      </SelectField>
      <div className="grid grid-cols-2 items-end gap-2">
        <JobQuantity
          label="Range nozzle"
          quantity="diameter"
          range={RANGES.bore}
          value={outlet.bore}
          onChange={(bore) => change({ bore })}
        />
        <JobQuantity
          label="Spreader nozzle"
          optional
          quantity="diameter"
          range={RANGES.bore}
          value={outlet.spreaderBore}
          onChange={(spreaderBore) => change({ spreaderBore })}
        />
        <JobQuantity
          label="Throws from"
          optional
          quantity="pressure"
          range={
            most === undefined
              ? RANGES.outletPressure
              : { ...RANGES.outletPressure, max: most, what: "The least pressure" }
          }
          value={least}
          onChange={(leastPressure) => change({ leastPressure })}
        />
        <JobQuantity
          label="Mists above"
          optional
          quantity="pressure"
          range={
            least === undefined
              ? RANGES.outletPressure
              : { ...RANGES.outletPressure, min: least, what: "The greatest pressure" }
          }
          value={most}
          onChange={(greatestPressure) => change({ greatestPressure })}
        />
        <NumberField
          label={outlet.arc === undefined ? "Turns through (whole circle)" : "Turns through"}
          visibleLabel
          suffix="°"
          min={10}
          max={360}
          value={outlet.arc ?? 360}
          onVisit={visit}
          onChange={(arc) => change({ arc: arc === 360 ? undefined : arc })}
        />
        <OptionalNumber
          label="Rises at, degrees"
          whole={false}
          most={60}
          value={outlet.trajectory}
          onChange={(trajectory) => change({ trajectory })}
        />
      </div>
      {outlet.trajectory !== undefined && outlet.trajectory < 20 && !outlet.chart?.length && (
        <p className="text-[14px]">
          A low jet throws less far than the textbook says, and stands wind better: pace one throw.
        </p>
      )}
      <details>
        <summary className="target py-1 font-medium">Its chart: pressure, flow, throw</summary>
        <div className="grid gap-2 pt-1">
          <ChartRows
            key={listed?.id ?? own?.id ?? "typed"}
            rows={outlet.chart ?? []}
            onRows={(chart) => change({ chart: chart.length > 0 ? chart : undefined })}
          />
          {implied !== undefined && Math.abs(implied / outlet.dischargeCoefficient - 1) > 0.04 && (
            <p className="text-[14px]">
              Its chart’s flows want a discharge coefficient of {implied.toFixed(2)} on these bores;
              the line uses {outlet.dischargeCoefficient.toFixed(2)}.{" "}
              {implied >= 0.4 && implied <= 1 ? (
                <Button
                  look="quiet"
                  onClick={() => change({ dischargeCoefficient: Number(implied.toFixed(3)) })}
                >
                  Take the chart’s
                </Button>
              ) : (
                "No nozzle has that: check the bores and the chart’s units."
              )}
            </p>
          )}
          {!listed && <KeepGun {...{ outlet, change }} kept={own} />}
        </div>
      </details>
      <p className="text-[13px] text-soft">
        {formatSize(outlet.bore, units, "nearest")}
        {outlet.spreaderBore
          ? ` and ${formatSize(outlet.spreaderBore, units, "nearest")} together pass`
          : " passes"}{" "}
        q = Cd · A · √(2p/ρ + v²), Cd {outlet.dischargeCoefficient.toFixed(2)}. The pressure is what
        a gauge at the base reads.
      </p>
    </section>
  );
}

/** Keeps a gun that was typed with the firm, under a name, for other jobs; or takes one out again. */
function KeepGun({
  outlet,
  change,
  kept,
}: {
  outlet: NozzleOutlet;
  change: (patch: Partial<NozzleOutlet>) => void;
  /** the firm's own that it is */
  kept: FirmGun | undefined;
}) {
  const client = useQueryClient();
  const firm = useQuery(theFirm);
  async function save(guns: (before: FirmGun[]) => FirmGun[], done: string): Promise<void> {
    const stored = firm.data;
    try {
      const document: FirmDocument = {
        ...(stored?.document ?? { format: firmVersions.format, version: firmVersions.version }),
        guns: guns(stored?.document.guns ?? []),
      };
      await api.save("firms", FIRM, stored?.revision ?? 0, document);
      toast(done);
    } catch (error) {
      toast.error(
        error instanceof Refused && error.status === 409
          ? "Somebody changed the firm’s guns meanwhile: try once more."
          : `Not saved: ${(error as Error).message}`,
      );
    } finally {
      await client.invalidateQueries({ queryKey: theFirm.queryKey });
    }
  }
  if (kept) {
    return (
      <Button
        look="quiet"
        className="justify-self-start"
        onClick={() =>
          void save(
            (before) => before.filter(({ id }) => id !== kept.id),
            `${kept.name} is not kept any more; this job still has it.`,
          )
        }
      >
        Keep it no longer for other jobs
      </Button>
    );
  }
  const { type: _, model = "", ...gun } = outlet;
  const name = model.trim();
  return (
    <div className="flex items-end gap-2">
      <TextField
        label="Its name"
        className="flex-1"
        value={model}
        onVisit={visit}
        onChange={(next) => change({ model: next === "" ? undefined : next })}
      />
      <Button
        disabled={name === "" || firm.data === undefined}
        onClick={() =>
          void save(
            (before) => [...before, { id: newId(), name, ...gun }],
            `${name} is kept for other jobs.`,
          )
        }
      >
        Keep for other jobs
      </Button>
    </div>
  );
}

type FirmGun = NonNullable<FirmDocument["guns"]>[number];
