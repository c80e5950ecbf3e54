import { type JobKind, runOf } from "./kind.ts";

/** Just a line: up from open water and along to the outlet. Measured from the water. */
export const plainLine: JobKind = {
  demands: ["flow"],
  decisions: ["pump", "suction", "discharge"],
  asks: () => ["up", "along", "flow"],
  offers: () => [],
  usual: (m) => ({ up: 3 * m, along: 30 * m, flow: 2e-3 }),
  begin(of, typed, _demand, m) {
    const flow = typed("flow") ? of("flow") : undefined;
    const up = of("up");
    return {
      datum: "the water",
      source: { kind: "open", level: { low: 0, normal: 0, high: 0 }, intake: -0.5 * m },
      path: [
        { kind: "pump", id: "pump", pump: null },
        {
          ...{ kind: "pipe", id: "line", stock: "pvc-sch40-1-1-2in" },
          ...runOf(of("along") + Math.abs(up), up + 0.5 * m),
        },
        { kind: "outlet", id: "outlet", outlet: { type: "free" } },
      ],
      site: { measuredFrom: "datum" },
      ...(flow && { wantedFlow: flow, need: { kind: "typed", flow } }),
    };
  },
  restsOn: {
    "source.level": [],
    "source.intake": [],
    "path.line.stock": [],
    "path.line.length": ["up", "along"],
  },
};

/** Just measure: a flow to time and file, on a line that nobody has measured yet. */
export const measuring: JobKind = {
  ...plainLine,
  demands: ["none"],
  asks: () => [],
  begin: (of, _typed, demand, m) => plainLine.begin(of, () => false, demand, m),
  restsOn: { ...plainLine.restsOn, source: [], path: [] },
};
