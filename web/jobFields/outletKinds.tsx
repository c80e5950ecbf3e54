import type { ReactNode } from "react";
import { RANGES } from "#contract/documents/ranges.ts";
import { type Levels, WATER_LEVELS } from "#core/fluid/levels.ts";
import type { Outlet } from "#core/outlet/outlets.ts";
import { OUTLETS } from "#words/items.ts";
import { visit } from "../openJob/jobStore.ts";
import { NumberField } from "../ui/Fields.tsx";
import { JobQuantity } from "./JobQuantity.tsx";

type Of<T extends Outlet["type"]> = Extract<Outlet, { type: T }>;

/** What the editor knows of a kind of outlet. */
interface OutletKind<T extends Outlet["type"]> {
  /** one with numbers to type over, beside water at a level */
  first: (level: Levels) => Of<T>;
  note: string;
  /** how the water leaves on the section, as a path from the pipe's end; nothing to be seen where absent */
  shape?: string;
  fields?: (outlet: Of<T>, set: (next: Of<T>) => void) => ReactNode;
}

const KINDS: { [T in Outlet["type"]]: OutletKind<T> } = {
  free: {
    first: () => ({ type: "free" }),
    shape: "M2 0 C 12 0, 16 6, 17 16 M2 -4 C 18 -5, 24 4, 25 16",
    note: "The outlet’s height follows from the rises along the line. Where water may go is for local rules and the land’s owner: ask before discharging.",
  },
  submerged: {
    first: (level) => ({ type: "submerged", level }),
    note: "The receiving level counts, not the pipe’s end. Low water at the source is solved with high water here, and the other way round. Stop backflow where it could do harm.",
    fields: (outlet, set) => (
      <>
        <div className="grid grid-cols-3 gap-2">
          {WATER_LEVELS.map((name) => (
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
      </>
    ),
  },
  drain: {
    first: () => ({ type: "drain" }),
    shape: "M2 0 H 10 M10 -2 V 10 H 34 V -2 M16 -6 V 2 M22 -8 V 2 M28 -6 V 2",
    note: "A gully, channel or catch basin that was joined to the pumped line. Its rim is this height; water that stands higher in the line comes up there, and is not counted as delivered.",
  },
  pressure: {
    first: () => ({ type: "pressure", pressure: 200_000 }),
    shape: "M4 0 H 22 M16 -6 L 22 0 L 16 6",
    note: "The pump works against this pressure as well as the lift.",
    fields: (outlet, set) => (
      <JobQuantity
        label="Pressure to keep"
        quantity="pressure"
        range={RANGES.outletPressure}
        value={outlet.pressure}
        onChange={(pressure) => set({ ...outlet, pressure })}
      />
    ),
  },
  nozzle: {
    first: () => ({ type: "nozzle", bore: 0.012, dischargeCoefficient: 0.95 }),
    shape: "M2 0 C 14 -12, 30 -12, 42 2 M2 0 C 14 -7, 24 -6, 34 4",
    note: "q = Cd · A · √(2p/ρ). A tapered gun nozzle has Cd 0.92 to 0.97 (common practice, no source). Its spreader, its chart and how far it throws are under Ground.",
    fields: (outlet, set) => (
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
        <JobQuantity
          label="Throws from a pressure of"
          optional
          quantity="pressure"
          range={RANGES.outletPressure}
          value={outlet.leastPressure}
          onChange={(leastPressure) => set({ ...outlet, leastPressure })}
        />
        <JobQuantity
          label="Mists above"
          optional
          quantity="pressure"
          range={RANGES.outletPressure}
          value={outlet.greatestPressure}
          onChange={(greatestPressure) => set({ ...outlet, greatestPressure })}
        />
      </div>
    ),
  },
  emitter: {
    first: () => ({ type: "emitter", flow: 0.25e-3, pressure: 200_000 }),
    shape: "M2 0 C 6 -10, 14 -12, 20 -2 M2 0 C 4 -12, 8 -16, 10 -16 M2 0 C 12 -4, 22 0, 26 8",
    note: "q ∝ √p from the one flow and pressure printed on it.",
    fields: (outlet, set) => (
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
    ),
  },
};

const kindOf = (type: Outlet["type"]) => KINDS[type] as OutletKind<Outlet["type"]>;

export function newOutlet(type: string, level: Levels): Outlet {
  return kindOf(type as Outlet["type"]).first(level);
}

export function outletShape(type: Outlet["type"]): string | undefined {
  return kindOf(type).shape;
}

/** Whether an outlet has numbers of its own to type. */
export const hasMore = (type: Outlet["type"]): boolean => kindOf(type).fields !== undefined;

/** The entries of an outlet's own numbers, and what they mean. */
export function OutletKindFields({ outlet, set }: { outlet: Outlet; set: (next: Outlet) => void }) {
  const { fields, note } = kindOf(outlet.type);
  return (
    <>
      {fields?.(outlet, set)}
      <p className="text-[13px] text-soft">{note}</p>
    </>
  );
}

/** Every kind, to choose from. */
export function OutletOptions() {
  return Object.entries(OUTLETS).map(([type, name]) => (
    <option key={type} value={type}>
      {name}
    </option>
  ));
}
