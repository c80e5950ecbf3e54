import type { WaterLevel } from "../fluid/levels.ts";
import { bracketedRoot } from "../numeric/bracketedRoot.ts";
import { evaluate, type MonotoneCubic, monotoneCubic } from "../numeric/monotoneCubic.ts";
import type { PumpCurve } from "../pump/curve.ts";
import { NOTHING } from "./hydraulicModel.ts";
import type { LineModel } from "./solveLine.ts";

/**
 * What a line asks of whatever pump stands in one place of it, at one level: the same for every pump, so that it is
 * solved once and each pump is only laid over it.
 */
export interface SystemCurve {
  /** m the pump must add to pass a flow in m³/s */
  head: MonotoneCubic;
  /** m³/s at the outlets while so much passes the pump; the same where nothing leaves on the way */
  delivered: MonotoneCubic | undefined;
}

/** Flows at which a line is asked: close together near none, where the lift decides. */
const SAMPLES = 96;

/**
 * The system curve of a line at a level, up to a flow through the pump in m³/s. Undefined where the line balances at
 * no two of the flows.
 * @param place number of the pump in the line; the others stay as they are in `ready`
 */
export function systemCurve(
  ready: LineModel,
  place: number,
  mostFlow: number,
  at: WaterLevel = "normal",
): SystemCurve | undefined {
  const { model, states, boundaries, line } = ready;
  const boundary = boundaries[at];
  const flows: number[] = [];
  const heads: number[] = [];
  const out: number[] = [];
  const single = line.single ? model.systemHead(boundary, states, place) : undefined;
  for (let i = 0; i <= SAMPLES; i++) {
    const flow = mostFlow * (i / SAMPLES) ** 2;
    if (single) {
      const head = single(flow);
      if (head === undefined) continue;
      flows.push(flow);
      heads.push(head);
    } else {
      const imposed = model.imposed(boundary, flow, states, place);
      if (imposed.kind !== "steady") continue;
      flows.push(flow);
      heads.push(imposed.head);
      out.push(imposed.state.delivered);
    }
  }
  if (flows.length < 2) return undefined;
  return {
    head: monotoneCubic(flows, heads),
    delivered: single ? undefined : monotoneCubic(flows, out),
  };
}

/** Where a pump's curve meets a system curve. */
export type QuickDuty =
  /** m³/s through the pump and at the outlets, m it makes there */
  | { kind: "runs"; flow: number; delivered: number; head: number }
  /** m short at the flow where the two come closest */
  | { kind: "cannot-lift"; shortfall: number }
  /** it still has head to spare at its last published flow: so much is delivered at the least */
  | { kind: "beyond-curve"; flow: number; delivered: number; head: number };

/** m³/s at the outlets while so much passes the pump. */
export function deliveredAt({ delivered, head }: SystemCurve, flow: number): number {
  if (!delivered) return flow;
  return evaluate(delivered, Math.min(flow, head.x.at(-1) as number));
}

/**
 * The flow a pump settles at: the last crossing of its falling part with the line, none before its peak. By the
 * table the two agree with a full solution within a thousandth of the flow, as tests hold them to.
 */
export function quickDuty(system: SystemCurve, { head, peak, lastFlow }: PumpCurve): QuickDuty {
  const last = Math.min(lastFlow, system.head.x.at(-1) as number);
  const surplus = (flow: number) => evaluate(head, flow) - evaluate(system.head, flow);
  const atEnd = surplus(last);
  const runs = (kind: "runs" | "beyond-curve", flow: number): QuickDuty => ({
    ...{ kind, flow, delivered: deliveredAt(system, flow), head: evaluate(head, flow) },
  });
  if (atEnd > 0) return runs("beyond-curve", last);
  const from = Math.max(peak.flow, head.x[0] as number);
  const atPeak = surplus(from);
  if (!(atPeak > 0)) return { kind: "cannot-lift", shortfall: -atPeak };
  const flow = bracketedRoot(surplus, from, last, atPeak, atEnd, last * 1e-9);
  return flow > NOTHING ? runs("runs", flow) : { kind: "cannot-lift", shortfall: 0 };
}

/** m³/s that must pass the pump for a flow at the outlets; undefined where the line never delivers so much. */
export function flowFor(system: SystemCurve, wanted: number): number | undefined {
  const most = system.head.x.at(-1) as number;
  const over = (flow: number) => deliveredAt(system, flow) - wanted;
  const [low, high] = [over(0), over(most)];
  if (high < 0) return undefined;
  return low >= 0 ? 0 : bracketedRoot(over, 0, most, low, high, most * 1e-10);
}
