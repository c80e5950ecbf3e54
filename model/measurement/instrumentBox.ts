import type { BoxState, BoxTruth } from "#contract/streams/stream.ts";
import { type Condition, conditioned } from "#core/condition/condition.ts";
import { motorAtWork } from "#core/driving/motor.ts";
import type { LineModel } from "#core/hydraulics/solveLine.ts";
import { lineModel } from "#core/hydraulics/solveLine.ts";
import type { Segment } from "#core/line/compiledLine.ts";
import { suctionOf } from "#core/line/compiledLine.ts";
import { uniform } from "#core/numeric/latinHypercube.ts";
import { velocityHead } from "#core/pipe/darcyWeisbach.ts";
import { headAt, publishedValue, pumpCurve, shaftPower } from "#core/pump/curve.ts";
import { GRAVITY } from "#core/quantity/constants.ts";
import type { SolvableJob } from "../job/solveJob.ts";

/** What the instruments of a simulated installation would show, free of noise. SI, the speed as turns a minute. */
export interface BoxValues {
  flow: number;
  discharge: number;
  suction: number;
  current: number;
  power: number;
  speed: number;
}

/** An installation that is not there: a job's line with something wrong, and a hand valve. */
export interface InstrumentBox {
  /** where its gauges sit: at the ports of the pump */
  gauges: { itemId: string; elevation: number };
  valuesAt: (state: BoxState) => BoxValues;
}

/** What a fault by its name is like; a surprise is one of them, or none, drawn from the seed. */
export function truthOf(
  fault: "none" | "worn" | "silted" | "low-water" | "surprise",
  seed: number,
): BoxTruth {
  const random = uniform(seed);
  const sound: BoxTruth = { strength: 1, bore: 1, level: 0 };
  const kinds = ["none", "worn", "silted", "low-water"] as const;
  const kind =
    fault === "surprise" ? (kinds[Math.floor(random() * kinds.length)] ?? "none") : fault;
  switch (kind) {
    case "none":
      return sound;
    case "worn":
      return { ...sound, strength: 0.8 + 0.1 * random() };
    case "silted":
      return { ...sound, bore: 0.75 + 0.1 * random() };
    case "low-water":
      return { ...sound, level: -0.5 - random() };
  }
}

/** The box of a job whose line can be solved and has one pump at least; undefined otherwise. */
export function instrumentBox(job: SolvableJob, truth: BoxTruth): InstrumentBox | undefined {
  const ready = lineModel(job, job.pumps);
  if (ready.kind === "refused" || ready.asked) return undefined;
  const placed = ready.line.pumps[0];
  const on = ready.pumps[0];
  if (!placed || !on) return undefined;
  const { water } = ready;
  const speed = placed.item.speedRatio ?? 1;
  const curve = pumpCurve(on.pump, speed, { headFactor: truth.strength });
  const bores = {
    in: suctionOf(ready.line, placed).at(-1)?.stock?.bore,
    out: ready.line.segments[ready.line.passed.get(placed.item.id) ?? 0]?.stock?.bore,
  };
  const gauge = (head: number, flow: number, bore: number | undefined) =>
    (head - placed.elevation - (bore ? velocityHead(flow, bore) : 0)) * water.density * GRAVITY;

  return {
    gauges: { itemId: placed.item.id, elevation: placed.elevation },
    valuesAt: ({ valve, running }) => {
      const { source } = ready.boundaries.normal;
      const level = source + truth.level;
      const still = {
        ...{ flow: 0, current: 0, power: 0, speed: 0 },
        ...{ discharge: gauge(level, 0, undefined), suction: gauge(level, 0, undefined) },
      };
      if (!running) return still;
      const flow = valve < SHUT ? 0 : flowWith(ready, truth, valve);
      if (flow === undefined) return still;
      const made = publishedValue(headAt(curve, Math.min(flow, curve.lastFlow))) ?? curve.peak.head;
      const drawn = flow > 0 ? suctionLoss(ready, truth, flow) : 0;
      const inlet = level - drawn;
      // Water weighs on a motor as its plate says; unknown, it takes nothing that could be shown.
      const power = shaftPower(curve, flow) ?? 0;
      const motor = motorAtWork(on.pump, { flow, power, speedRatio: speed });
      return {
        flow,
        discharge: gauge(inlet + made, flow, bores.out),
        suction: gauge(inlet, flow, bores.in),
        current: motor?.current ?? 0,
        power,
        speed: on.pump.ratedSpeedRpm * speed,
      };
    },
  };
}

/** Of the travel of a hand valve, below which nothing runs. */
const SHUT = 0.02;

function conditionOf(ready: LineModel, truth: BoxTruth, valve: number): Condition {
  const { segments, pumps } = ready.line;
  const discharge = segments.filter(({ side }) => side === "discharge");
  const main = discharge
    .filter(({ kind, run }) => kind === "pipe" && run)
    .reduce<Segment | undefined>(
      (longest, own) => ((own.run?.length ?? 0) > (longest?.run?.length ?? 0) ? own : longest),
      undefined,
    );
  const throttle = discharge.find(({ fitting }) => fitting?.throttles);
  const last = discharge.filter(({ kind }) => kind === "pipe").at(-1);
  const items: Record<string, NonNullable<Condition["items"]>[string]> = {};
  const put = (id: string, by: object) => {
    items[id] = { ...items[id], ...by };
  };
  if (main && truth.bore !== 1) put(main.itemId, { boreFactor: truth.bore });
  // Where the line has no valve its end is pinched: as a linear valve would, from nothing to all.
  if (throttle) put(throttle.itemId, { opening: valve });
  else if (last && valve < 1) put(last.itemId, { addedK: 10 * (1 / valve ** 2 - 1) });
  return {
    items,
    levels: { source: truth.level },
    pumps: Object.fromEntries(pumps.map(({ item }) => [item.id, { headFactor: truth.strength }])),
  };
}

function flowWith(ready: LineModel, truth: BoxTruth, valve: number): number | undefined {
  const { model, states, boundaryAt } = conditioned(ready, conditionOf(ready, truth, valve));
  const result = model.solve(boundaryAt("normal"), states);
  if (result.kind === "steady") return result.state.byPump[0];
  return result.kind === "no-duty" ? (result.atCurveEnd?.byPump[0] ?? 0) : undefined;
}

function suctionLoss(ready: LineModel, truth: BoxTruth, flow: number): number {
  const { model, boundaryAt } = conditioned(ready, conditionOf(ready, truth, 1));
  const boundary = boundaryAt("normal");
  const imposed = model.imposed(boundary, flow);
  const inlet = ready.line.pumps[0]?.inlet ?? 0;
  return imposed.kind === "steady"
    ? boundary.source - (imposed.state.nodeHeads[inlet] as number)
    : 0;
}
