import type { PumpState } from "../hydraulics/boundary.ts";
import { type LineModel, stateOf } from "../hydraulics/solveLine.ts";
import { evaluate, monotoneCubic } from "../numeric/monotoneCubic.ts";
import { keptPressure } from "../outlet/outlets.ts";
import { continuedHead, powerAt, publishedValue } from "../pump/curve.ts";
import { GRAVITY } from "../quantity/constants.ts";

/** A pump that lifts water out of a well into a tank under pressure, tabulated so that a day of it costs no solving. */
export interface PumpToTank {
  /** m³/s at a water level and a tank pressure: m above datum and Pa (gauge) */
  flowAt: (level: number, pressure: number) => number;
  /** W at a flow; undefined where no power is published */
  powerAt: (flow: number) => number | undefined;
  /** m the pumps add at a flow, one after another */
  headAt: (flow: number) => number;
  /** kg/m³ */
  density: number;
}

/**
 * The line of a job as its tank sees it. It is asked at lifts from the lowest to its shut-off, the well's water taken to
 * stand still where it is: what pumping draws down is followed by whoever asks. Undefined where no outlet holds a
 * pressure.
 * @param ready a line whose source is open water, all its pumps running together
 */
export function pumpToTank(ready: LineModel, specificGravity: number): PumpToTank | undefined {
  const { line, model, states, boundaries, water } = ready;
  const at = line.outlets.findIndex(({ item }) => keptPressure(item.outlet) !== undefined);
  const outlet = line.outlets[at];
  if (!outlet) return undefined;
  const perMetre = water.density * GRAVITY;
  const { normal } = boundaries;
  // What matters is how much higher the tank's head lies than the water.
  const shutoff = states.reduce(
    (sum, state) => sum + (state.kind === "running" ? state.curve.peak.head : 0),
    0,
  );
  const lifts: number[] = [];
  const flows: number[] = [];
  let start: ReturnType<typeof stateOf>;
  for (let i = 0; i <= ROWS; i++) {
    const lift = shutoff * (i / ROWS);
    const outlets = normal.outlets.map((head, k) => (k === at ? normal.source + lift : head));
    start = stateOf(model.solve({ source: normal.source, outlets }, states, start));
    lifts.push(lift);
    flows.push(Math.max(start?.byOutlet[at] ?? 0, 0));
  }
  const curve = monotoneCubic(lifts, flows);
  const held = states.find((state) => state.kind === "held");
  return {
    density: water.density,
    flowAt: (level, pressure) => {
      if (held?.kind === "held") return held.flow;
      const lift = outlet.elevation + pressure / perMetre - level;
      return lift >= shutoff ? 0 : Math.max(evaluate(curve, Math.max(lift, 0)), 0);
    },
    headAt: (flow) =>
      states.reduce(
        (sum, state) => sum + (state.kind === "running" ? continuedHead(state.curve, flow) : 0),
        0,
      ),
    powerAt: (flow) => {
      const powers = states.map((state) => powerOf(state, flow));
      return powers.every((own) => own !== undefined)
        ? powers.reduce<number>((sum, own) => sum + (own ?? 0), 0) * specificGravity
        : undefined;
    },
  };
}

const ROWS = 48;

function powerOf(state: PumpState, flow: number): number | undefined {
  return state.kind === "running" ? publishedValue(powerAt(state.curve, flow)) : undefined;
}
