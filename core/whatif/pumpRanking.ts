import type { Severity } from "../check/check.ts";
import {
  checkContext,
  type Judgement,
  judge,
  OF_NO_PUMP,
  SEVERITY_ORDER,
  worstSeverity,
} from "../check/registry.ts";
import type { Outcome } from "../hydraulics/operatingPoint.ts";
import { settledDuty } from "../hydraulics/operatingPoint.ts";
import { lineModel, solveLine } from "../hydraulics/solveLine.ts";
import { changeItems, type Line } from "../line/path.ts";
import { bestEfficiencyFlow, headAt, type PumpCurve, publishedValue } from "../pump/curve.ts";
import type { Pump } from "../pump/pump.ts";

/** How one pump would do on a line, at the normal level. */
export interface Candidate {
  pump: Pump;
  outcome: Outcome;
  flow?: number;
  power?: number;
  worst: Severity;
  judgements: Judgement[];
  /** how it stands to what is wanted; absent where no flow is */
  fit?: Fit;
}

export type Fit =
  /** something to stop for: it is not ranked, whatever it moves */
  | { kind: "apart"; why: Judgement }
  /** m of head it lacks at the wanted flow, where its curve tells */
  | { kind: "too-weak"; short?: number }
  /** 0 to 1, and what it is made of */
  | { kind: "ranked"; score: number; parts: Record<Merit, number> };

export type Merit = "flow" | "efficiency" | "energy" | "weight" | "price";

/** What counts how much between pumps that may all stand there. Common practice, no source. */
export const WEIGHTS: Record<Merit, number> = {
  flow: 0.3,
  efficiency: 0.25,
  energy: 0.25,
  weight: 0.1,
  price: 0.1,
};

/** A pump that moves more than this many times what is wanted is too strong for it. */
const TOO_STRONG = 2;

/**
 * Every pump tried on the line. With a flow wanted those that may stand there and move it come first, by their score,
 * then those that are too weak, then those with something to stop for; without one nothing is ranked, and they stay
 * in the order they were given. Pumps that cannot be solved are left out. Each is tried in every place of the line,
 * or in the one named, with the others as they are.
 */
export function rankPumps(
  line: Line,
  pumps: readonly Pump[],
  wantedFlow: number | undefined,
  place?: { itemId: string; others: readonly Pump[] },
): Candidate[] {
  const others = place?.others ?? [];
  const withPump = (id: string | null) =>
    changeItems(line.path, (item) =>
      item.kind === "pump" && (!place || item.id === place.itemId) ? { ...item, pump: id } : item,
    );
  /** each at the speed it runs at there */
  const curves = new Map<string, PumpCurve>();
  const candidates = pumps.flatMap((pump): Candidate[] => {
    const own = { ...line, path: withPump(pump.id) };
    const result = solveLine(own, [pump, ...others]);
    if (result.kind === "refused") return [];
    const { outcome, running } = result.solution.cases.normal;
    const judgements = judge(checkContext(result.solution, own, wantedFlow)).filter(
      ({ code }) => !OF_NO_PUMP.has(code),
    );
    const flow = settledDuty(outcome) && running?.state.delivered;
    const curve = result.solution.pumps.find((on) => on.pump.id === pump.id)?.curve;
    if (curve) curves.set(pump.id, curve);
    const found: Candidate = { pump, outcome, worst: worstSeverity(judgements), judgements };
    if (flow !== undefined) found.flow = flow;
    if (running?.power !== undefined) found.power = running.power;
    return [found];
  });
  if (wantedFlow === undefined) return candidates;

  const asked = askedDuty({ ...line, path: withPump(null) }, others, wantedFlow);
  const ranked: Candidate[] = [];
  for (const candidate of candidates) {
    // Too little water is no reason not to stand there: it is said in m of head.
    const why = candidate.judgements.find(
      ({ severity, code }) => severity === "stop" && code !== "wanted-flow",
    );
    if (why) candidate.fit = { kind: "apart", why };
    else if ((candidate.flow ?? 0) >= wantedFlow) ranked.push(candidate);
    else {
      const curve = curves.get(candidate.pump.id);
      const made = asked && curve && publishedValue(headAt(curve, asked.flow));
      const short = asked && made !== undefined ? asked.head - made : 0;
      candidate.fit = short > 0 ? { kind: "too-weak", short } : { kind: "too-weak" };
    }
  }
  const least = (of: (candidate: Candidate) => number | undefined) =>
    Math.min(...ranked.flatMap((candidate) => of(candidate) ?? []));
  const best = {
    energy: least(workPerVolume),
    weight: least(({ pump }) => pump.mass),
    price: least(({ pump }) => pump.price),
  };
  for (const candidate of ranked) {
    candidate.fit = scored(candidate, curves.get(candidate.pump.id), wantedFlow, best);
  }
  const order = { ranked: 0, "too-weak": 1, apart: 2 };
  return candidates.sort(
    (a, b) =>
      order[a.fit?.kind ?? "apart"] - order[b.fit?.kind ?? "apart"] ||
      scoreOf(b) - scoreOf(a) ||
      SEVERITY_ORDER[a.worst] - SEVERITY_ORDER[b.worst] ||
      (b.flow ?? 0) - (a.flow ?? 0),
  );
}

const scoreOf = ({ fit }: Candidate) => (fit?.kind === "ranked" ? fit.score : 0);

/** What the place asks of a pump at the wanted flow; nothing where it is not the only one. */
function askedDuty(line: Line, others: readonly Pump[], wanted: number) {
  const ready = lineModel(line, others, wanted);
  const [state] = ready.kind === "ready" && ready.asked ? ready.states : [];
  if (ready.kind === "refused" || state?.kind !== "held") return undefined;
  const head = ready.model.systemHead(ready.boundaries.normal)(state.flow);
  return head === undefined ? undefined : { flow: state.flow, head };
}

function scored(
  candidate: Candidate,
  curve: PumpCurve | undefined,
  wanted: number,
  best: Record<"energy" | "weight" | "price", number>,
): Fit {
  const { pump, flow = 0 } = candidate;
  const bestFlow = curve ? bestEfficiencyFlow(curve).flow : flow;
  const share = (least: number, own: number | undefined) =>
    own === undefined || !Number.isFinite(least) ? UNKNOWN : least / Math.max(own, least);
  const parts: Record<Merit, number> = {
    // A little in hand is best; twice what is wanted is no merit any more.
    flow: 1 - Math.min(Math.max(flow / wanted - IN_HAND, 0) / (TOO_STRONG - IN_HAND), 1),
    efficiency: 1 - Math.min(Math.abs(flow / bestFlow - 1) / 0.5, 1),
    energy: share(best.energy, workPerVolume(candidate)),
    weight: share(best.weight, pump.mass),
    price: share(best.price, pump.price),
  };
  const score = (Object.keys(WEIGHTS) as Merit[]).reduce(
    (sum, merit) => sum + WEIGHTS[merit] * parts[merit],
    0,
  );
  return { kind: "ranked", score, parts };
}

/** flow over what is wanted up to which more is no fault */
const IN_HAND = 1.15;
/** the merit of what a plate does not tell */
const UNKNOWN = 0.5;

/** J per m³, where power is published. */
function workPerVolume({ flow, power }: Candidate): number | undefined {
  return flow && power ? power / flow : undefined;
}
