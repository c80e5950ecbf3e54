import type { Water } from "../fluid/water.ts";
import { type CompiledLine, type PlacedPump, suctionOf } from "../line/compiledLine.ts";
import type { Site } from "../line/path.ts";
import type { Pump } from "../pump/pump.ts";
import type { HeadLinePoint } from "./headLine.ts";
import type { SteadyState } from "./hydraulicModel.ts";
import { barometricLimit, correctedLiftLimit, npshAvailable } from "./suctionLimits.ts";

/** How the water reaches the pump while it runs. Heads in m. */
export interface SuctionState {
  /** pump above the water; negative when the pump stands below the surface, or another feeds it */
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
  placed: PlacedPump,
  state: SteadyState,
  pump: Pump,
  site: Site,
  points: readonly HeadLinePoint[],
  water: Water,
): SuctionState {
  const dynamicLift = placed.elevation - (state.nodeHeads[placed.inlet] as number);
  // A well's surface is the one it is drawn down to.
  const surface = state.nodeHeads[line.intakeNode] as number;
  const staticLift = placed.fed ? dynamicLift : placed.elevation - surface;
  const limit = barometricLimit(site.altitude, water);
  const found: SuctionState = {
    staticLift,
    friction: dynamicLift - staticLift,
    dynamicLift,
    barometricLimit: limit,
    npshAvailable: npshAvailable(limit, staticLift, dynamicLift - staticLift),
  };
  if (pump.maxSuctionLift !== undefined) {
    found.ownLimit = correctedLiftLimit(pump.maxSuctionLift, site.altitude, water);
  }
  const own = new Set([placed.item.id, ...suctionOf(line, placed).map(({ itemId }) => itemId)]);
  const suction = points.filter((point) => point.side === "suction" && own.has(point.itemId));
  const lowest = suction.reduce<HeadLinePoint | undefined>(
    (low, point) => (low && low.pressureHead <= point.pressureHead ? low : point),
    undefined,
  );
  if (lowest) found.lowest = { itemId: lowest.itemId, pressureHead: lowest.pressureHead };
  return found;
}
