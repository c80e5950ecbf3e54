import { expect, it } from "vitest";
import type { Levels } from "../fluid/levels.ts";
import {
  delivers,
  gunOf,
  isPart,
  isWayOut,
  keptPressure,
  mayFill,
  type Outlet,
  outletPressure,
  receivingWater,
  refusalOf,
  wayOut,
  wets,
} from "./outlets.ts";

const LEVEL: Levels = { low: 1, normal: 2, high: 3 };
const OUTLETS: { [T in Outlet["type"]]: Extract<Outlet, { type: T }> } = {
  free: { type: "free" },
  submerged: { type: "submerged", level: LEVEL, gasPressure: 2e4 },
  drain: { type: "drain" },
  pressure: { type: "pressure", pressure: 3e5 },
  nozzle: { type: "nozzle", bore: 0.012, spreaderBore: 0.005, dischargeCoefficient: 0.95 },
  emitter: { type: "emitter", flow: 2.5e-4, pressure: 2e5 },
};
const where = (is: (outlet: Outlet) => unknown) =>
  Object.values(OUTLETS).flatMap((outlet) => (is(outlet) ? [outlet.type] : []));

it("what is told of an outlet is told of just those it is true of", () => {
  expect(where(receivingWater)).toEqual(["submerged"]);
  expect(where(outletPressure)).toEqual(["submerged", "pressure"]);
  // Gas over a closed tank's water is not what anybody wants there.
  expect(where(keptPressure)).toEqual(["pressure"]);
  expect(where((outlet) => !delivers(outlet))).toEqual(["drain"]);
  expect(where(wets)).toEqual(["nozzle", "emitter"]);
  expect(where(gunOf)).toEqual(["nozzle"]);
  expect(where(mayFill)).toEqual(["free", "submerged"]);
  expect(where((outlet) => !isPart(outlet))).toEqual(["free"]);
  expect(where((outlet) => refusalOf(outlet, 0.05))).toEqual([]);
});

it("a pressure wanted may be none at all, and is wanted all the same", () => {
  expect(keptPressure({ type: "pressure", pressure: 0 })).toBe(0);
  expect(keptPressure(OUTLETS.free)).toBeUndefined();
  expect(outletPressure({ type: "submerged", level: LEVEL })).toBe(0);
});

it("takes the speed of the water, or what drives its own jet", () => {
  for (const type of ["free", "submerged", "drain", "pressure"] as const) {
    expect(wayOut(OUTLETS[type], 0.05)).toEqual({ kind: "exit", bore: 0.05, k: 1 });
  }
  // 12 mm and 5 mm pass what 13 mm does; K = 1/Cd² on the velocity there.
  const { bore, k } = wayOut(OUTLETS.nozzle, 0.05);
  expect(bore).toBeCloseTo(0.013, 12);
  expect(k).toBeCloseTo(1.10803, 5);
  expect(wayOut(OUTLETS.emitter, 0.05)).toMatchObject({ k: 0, emitter: { pressure: 2e5 } });
  for (const outlet of Object.values(OUTLETS)) expect(isWayOut(wayOut(outlet, 0.05))).toBe(true);
  for (const kind of ["pipe", "fitting", "supply", "bore-change"]) {
    expect(isWayOut({ kind })).toBe(false);
  }
});

it("refuses a nozzle that is no narrower than its pipe, and levels out of order", () => {
  expect(refusalOf(OUTLETS.nozzle, 0.0131)).toBeUndefined();
  expect(refusalOf(OUTLETS.nozzle, 0.013)).toBe("nozzle-wider-than-pipe");
  expect(refusalOf(OUTLETS.nozzle)).toBeUndefined();
  const under = (level: Levels) => refusalOf({ type: "submerged", level });
  expect(under({ low: 1, normal: 1, high: 1 })).toBeUndefined();
  expect(under({ low: 1, normal: 3, high: 2 })).toBe("outlet-levels-out-of-order");
  expect(under({ low: 2, normal: 1, high: 3 })).toBe("outlet-levels-out-of-order");
});
