import { INCH } from "#core/quantity/constants.ts";
import { flowOfDemand } from "../demand/demand.ts";
import type { JobKind } from "./kind.ts";
import { pit } from "./pit.ts";

/** Drain a yard: rain runs off roofs and ground through a gravity run into a pit, and is pumped away from there. */
export const yard: JobKind = {
  demands: ["rain"],
  decisions: ["pump", "discharge", "drains", "floats", "stays-dry", "power-cut"],
  asks: () => ["area", "hardestHour", "depth", "across", "up", "along"],
  offers: () => ["inHand"],
  usual: (m) => ({
    ...pit.usual(m),
    ...{ area: m < 1 ? 185.8 : 200, hardestHour: m < 1 ? INCH : 0.025, inHand: 1.2 },
  }),
  begin(of, typed, _demand, m) {
    const begun = pit.begin(of, () => false, "flow", m);
    const known = typed("area", "hardestHour");
    const rain = {
      ...{ kind: "rain" as const, hardestHour: of("hardestHour"), inHand: of("inHand") },
      catches: [{ surface: "paving" as const, area: of("area") }],
    };
    const found = known ? flowOfDemand(rain) : undefined;
    return {
      ...begun,
      site: { ...begun.site, standsAt: "pit", measuredFrom: "rim" },
      datum: "the pit’s rim",
      ...(found && { need: { ...rain, flow: found.flow }, wantedFlow: found.flow * rain.inHand }),
      yard: {
        runs: [
          {
            ...{ id: "run-1", name: "Drain to the pit", into: "pit" },
            ...{ bore: m < 1 ? 4 * INCH : 0.1, slope: 0.01, length: 10 * m },
          },
        ],
      },
    };
  },
  restsOn: {
    ...pit.restsOn,
    "yard.runs": [],
  },
};
