import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import type { Boundary } from "./boundary.ts";
import type { HydraulicModel } from "./hydraulicModel.ts";

/**
 * What a pump has to move in m³/s for a flow at the outlets: more, where holes let some out. Undefined where the
 * network does not balance, or lets out more than a thousand times what it delivers.
 */
export function flowToDeliver(
  model: HydraulicModel,
  boundary: Boundary,
  wanted: number,
  pump = 0,
): number | undefined {
  if (model.line.holes.length === 0) return wanted;
  const short = (flow: number) => {
    const imposed = model.imposed(boundary, flow, [], pump);
    return imposed.kind === "steady" ? imposed.state.delivered - wanted : Number.NaN;
  };
  const atWanted = short(wanted);
  if (atWanted >= 0) return wanted;
  let [most, over] = [wanted, atWanted];
  for (let n = 0; n < DOUBLINGS && over < 0; n++) {
    most *= 2;
    over = short(most);
  }
  return over >= 0 ? bracketedRoot(short, wanted, most, atWanted, over, wanted * 1e-10) : undefined;
}

const DOUBLINGS = 10;
