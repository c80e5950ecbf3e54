import { type Derivation, derive } from "#core/formula/formula.ts";
import {
  CHARGE,
  CYCLE,
  ENERGY,
  FILLED,
  FILLING,
  HELD_AT_RIM,
  MOVED,
  OVER,
  PUMPING,
  STARTS,
  TRIPS,
} from "#core/formula/simulation.ts";
import type { Answers } from "#core/simulation/answers.ts";
import type { Cycle } from "#core/simulation/cycle.ts";

/** The figures of a run whose working can be shown. */
export const DERIVED = [
  ...(["dry", "full", "unpumped", "wet", "survives", "starts", "cycle", "moved"] as const),
  ...(["energy", "vacuum", "battery"] as const),
] as const;
export type DerivedFigure = (typeof DERIVED)[number];

/** How a figure comes about; the last step ends with it. Undefined where the run has none. */
export function runDerivation(which: DerivedFigure, answers: Answers): Derivation | undefined {
  const { switching, moved, cameIn, balance } = answers;
  switch (which) {
    case "starts":
      if (!switching) return undefined;
      return [
        ...cycleSteps(switching.worst, switching.volume, switching.fallsBack),
        derive(STARTS, [switching.worst.filling, switching.worst.pumping, switching.turns]),
      ];
    case "cycle": {
      if (!switching?.now) return undefined;
      const { now, volume, fallsBack } = switching;
      return [...cycleSteps(now, volume, fallsBack), derive(CYCLE, [now.filling, now.pumping])];
    }
    case "unpumped": {
      const { unpumped } = answers;
      return unpumped && [derive(FILLING, [unpumped.room, 0, unpumped.inflow])];
    }
    case "dry": {
      const { dry } = answers;
      if (!dry || !(moved > cameIn)) return undefined;
      const [inflow, flow] = [cameIn / dry.at, moved / dry.at];
      return [derive(PUMPING, [moved - cameIn, flow, inflow])];
    }
    case "full": {
      const { full } = answers;
      if (!full || !(full.at > 0)) return undefined;
      const names = { 2: "flow into it, on average" };
      return [derive(FILLING, [full.room, 0, full.room / full.at], { names })];
    }
    case "moved": {
      const { start, came, over, others, left } = balance;
      const law = balance.of === "source" ? MOVED : FILLED;
      return [derive(law, [start, came, over, others, left])];
    }
    case "wet": {
      const { start, came, others, left } = balance;
      return answers.wet && [derive(OVER, [start, came, moved, others, left])];
    }
    case "survives": {
      const { survives, rim } = answers;
      if (survives === undefined || rim === undefined) return undefined;
      return [derive(HELD_AT_RIM, [rim, survives])];
    }
    case "energy": {
      const { energy, runTime } = answers;
      if (energy === undefined || !(runTime > 0)) return undefined;
      return [derive(ENERGY, [energy / runTime, runTime])];
    }
    case "vacuum": {
      const { vacuum } = answers;
      return vacuum && [derive(TRIPS, [moved, vacuum.each])];
    }
    case "battery": {
      const { battery } = answers;
      if (!battery || !(battery.used > 0)) return undefined;
      return [derive(CHARGE, [battery.ran, battery.ran / battery.used])];
    }
  }
}

function cycleSteps({ inflow, pumping }: Cycle, volume: number, fallsBack: number) {
  return [
    derive(FILLING, [volume, fallsBack, inflow]),
    derive(PUMPING, [volume, volume / pumping + inflow, inflow]),
  ];
}
