import {
  type Boundary,
  headOutside,
  pressureHead,
  sourcePressure,
} from "../hydraulics/boundary.ts";
import { flowToDeliver } from "../hydraulics/flowToDeliver.ts";
import { HOLE_COEFFICIENT, orificeFlow, type SteadyState } from "../hydraulics/hydraulicModel.ts";
import { headLoss, resistanceOf } from "../hydraulics/resistance.ts";
import type { LineModel } from "../hydraulics/solveLine.ts";
import { beforeFork, type Segment, stretchesBeforeFork } from "../line/compiledLine.ts";
import { velocityHead } from "../pipe/darcyWeisbach.ts";
import { measuredFlow } from "./instruments.ts";
import { isGauged, isOpen, type Reading } from "./reading.ts";
import { tapAt } from "./totalHead.ts";

/**
 * What each hole lets go in m³/s while a reading is taken. Up to the valve it is driven by the pressure the gauge
 * shows, whatever the valve does; past it, and without a gauge, by the flow that was measured there.
 * @param at which of the line's pumps ran, the others standing
 */
export function lostDuring(
  { model, boundaries }: Pick<LineModel, "model" | "boundaries">,
  reading: Reading,
  at = 0,
): SteadyState["lost"] {
  const { line, context } = model;
  if (line.holes.length === 0) return [];
  const boundary = boundaryDuring(boundaries.normal, model, reading);
  const outlet = measuredFlow(reading.flow).value;
  const moved = outlet > 0 ? flowToDeliver(model, boundary, outlet, at) : undefined;
  const imposed = moved === undefined ? undefined : model.imposed(boundary, moved, [], at);
  const open =
    imposed?.kind === "steady"
      ? imposed.state.lost
      : line.holes.map(({ itemId }) => ({ itemId, flow: 0 }));
  if (!isGauged(reading)) return open;

  const placed = line.pumps[at];
  const path = beforeFork(line, placed);
  const { afterItemId, pressure, elevation } = reading.discharge;
  const valve = path.find((i) => (line.segments[i] as Segment).fitting?.throttles);
  const last = isOpen(reading) ? Number.POSITIVE_INFINITY : (valve ?? Number.POSITIVE_INFINITY);
  const onWay = new Set(stretchesBeforeFork(line, placed).flatMap(({ from, to }) => [from, to]));
  const before = line.holes.filter(({ index, node }) => index <= last && onWay.has(node));
  const resistance = (segments: readonly Segment[]) => resistanceOf(segments, context);
  let lost = open;
  for (let round = 0; round < ROUNDS; round++) {
    const all = lost.reduce((sum, { flow }) => sum + flow, 0);
    const tap = tapAt(line, placed, afterItemId, lost, resistance);
    /** m lost in a segment by what leaves at the outlet, and at every hole after it */
    const loss = (segment: number) => {
      const later = line.holes.reduce(
        (sum, { index }, k) => sum + (index > segment ? (lost[k]?.flow ?? 0) : 0),
        outlet,
      );
      return headLoss(resistance([line.segments[segment] as Segment]), later, context.friction);
    };
    const onGauge =
      pressureHead(pressure, context.water) +
      elevation +
      (tap.bore ? velocityHead(outlet + (1 - tap.lostShare) * all, tap.bore) : 0);
    const next = lost.map((own): SteadyState["lost"][number] => {
      const hole = before.find(({ itemId }) => itemId === own.itemId);
      if (!hole) return own;
      const { index, bore } = hole;
      const [from, to] = [Math.min(index, tap.end), Math.max(index, tap.end)];
      const taken = path.reduce((sum, i) => sum + (i >= from && i < to ? loss(i) : 0), 0);
      const head = onGauge + (index < tap.end ? taken : -taken) - headOutside(hole, boundary);
      const flow = orificeFlow(HOLE_COEFFICIENT, bore, Math.max(head, 0));
      return { itemId: own.itemId, flow };
    });
    const moves = next.some(({ flow }, i) => Math.abs(flow - (lost[i]?.flow ?? 0)) > SETTLED);
    lost = next;
    if (!moves) break;
  }
  return lost;
}

const ROUNDS = 50;
/** m³/s */
const SETTLED = 1e-12;

/** The ends of a line while a reading is taken: its water where it was measured, else at its normal level. */
export function boundaryDuring(
  normal: Boundary,
  { line, context }: Pick<LineModel["model"], "line" | "context">,
  { suction }: Reading,
): Boundary {
  if (suction?.kind !== "water-level") return normal;
  const pushed = pressureHead(sourcePressure(line.source), context.water);
  return { ...normal, source: suction.level + pushed };
}
