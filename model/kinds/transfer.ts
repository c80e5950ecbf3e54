import { type JobKind, runOf, wantedOf } from "./kind.ts";

/** Move water between tanks or ponds: the pump stands beside the first. Measured from the first tank's floor. */
export const transfer: JobKind = {
  demands: ["flow", "deadline"],
  decisions: ["pump", "suction", "discharge", "full-after"],
  asks: (demand) => [
    ...(["deep", "suction", "along", "up"] as const),
    ...(demand === "flow" ? (["flow"] as const) : (["volume", "within"] as const)),
  ],
  offers: () => [],
  usual: (m) => ({
    ...{ deep: 2 * m, suction: 2 * m, along: 30 * m, up: 6.25 * m },
    ...{ flow: 1e-3, volume: 5, within: 3600 },
  }),
  begin(of, typed, demand, m) {
    const deep = of("deep");
    const intake = deep / 8;
    const volume = demand === "deadline" && typed("volume") ? of("volume") : undefined;
    const flow =
      demand === "deadline"
        ? volume && typed("within")
          ? volume / of("within")
          : undefined
        : typed("flow")
          ? of("flow")
          : undefined;
    const up = of("up") - intake;
    return {
      datum: "the first tank’s floor",
      source: {
        kind: "open",
        level: { low: deep / 4, normal: deep / 2, high: deep },
        intake,
        body: "first",
      },
      bodies: [
        {
          ...{ id: "first", name: "First tank", bottom: 0 },
          shape: { kind: "cylinder", diameter: 2 * m, depth: deep },
        },
        {
          // Its inlet stands at its rim.
          ...{ id: "second", name: "Second tank", bottom: of("up") - 2 * m },
          shape: { kind: "cylinder", diameter: 2 * m, depth: 2 * m },
        },
      ],
      path: [
        { kind: "fitting", id: "entrance", fitting: "entrance-sharp", count: 1 },
        { kind: "pipe", id: "suction", stock: "pvc-sch40-2in", ...runOf(of("suction"), 0) },
        { kind: "pump", id: "pump", pump: null },
        { kind: "fitting", id: "check", fitting: "check-swing", count: 1 },
        { kind: "fitting", id: "valve", fitting: "ball-valve", count: 1 },
        { kind: "pipe", id: "run", stock: "pvc-sch40-1-1-2in", ...runOf(of("along"), 0) },
        { kind: "fitting", id: "elbows", fitting: "elbow-90", count: 3 },
        {
          ...{ kind: "pipe", id: "riser", stock: "pvc-sch40-1-1-2in" },
          ...runOf(0, up),
        },
        { kind: "outlet", id: "outlet", outlet: { type: "free", body: "second" } },
      ],
      site: { standsAt: "open-ground", measuredFrom: "floor" },
      ...wantedOf(flow, volume, of("within")),
    };
  },
  restsOn: {
    "source.level": ["deep"],
    "source.intake": [],
    bodies: [],
    "path.entrance": [],
    "path.suction.stock": [],
    "path.suction.length": ["suction"],
    "path.check": [],
    "path.valve": [],
    "path.run.stock": [],
    "path.run.length": ["along"],
    "path.elbows": [],
    "path.riser.stock": [],
    "path.riser.length": ["up"],
    "site.standsAt": [],
  },
};
