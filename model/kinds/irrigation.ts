import { waterAt } from "#core/fluid/water.ts";
import { pressureHead } from "#core/hydraulics/boundary.ts";
import { orificeFlow } from "#core/hydraulics/hydraulicModel.ts";
import { type JobKind, runOf } from "./kind.ts";

/** A tapered gun nozzle. Common practice, no source. */
const DISCHARGE_COEFFICIENT = 0.95;
/** K: the water a new job is reckoned with */
const COOL = 288.15;

/** Water ground with one gun: the pump stands on the bank and draws the water up. Measured from where it stands. */
export const watering: JobKind = {
  demands: ["gun"],
  decisions: ["pump", "suction", "discharge", "gun", "sets", "fuel"],
  asks: () => ["down", "along", "up", "nozzle", "pressure"],
  offers: () => [],
  usual: (m) => ({
    ...{ down: m, along: 60 * m, up: 3 * m },
    ...{ nozzle: 0.014, pressure: m < 1 ? 275_790 : 300_000 },
  }),
  begin(of, typed, _demand, m) {
    const down = of("down");
    const bore = of("nozzle");
    // What the nozzle passes at the pressure a gauge at its base is to read.
    const flow = typed("nozzle", "pressure")
      ? orificeFlow(DISCHARGE_COEFFICIENT, bore, pressureHead(of("pressure"), waterAt(COOL)))
      : undefined;
    const lift = down + m;
    return {
      datum: "where the pump stands",
      source: {
        kind: "open",
        level: { low: -down - 0.5 * m, normal: -down, high: -Math.max(down - 0.5 * m, down / 2) },
        intake: -lift,
      },
      path: [
        { kind: "fitting", id: "foot-valve", fitting: "foot-valve-hinged", count: 1 },
        {
          ...{ kind: "pipe", id: "suction", stock: "suction-hose-2in" },
          ...runOf(lift + 3 * m, lift),
        },
        { kind: "pump", id: "pump", pump: null },
        { kind: "fitting", id: "valve", fitting: "gate-valve", count: 1, stock: "lay-flat-2in" },
        {
          ...{ kind: "pipe", id: "hose", stock: "lay-flat-2in" },
          ...runOf(of("along"), of("up")),
        },
        {
          ...{ kind: "outlet", id: "outlet" },
          outlet: { type: "nozzle", bore, dischargeCoefficient: DISCHARGE_COEFFICIENT },
        },
      ],
      site: { standsAt: "bank", measuredFrom: "datum" },
      ...(flow && { wantedFlow: flow, need: { kind: "guns", guns: 1, flow } }),
    };
  },
  restsOn: {
    "source.level.low": [],
    "source.level.normal": ["down"],
    "source.level.high": [],
    "source.intake": [],
    "path.foot-valve": [],
    "path.suction": [],
    "path.valve": [],
    "path.hose.stock": [],
    "path.hose.length": ["along"],
    "path.hose.rise": ["up"],
    "path.outlet": ["nozzle"],
    "site.standsAt": [],
  },
};
