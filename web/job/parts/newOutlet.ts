import type { Levels, Outlet } from "#core/line/path.ts";

/** An outlet of a kind with numbers to type over. */
export function newOutlet(type: Outlet["type"], level: Levels): Outlet {
  switch (type) {
    case "free":
    case "drain":
      return { type };
    case "submerged":
      return { type, level };
    case "pressure":
      return { type, pressure: 200_000 };
    case "nozzle":
      return { type, bore: 0.012, dischargeCoefficient: 0.95 };
    case "emitter":
      return { type, flow: 0.25e-3, pressure: 200_000 };
  }
}
