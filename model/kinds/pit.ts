import { INCH } from "#core/quantity/constants.ts";
import { type JobKind, runOf } from "./kind.ts";

/** Keep a pit dry: the pump stands in it, and a riser takes the water up and out. Measured from the floor. */
export const pit: JobKind = {
  demands: ["rise-test", "flow"],
  decisions: ["pump", "discharge", "floats", "stays-dry", "power-cut", "backup"],
  asks: (demand) =>
    demand === "flow"
      ? ["depth", "up", "along", "flow"]
      : ["depth", "across", "riseTime", "up", "along"],
  offers: (demand) => (demand === "flow" ? [] : ["rise", "inHand"]),
  usual: (m) => ({
    depth: 1.5 * m,
    across: 0.5 * m,
    rise: m < 1 ? 0.1524 : 0.15,
    riseTime: 120,
    // Common practice, no source: the day of the test is seldom the wettest.
    inHand: 1.5,
    up: 1.5 * m,
    along: 15 * m,
    flow: 2e-3,
  }),
  begin(of, typed, demand, m) {
    const depth = of("depth");
    const inflow =
      demand === "flow"
        ? undefined
        : typed("across", "riseTime")
          ? { area: (Math.PI / 4) * of("across") ** 2, rise: of("rise"), time: of("riseTime") }
          : undefined;
    const flow = inflow && (inflow.area * inflow.rise) / inflow.time;
    const wanted = flow ? flow * of("inHand") : typed("flow") ? of("flow") : undefined;
    return {
      datum: "the floor",
      // At worst at the floor; the float lets a third of the depth stand.
      source: {
        kind: "open",
        level: { low: (-2 / 3) * depth, normal: (-1 / 3) * depth, high: 0 },
        intake: -depth,
        body: "pit",
      },
      bodies: [
        {
          ...{ id: "pit", name: "Pit", bottom: -depth },
          shape: { kind: "cylinder", diameter: of("across"), depth },
        },
      ],
      overTime: {
        controls: [
          {
            ...{ kind: "float", body: "pit", role: "lead" },
            ...{ on: -depth / 3, off: (-2 / 3) * depth },
          },
        ],
      },
      path: [
        { kind: "pump", id: "pump", pump: null },
        {
          kind: "orifice",
          id: "vent",
          purpose: "vent-hole",
          bore: m < 1 ? INCH / 8 : 0.004,
        },
        { kind: "fitting", id: "check", fitting: "check-swing", count: 1 },
        {
          ...{ kind: "pipe", id: "riser", stock: "pvc-sch40-1-1-2in" },
          ...runOf(0, depth + of("up")),
        },
        { kind: "fitting", id: "elbow", fitting: "elbow-90", count: 1 },
        { kind: "pipe", id: "run", stock: "pvc-sch40-1-1-2in", ...runOf(of("along"), 0) },
        { kind: "outlet", id: "outlet", outlet: { type: "free" } },
      ],
      site: { standsAt: "pit", measuredFrom: "floor" },
      ...(flow && inflow && { need: { kind: "rise-test", ...inflow, inHand: of("inHand"), flow } }),
      ...(demand === "flow" && wanted && { need: { kind: "typed", flow: wanted } }),
      ...(wanted && { wantedFlow: wanted }),
    };
  },
  restsOn: {
    "source.level": [],
    "source.intake": ["depth"],
    bodies: ["depth", "across"],
    "overTime.controls": [],
    "path.vent": [],
    "path.check": [],
    "path.riser.stock": [],
    "path.riser.length": ["depth", "up"],
    "path.elbow": [],
    "path.run.stock": [],
    "path.run.length": ["along"],
  },
};
