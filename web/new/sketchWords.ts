import type { JobKindId } from "#contract/documents/jobKinds.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { Clash, Demand, Measure } from "#model/kinds/kind.ts";

interface Card {
  /** what is measured, as it stands on the drawing, and where (of `DRAWN`) its field stands */
  fields: Partial<Record<Measure, readonly [label: string, x: number, y: number]>>;
  /** what every height and depth is measured from, and what is taken so until it is changed in the job */
  note: string;
}

/** The words of each sketch card. */
export const CARDS: Record<JobKindId, Card> = {
  "sump-riser": {
    fields: {
      depth: ["floor down to the bottom", 242, 258],
      across: ["pit across", 116, 380],
      riseTime: ["pump off: time to rise", 2, 306],
      up: ["floor up to the bend", 246, 130],
      along: ["along to the outlet", 196, 14],
      flow: ["flow wanted", 2, 306],
      rise: ["Watched it rise by", 0, 0],
      inHand: ["Times that inflow", 0, 0],
    },
    note: "The pump stands on the bottom of a round pit. Water is reckoned at the floor at worst, a third of the depth down as a rule, two thirds down when the pump stops.",
  },
  emptying: {
    fields: {
      deep: ["water, at the deepest", 32, 196],
      long: ["room long", 54, 356],
      wide: ["room wide", 236, 356],
      up: ["floor up over the edge", 104, 128],
      along: ["along to the outlet", 204, 12],
      within: ["dry within", 2, 12],
      flow: ["flow wanted", 2, 12],
    },
    note: "Water is taken as deep everywhere as at the deepest, the pump on the bare floor. Power to the room off before anybody steps into the water. A pool or tank in wet ground can float up once it is empty: what tells is asked under Need, before a drop is pumped.",
  },
  "yard-drain": {
    fields: {
      area: ["roof and yard, area", 2, 26],
      hardestHour: ["rain in the hardest hour", 2, 108],
      depth: ["rim down to the bottom", 242, 258],
      across: ["pit across", 116, 386],
      up: ["rim up to the bend", 246, 130],
      along: ["along to the outlet", 196, 14],
      inHand: ["Times that inflow", 0, 0],
    },
    note: "All of it is taken as paving, drained by one 4 in (100 mm) run at a fall of 1 in 100 into a round pit. Roofs, lawns and further runs are put in under Need.",
  },
  "tank-to-tank": {
    fields: {
      deep: ["water in the first tank", 2, 158],
      suction: ["hose to the pump", 40, 374],
      along: ["pump along to the tank", 176, 374],
      up: ["its floor up to the inlet", 246, 226],
      flow: ["flow wanted", 2, 60],
      volume: ["water to move", 2, 12],
      within: ["within", 2, 82],
    },
    note: "The pump stands beside the first tank, an eighth of the water’s depth above its floor. The tank is reckoned full, half full and a quarter full.",
  },
  "well-to-tank": {
    fields: {
      bottom: ["top down to the bottom", 2, 330],
      standing: ["down to standing water", 2, 148],
      pumped: ["down to pumped water", 246, 196],
      up: ["top up to the tank", 246, 110],
      along: ["along to the tank", 150, 0],
      flow: ["flow wanted", 2, 6],
      dry: ["Standing in a dry season", 0, 0],
      casing: ["Casing across", 0, 0],
      pressure: ["Pressure at the tank", 0, 0],
    },
    note: "Depths from the casing’s top. Where it stands in other seasons is not known until it is measured, and is taken as now; the pump hangs halfway from the lowest pumping level to 5 ft (1.5 m) off the bottom, and 50 ft (15 m) under that level at the most.",
  },
  "pond-to-field": {
    fields: {
      down: ["pump down to the water", 34, 358],
      along: ["along to the gun", 156, 272],
      up: ["pump up to the gun", 240, 340],
      nozzle: ["bore of its nozzle", 4, 20],
      pressure: ["pressure at the gun", 4, 100],
    },
    note: "The pump stands on the bank and draws through a suction hose with a foot valve, 10 ft (3 m) longer than it is high; the water 18 in (0.5 m) up and down through the season.",
  },
  "plain-line": {
    fields: {
      up: ["water up to the outlet", 120, 160],
      along: ["along to the outlet", 134, 378],
      flow: ["flow wanted", 196, 22],
    },
    note: "The pump stands in the water. Less than nothing goes down.",
  },
  measuring: { fields: {}, note: "" },
};

/** How the flow is known, as it is chosen. */
export const DEMANDS: Record<Demand, string> = {
  "rise-test": "I watched it rise",
  rain: "By the rain",
  deadline: "So much in a time",
  flow: "I know the flow",
  gun: "What the gun takes",
  none: "",
};

export function clashWords({ why }: Clash, units: UnitSystem): string {
  switch (why) {
    case "above-standing-water":
      return "Water being pumped stands lower than before: this is above the standing water.";
    case "wetter-when-dry":
      return "In a dry season the water stands no higher than now.";
    case "below-the-bottom":
      return "That is below the bottom of the well.";
    case "too-much-water":
      return "That makes more water than any job can have: look at the units.";
    case "bottom-too-near":
      return `The pump has to hang ${units === "us" ? "5 ft" : "1.5 m"} off the bottom: no water would stand over it.`;
  }
}
