import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/quantity.ts";
import { levelsOf, type Outlet } from "#core/line/path.ts";
import { OUTLETS } from "#words/items.ts";
import { newId } from "../../api/client.ts";
import { Button } from "../../ui/Button.tsx";
import { NumberField, SelectField } from "../../ui/Fields.tsx";
import { Plus } from "../../ui/icons.ts";
import { editItem, insertItem, outletItems, visit } from "../jobStore.ts";
import { JobQuantity } from "./JobQuantity.tsx";
import { newOutlet } from "./newOutlet.ts";

/** Where the water leaves: one place, or every end of a line that parts. */
export function OutletPart({ job, selected }: { job: JobDocument; selected: string | undefined }) {
  const outlets = outletItems(job.path);
  const last = job.path.at(-1);
  return (
    <div className="grid gap-4 p-3">
      {outlets.map((item, index) => (
        <section
          key={item.id}
          aria-label={outlets.length > 1 ? `Outlet ${index + 1}` : "Outlet"}
          className={outlets.length > 1 && item.id === selected ? "rounded bg-press p-2" : ""}
        >
          {outlets.length > 1 && <h2 className="plate text-[17px]">Outlet {index + 1}</h2>}
          <OutletFields {...{ item, job }} />
        </section>
      ))}
      {(outlets.length === 0 || (last?.kind !== "outlet" && last?.kind !== "split")) && (
        <div>
          <p className="pb-2 text-soft">The path has no outlet at its end yet.</p>
          <Button
            onClick={() =>
              insertItem(job.path.length, { kind: "outlet", id: newId(), outlet: { type: "free" } })
            }
          >
            <Plus size={16} aria-hidden /> Outlet
          </Button>
        </div>
      )}
    </div>
  );
}

function OutletFields({
  item,
  job,
}: {
  item: Extract<JobPathItem, { kind: "outlet" }>;
  job: JobDocument;
}) {
  const { outlet } = item;
  const set = (next: Outlet) => editItem<"outlet">(item.id, { outlet: next });
  return (
    <div className="grid gap-3">
      <SelectField
        label="The water leaves"
        visibleLabel
        value={outlet.type}
        onChange={(type) => set(newOutlet(type as Outlet["type"], levelsOf(job.source)))}
      >
        {(Object.keys(OUTLETS) as Outlet["type"][]).map((type) => (
          <option key={type} value={type}>
            {OUTLETS[type]}
          </option>
        ))}
      </SelectField>
      {outlet.type === "submerged" && (
        <div className="grid grid-cols-3 gap-2">
          {(["low", "normal", "high"] as const).map((name) => (
            <JobQuantity
              key={name}
              label={`Receiving water, ${name}`}
              quantity="length"
              range={RANGES.elevation}
              value={outlet.level[name]}
              onChange={(value) => set({ ...outlet, level: { ...outlet.level, [name]: value } })}
            />
          ))}
        </div>
      )}
      {outlet.type === "submerged" && (
        <JobQuantity
          label="Closed tank: pressure on its water"
          optional
          quantity="pressure"
          range={RANGES.gasPressure}
          value={outlet.gasPressure}
          onChange={(gasPressure) => {
            const { gasPressure: _, ...open } = outlet;
            set(gasPressure === undefined ? open : { ...open, gasPressure });
          }}
        />
      )}
      {outlet.type === "emitter" && (
        <div className="grid grid-cols-2 gap-2">
          <JobQuantity
            label="It passes"
            quantity="flow"
            range={RANGES.emitterFlow}
            value={outlet.flow}
            onChange={(flow) => set({ ...outlet, flow })}
          />
          <JobQuantity
            label="At a pressure of"
            quantity="pressure"
            range={RANGES.emitterPressure}
            value={outlet.pressure}
            onChange={(pressure) => set({ ...outlet, pressure })}
          />
        </div>
      )}
      {outlet.type === "pressure" && (
        <JobQuantity
          label="Pressure to keep"
          quantity="pressure"
          range={RANGES.outletPressure}
          value={outlet.pressure}
          onChange={(pressure) => set({ ...outlet, pressure })}
        />
      )}
      {outlet.type === "nozzle" && (
        <div className="grid grid-cols-2 gap-2">
          <JobQuantity
            label="Nozzle bore"
            quantity="diameter"
            range={RANGES.bore}
            value={outlet.bore}
            onChange={(bore) => set({ ...outlet, bore })}
          />
          <NumberField
            label="Discharge coefficient"
            visibleLabel
            value={outlet.dischargeCoefficient}
            min={0.4}
            max={1}
            onVisit={visit}
            onChange={(dischargeCoefficient) => set({ ...outlet, dischargeCoefficient })}
          />
        </div>
      )}
      <p className="text-[13px] text-soft">{OUTLET_NOTES[outlet.type]}</p>
    </div>
  );
}

const OUTLET_NOTES: Record<Outlet["type"], string> = {
  free: "The outlet’s height follows from the rises along the line. Where water may go is for local rules and the land’s owner: ask before discharging.",
  submerged:
    "The receiving level counts, not the pipe’s end. Low water at the source is solved with high water here, and the other way round. Stop backflow where it could do harm.",
  drain:
    "A gully, channel or catch basin that was joined to the pumped line. Its rim is this height; water that stands higher in the line comes up there, and is not counted as delivered.",
  pressure: "The pump works against this pressure as well as the lift.",
  nozzle:
    "q = Cd · A · √(2p/ρ). A tapered gun nozzle has Cd 0.92 to 0.97 (common practice, no source).",
  emitter: "q ∝ √p from the one flow and pressure printed on it.",
};
