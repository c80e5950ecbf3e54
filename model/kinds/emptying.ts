import { type JobKind, runOf, wantedOf } from "./kind.ts";

/** m of water a pump of its kind leaves standing. Common practice, no source. */
const FILM = 0.01;

/** m of wall over the water. */
const HEADROOM = 0.5;

/** Empty a room or pool: the pump stands on its floor, a hose takes the water over the edge. Measured from the floor. */
export const emptying: JobKind = {
  demands: ["deadline", "flow"],
  decisions: ["pump", "discharge", "dry-after"],
  asks: (demand) =>
    demand === "flow"
      ? ["deep", "up", "along", "flow"]
      : ["deep", "long", "wide", "up", "along", "within"],
  offers: () => [],
  usual: (m) => ({
    ...{ deep: 0.3 * m, long: 5 * m, wide: 4 * m, within: 7200 },
    ...{ up: 2.5 * m, along: 15 * m, flow: 2e-3 },
  }),
  begin(of, typed, demand) {
    const deep = of("deep");
    // As deep everywhere as at the deepest: rather too much water than too little.
    const volume =
      demand !== "flow" && typed("deep", "long", "wide")
        ? deep * of("long") * of("wide")
        : undefined;
    const flow =
      demand === "flow"
        ? typed("flow")
          ? of("flow")
          : undefined
        : volume && typed("within")
          ? volume / of("within")
          : undefined;
    return {
      datum: "the floor under the water",
      source: {
        kind: "open",
        level: { low: Math.min(FILM, deep / 4), normal: deep / 2, high: deep },
        intake: 0,
        body: "water",
      },
      bodies: [
        {
          ...{ id: "water", name: "Water", bottom: 0 },
          // Taller than the water, which stands as high as it does at the start.
          shape: { kind: "box", length: of("long"), width: of("wide"), depth: deep + HEADROOM },
          levels: { low: 0, normal: deep, high: deep },
        },
      ],
      path: [
        { kind: "pump", id: "pump", pump: null },
        {
          ...{ kind: "pipe", id: "hose", stock: "sump-hose-1-1-2in" },
          ...runOf(of("along") + Math.abs(of("up")), of("up")),
        },
        { kind: "outlet", id: "outlet", outlet: { type: "free" } },
      ],
      site: { standsAt: "indoors", measuredFrom: "floor" },
      ...wantedOf(flow, volume, of("within")),
    };
  },
  restsOn: {
    "source.level": ["deep"],
    bodies: ["deep", "long", "wide"],
    "path.hose.stock": [],
    "path.hose.length": ["up", "along"],
    "site.standsAt": [],
  },
};
