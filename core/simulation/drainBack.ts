import { headLoss, resistanceOf } from "../hydraulics/resistance.ts";
import type { LineModel } from "../hydraulics/solveLine.ts";
import { drawsItself, type Segment, suctionOf } from "../line/compiledLine.ts";
import { drainingSegments, pipeVolume, unguardedOutlets, wetAbove } from "../line/profile.ts";
import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { receivingWater } from "../outlet/outlets.ts";
import { GRAVITY } from "../quantity/constants.ts";

/** What runs back out of a line when its last pump stops: m³, and s it takes as fast as gravity moves it. */
export interface FallingBack {
  volume: number;
  time: number;
}

/**
 * All water that stands in the pipe above the source's water at that time and drains towards it: what lies dead level
 * stays. A check valve holds what lies over it, a
 * foot valve all of it; a pipe whose end lies under water stays full, and passes that back instead. The time is that of the whole column falling under half its height, the mean of its fall;
 * common practice, no source.
 * @param level m above datum, of the source
 */
export function fallingBack({ line, model }: LineModel, level: number): FallingBack {
  const draining = new Set<Segment>();
  for (const pump of line.pumps) {
    const footed = suctionOf(line, pump).some(({ fitting }) => fitting?.group === "check");
    const full = unguardedOutlets(line, pump);
    const submerged = line.outlets.some(
      ({ node, item: { outlet }, elevation }) =>
        (receivingWater(outlet)?.normal ?? elevation) > elevation && full.has(node),
    );
    if (!drawsItself(line, pump) || footed || submerged) continue;
    for (const segment of drainingSegments(line, pump, level)) draining.add(segment);
  }
  const wet = [...draining].filter((segment) => wetAbove(segment, level).length > 0);
  const volume = pipeVolume(wet.flatMap((segment) => wetAbove(segment, level)));
  if (!(volume > 0)) return { volume: 0, time: 0 };
  const top = Math.max(...wet.map(({ endElevation }) => endElevation));
  const resistance = resistanceOf(wet, model.context);
  // What falls also has its own velocity to gain.
  const area = (Math.PI / 4) * Math.min(...wet.map(({ bore }) => bore)) ** 2;
  const gained = 1 / (2 * GRAVITY * area * area);
  const head = (top - level) / 2;
  const surplus = (flow: number) =>
    headLoss(resistance, flow, model.context.friction) + gained * flow * flow - head;
  const most = Math.sqrt(head / gained);
  const flow = bracketedRoot(surplus, 0, most, -head, surplus(most), most * 1e-9);
  return { volume, time: volume / flow };
}
