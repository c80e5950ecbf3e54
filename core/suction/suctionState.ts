import type { CompiledLine } from "../line/compileLine.ts";
import type { HeadLinePoint } from "../line/headLine.ts";
import { type LossContext, stretchLoss } from "../line/lineLoss.ts";
import type { LevelCase, Site } from "../line/path.ts";
import type { Pump } from "../pump/pump.ts";
import { barometricLimit, correctedLiftLimit } from "./limits.ts";

/** How the water reaches the pump while it runs. Heads in m. */
export interface SuctionState {
  /** pump above the water; negative when the pump stands below the surface */
  staticLift: number;
  friction: number;
  /** static lift and friction together: what the pump has to draw */
  dynamicLift: number;
  /** what air pressure could hold here */
  barometricLimit: number;
  /** the pump's own limit corrected to this site, where the maker gives one */
  ownLimit?: number;
  npshAvailable: number;
  /** the point of lowest pressure between the water and the pump */
  lowest?: { itemId: string; pressureHead: number };
}

export function suctionState(
  line: CompiledLine,
  levelCase: LevelCase,
  flow: number,
  pump: Pump,
  site: Site,
  points: readonly HeadLinePoint[],
  context: LossContext,
): SuctionState {
  const staticLift = line.pumpElevation - line.source[levelCase];
  const friction = stretchLoss(line.segments.slice(0, line.pumpIndex), flow, context);
  const limit = barometricLimit(site.altitude, context.water);
  const state: SuctionState = {
    staticLift,
    friction,
    dynamicLift: staticLift + friction,
    barometricLimit: limit,
    npshAvailable: limit - staticLift - friction,
  };
  if (pump.maxSuctionLift !== undefined) {
    state.ownLimit = correctedLiftLimit(pump.maxSuctionLift, site.altitude, context.water);
  }
  const suction = points.filter((point) => point.side === "suction");
  const lowest = suction.reduce<HeadLinePoint | undefined>(
    (low, point) => (low && low.pressureHead <= point.pressureHead ? low : point),
    undefined,
  );
  if (lowest) state.lowest = { itemId: lowest.itemId, pressureHead: lowest.pressureHead };
  return state;
}
