import { findFitting } from "../catalogue/fittings.ts";
import { findPipeStock } from "../catalogue/pipes.ts";
import { PRACTICE, type Severity } from "../check/check.ts";
import {
  CHECKS,
  type CheckCode,
  checkContext,
  type Judgement,
  judge,
  OF_NO_PUMP,
  SEVERITY_ORDER,
  worstSeverity,
} from "../check/registry.ts";
import { speedRange } from "../driving/variableSpeed.ts";
import { lossCoefficient } from "../fitting/resistance.ts";
import { type Duty, type Outcome, settledDuty } from "../hydraulics/operatingPoint.ts";
import { type LineModel, lineModel, type Solution, solveLine } from "../hydraulics/solveLine.ts";
import { flowFor, quickDuty, type SystemCurve, systemCurve } from "../hydraulics/systemCurve.ts";
import { changeItems, everyItem, type Line, type PathItem, type PumpItem } from "../line/path.ts";
import { evaluate } from "../numeric/monotoneCubic.ts";
import { finish, type Steps } from "../numeric/steps.ts";
import { type Arrangement, curveOf, pumpsOf, speedFor } from "../pump/arrangement.ts";
import {
  bestEfficiencyFlow,
  headAt,
  publishedValue,
  pumpCurve,
  shaftPower,
} from "../pump/curve.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { besideItself, hasRoomForTwo } from "../whatif/changes.ts";
import { MERITS, type Merit, WEIGHINGS, type Weights } from "./weights.ts";

/** How what may be put in a place would do on the line, at the normal level. */
export interface Candidate {
  arrangement: Arrangement;
  /** the first of its pumps */
  pump: Pump;
  /** running speed over rated speed */
  speedRatio: number;
  /** m³/s at the outlets, m at the pump and W taken; absent where it does not settle or no power is published */
  flow?: number;
  head?: number;
  power?: number;
  /** solved in full and judged by every check, rather than laid over the line's curve and held to its place alone */
  looked: boolean;
  outcome?: Outcome;
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
  /** laid over the line it runs past its published curve */
  | { kind: "too-strong" }
  /** 0 to 1, and what it is made of */
  | { kind: "ranked"; score: number; parts: Record<Merit, number> };

export interface Choosing {
  /** the place that is filled, and the pumps that stand in the others; every place alike where absent */
  place?: { itemId: string; others: readonly Pump[] };
  weights?: Weights;
  /** how many of the best are solved in full; all of them where absent */
  closely?: number;
  /** pairs too: twins of each pump, and of the pumps that are owned any two; and speeds where a drive allows them */
  wider?: boolean;
  /** whether the first few are looked at before all else, and told */
  early?: boolean;
}

/**
 * A pump that moves more than this many times what is wanted is too strong for it: what it moves beyond is throttled
 * away, or makes it start so much more often, and its score falls as what is wanted is a part of that.
 */
const TOO_STRONG = 2;
/** flow over what is wanted up to which more is no fault */
const IN_HAND = 1.15;
/** the merit of what a plate does not tell */
const UNKNOWN = 0.5;
/** how many of single pumps have to pass before the first are told */
const FIRST_TOLD = 3;
/** pumps looked at after which half is taken to be done */
const TYPICAL = 20;

/**
 * Everything that may be put in a place of the line. With a flow wanted, what may stand there and moves it comes first
 * by its score, then what is too weak, then what there is something to stop for; without one nothing is ranked, and
 * it stays in the order it was given. What cannot be solved is left out.
 *
 * Every pump is first laid over the line's one curve and held to the limits of its place; the best, the cheapest and
 * those that are owned are then solved in full and judged by every check, until as many as asked have passed.
 */
export const rankPumps = (
  line: Line,
  pumps: readonly Pump[],
  wantedFlow: number | undefined,
  choosing: Choosing = {},
): Candidate[] => finish(rankPumpsInSteps(line, pumps, wantedFlow, choosing));

/** The same in its steps, one a pump that is looked at closely. */
export function* rankPumpsInSteps(
  line: Line,
  pumps: readonly Pump[],
  wantedFlow: number | undefined,
  choosing: Choosing = {},
): Steps<Candidate[], readonly Candidate[]> {
  const { place, weights = WEIGHINGS.balanced, closely = Number.POSITIVE_INFINITY } = choosing;
  const setting = settingOf(line, pumps, place);
  const arrangements = pumps.map((pump): Arrangement => ({ kind: "one", pump }));
  if (!setting || wantedFlow === undefined) {
    return arrangements.flatMap((own) => {
      const found = solvedIn(line, own, place, wantedFlow);
      if (found && wantedFlow !== undefined) found.fit = fitOf(found, wantedFlow, undefined);
      return found ?? [];
    });
  }
  const asked = askedOf(setting, line, place, wantedFlow);
  const lay = (own: Arrangement) => laidOver(setting, own, line, wantedFlow, asked);
  const laid = arrangements.map(lay);
  const ranked = () => laid.filter(({ fit }) => fit?.kind === "ranked");
  let bests = weigh(laid, wantedFlow, weights);
  let passed = 0;
  const look = (candidate: Candidate) => {
    const full = solvedIn(line, candidate.arrangement, place, wantedFlow);
    candidate.looked = true;
    if (!full) {
      laid.splice(laid.indexOf(candidate), 1);
      return;
    }
    const was = candidate.fit;
    Object.assign(candidate, full);
    candidate.fit = fitOf(full, wantedFlow, was);
    if (candidate.fit.kind !== "ranked") return;
    passed++;
    candidate.fit = { kind: "ranked", ...meritsOf(candidate, wantedFlow, bests, weights) };
  };
  const next = (of: (candidate: Candidate) => number) => {
    let found: Candidate | undefined;
    for (const candidate of ranked()) {
      if (!candidate.looked && (!found || of(candidate) > of(found))) found = candidate;
    }
    return found;
  };
  let looked = 0;
  // How many will pass is not known: of each that is looked at a part of what is left is taken to be done.
  const step = () => ({ done: 1 - 1 / (1 + ++looked / TYPICAL) });
  function* lookUntil(enough: number) {
    for (let best = next(scoreOf); best && passed < enough; best = next(scoreOf)) {
      look(best);
      yield step();
    }
  }
  if (choosing.early) {
    yield* lookUntil(Math.min(FIRST_TOLD, closely));
    yield { ...step(), soFar: inOrder([...laid]) };
  }
  if (choosing.wider) {
    laid.push(...widerThan(pumps, setting, asked, wantedFlow).map(lay));
    bests = weigh(laid, wantedFlow, weights);
  }
  yield* lookUntil(closely);
  // A card that says cheapest, or owned, is as much a recommendation as the best.
  function* until(of: (candidate: Candidate) => number, may: (candidate: Candidate) => boolean) {
    for (;;) {
      let first: Candidate | undefined;
      for (const own of ranked()) if (may(own) && (!first || of(own) > of(first))) first = own;
      if (!first || first.looked) return;
      look(first);
      yield step();
    }
  }
  for (const may of [notTooStrong, () => true]) {
    yield* until(
      (own) => -(priceOf(own) ?? Number.POSITIVE_INFINITY),
      (own) => priceOf(own) !== undefined && may(own),
    );
    if (ranked().some((own) => own.looked && notTooStrong(own))) break;
  }
  yield* until(scoreOf, isOwned);
  // What is said of the rest has to be said of the whole: where all were asked for, all are.
  if (closely === Number.POSITIVE_INFINITY) {
    for (const candidate of [...laid]) {
      if (candidate.looked) continue;
      look(candidate);
      yield step();
    }
  }
  return inOrder(laid);
}

/** What a card is given by. */
interface Carded {
  looked: boolean;
  fit?: { kind: string; parts?: Record<Merit, number> };
  price?: number | undefined;
  owned: boolean;
}

/** Whether it moves no more than is of any use; so does everything that is not ranked. */
const notTooStrong = ({ fit }: Pick<Carded, "fit">) =>
  fit?.parts === undefined || fit.parts.flow > 0;

/**
 * The best, the cheapest and the best of what is owned: each only where something may be recommended as that, and the
 * cheapest only out of what is not too strong, where there is such.
 */
export function cardsOf<T extends Carded>(
  candidates: readonly T[],
): { best?: T; cheapest?: T; owned?: T } {
  const fit = candidates.filter(({ fit: own, looked }) => looked && own?.kind === "ranked");
  const [best] = fit;
  const priced = fit.filter(({ price }) => price !== undefined);
  const [useful] = [priced.filter(notTooStrong), priced].filter(({ length }) => length > 0);
  const cheapest = useful?.toSorted((a, b) => (a.price ?? 0) - (b.price ?? 0))[0];
  const owned = fit.find((own) => own.owned);
  return { ...(best && { best }), ...(cheapest && { cheapest }), ...(owned && { owned }) };
}

/** What it would still cost: nothing for what is owned; unknown where one of its pumps has no price. */
export function priceOf({ arrangement }: Pick<Candidate, "arrangement">): number | undefined {
  let sum = 0;
  const left = new Map<string, number>();
  for (const pump of pumpsOf(arrangement)) {
    const owned = left.get(pump.id) ?? pump.owned ?? 0;
    left.set(pump.id, owned - 1);
    if (owned > 0) continue;
    if (pump.price === undefined) return undefined;
    sum += pump.price;
  }
  return sum;
}

/** Whether the firm has all of it. */
export function isOwned({ arrangement }: Pick<Candidate, "arrangement">): boolean {
  const needed = new Map<Pump, number>();
  for (const pump of pumpsOf(arrangement)) needed.set(pump, (needed.get(pump) ?? 0) + 1);
  return [...needed].every(([{ owned = 0 }, count]) => owned >= count);
}

const ORDER = { ranked: 0, "too-weak": 1, "too-strong": 2, apart: 3 };
const scoreOf = ({ fit }: Candidate) => (fit?.kind === "ranked" ? fit.score : 0);

const inOrder = (candidates: Candidate[]): Candidate[] =>
  candidates.sort(
    (a, b) =>
      ORDER[a.fit?.kind ?? "apart"] - ORDER[b.fit?.kind ?? "apart"] ||
      scoreOf(b) - scoreOf(a) ||
      SEVERITY_ORDER[a.worst] - SEVERITY_ORDER[b.worst] ||
      (b.flow ?? 0) - (a.flow ?? 0),
  );

/** What is the same for every candidate. */
interface Setting {
  ready: LineModel;
  /** number of the place in the line */
  at: number;
  /** running speed over rated speed of whatever stands there, where none is chosen for it */
  speed: number;
  system: SystemCurve;
  /**
   * where two may be put there, as the place stands in no branch: m per (m³/s)² of the check valve each of them has
   * beside the other, and what the line asks of them without the one it has
   */
  pairs?: { own: number; system: SystemCurve };
}

/** Nothing where the places of a line are more than one and none is named, or where it cannot be solved. */
function settingOf(
  line: Line,
  pumps: readonly Pump[],
  place: Choosing["place"],
): Setting | undefined {
  const [any] = pumps;
  if (!any) return undefined;
  const places = everyItem(line.path).filter((item): item is PumpItem => item.kind === "pump");
  const at = place ? places.findIndex(({ id }) => id === place.itemId) : 0;
  const own = places[at];
  if (!own || (places.length > 1 && !place)) return undefined;
  // Any pump stands in for all: what the line asks for does not depend on it.
  const others = place?.others.filter(({ id }) => id !== any.id) ?? [];
  const ready = lineModel({ ...line, path: changed(line.path, own.id, any.id) }, [
    any,
    ...others,
    ...(place?.others ?? []),
  ]);
  if (ready.kind === "refused") return undefined;
  const speed = own.speedRatio ?? 1;
  const fastest = Math.max(speed, 1.3);
  const most = pumps.reduce((flow, { points }) => Math.max(flow, points.at(-1)?.flow ?? 0), 0);
  const system = systemCurve(ready, at, 2 * most * fastest);
  if (!system) return undefined;
  const pairs = pairsIn(line, own, [any, ...others], 2 * most * fastest);
  return { ready, at, speed, system, ...(pairs && { pairs }) };
}

function pairsIn(
  line: Line,
  own: PumpItem,
  pumps: readonly Pump[],
  most: number,
): Setting["pairs"] {
  if (besideItself(line.path, own) === undefined || own.speedRatio !== undefined) return undefined;
  if (!hasRoomForTwo(line)) return undefined;
  // Its own check valve goes with each of the two.
  const at = line.path.findIndex(({ id }) => id === own.id);
  const after = line.path.slice(at + 1);
  const kept = after.findIndex((item) => !isCheckValve(item) && item.kind !== "orifice");
  const path = [
    ...line.path.slice(0, at + 1),
    ...after.slice(0, kept).filter((item) => !isCheckValve(item)),
    ...after.slice(kept),
  ];
  const [any] = pumps as [Pump];
  const ready = lineModel({ ...line, path: changed(path, own.id, any.id) }, pumps);
  if (ready.kind === "refused") return undefined;
  const place = ready.pumps.findIndex(({ itemId }) => itemId === own.id);
  const system = systemCurve(ready, place, most);
  return system && { own: checkLoss(line.path, own.id), system };
}

const isCheckValve = (item: PathItem): boolean =>
  item.kind === "fitting" && findFitting(item.fitting)?.group === "check";

/** What the place asks of a pump at the wanted flow: exactly where it is the only one, else by the table. */
function askedOf(
  { system }: Setting,
  line: Line,
  place: Choosing["place"],
  wanted: number,
): Duty | undefined {
  const path = changeItems(line.path, (item) =>
    item.kind === "pump" && (!place || item.id === place.itemId) ? { ...item, pump: null } : item,
  );
  const ready = lineModel({ ...line, path }, place?.others ?? [], wanted);
  const [state] = ready.kind === "ready" && ready.asked ? ready.states : [];
  if (ready.kind === "ready" && state?.kind === "held") {
    const head = ready.model.systemHead(ready.boundaries.normal)(state.flow);
    if (head !== undefined) return { flow: state.flow, head };
  }
  const flow = flowFor(system, wanted);
  return flow === undefined ? undefined : { flow, head: evaluate(system.head, flow) };
}

const changed = (path: PathItem[], itemId: string | undefined, pump: string): PathItem[] =>
  changeItems(path, (item) =>
    item.kind === "pump" && (itemId === undefined || item.id === itemId) ? { ...item, pump } : item,
  );

function checkLoss(path: readonly PathItem[], itemId: string): number {
  const after = path.slice(path.findIndex(({ id }) => id === itemId) + 1);
  const pipe = after.find((item) => item.kind === "pipe");
  const bore = pipe?.kind === "pipe" ? findPipeStock(pipe.stock)?.bore : undefined;
  const valve = findFitting("check-swing");
  if (!bore || !valve) return 0;
  return lossCoefficient(valve, bore) / (2 * GRAVITY * ((Math.PI / 4) * bore * bore) ** 2);
}

/** Pairs that have a chance, and pumps at the slowest speed that does it. */
function widerThan(
  pumps: readonly Pump[],
  { system, pairs }: Setting,
  asked: Duty | undefined,
  wanted: number,
): Arrangement[] {
  if (!asked) return [];
  const { flow, head } = asked;
  const found: Arrangement[] = [];
  for (const pump of pumps) {
    if (!pump.speeds) continue;
    const range = speedRange(pump);
    // A hair more than is wanted, so that a full solution does not fall short of it by its last digit.
    const little = 1 + 1e-6;
    const speedRatio = speedFor(pump, { flow: flow * little, head: head * little }, range);
    if (speedRatio !== undefined && Math.abs(speedRatio - 1) > 0.005) {
      found.push({ kind: "one", pump, speedRatio });
    }
  }
  if (!pairs) return found;
  const two = (first: Pump, second: Pump) => {
    found.push({ kind: "beside", pumps: [first, second] });
    // One after the other they need a pump that can be fed by another.
    if (!first.submersible && !second.submersible) {
      found.push({ kind: "after", pumps: [first, second] });
    }
  };
  for (const pump of pumps) if (deliveredAlone(pump, system) < wanted) two(pump, pump);
  const owned = pumps.filter(({ owned: count = 0 }) => count > 0).slice(0, MOST_OWNED);
  for (const [i, first] of owned.entries()) {
    for (const second of owned.slice(i + 1)) two(first, second);
  }
  return found;
}

/** Of the pumps that are owned so many are tried with one another. */
const MOST_OWNED = 40;

function deliveredAlone(pump: Pump, system: SystemCurve): number {
  const duty = quickDuty(system, pumpCurve(pump));
  return duty.kind === "cannot-lift" ? 0 : duty.delivered;
}

/** Limits of the place, which want no solving. */
export const OF_THE_PLACE = [
  ...(["pump-placement", "pump-width", "pump-passage"] as const),
  ...(["water-too-shallow", "water-too-deep", "water-too-warm"] as const),
] as const satisfies readonly CheckCode[];

function laidOver(
  setting: Setting,
  arrangement: Arrangement,
  line: Line,
  wanted: number,
  asked: Duty | undefined,
): Candidate {
  const { pairs } = setting;
  const { own, system } =
    arrangement.kind === "beside" && pairs ? pairs : { own: 0, system: setting.system };
  const [pump] = pumpsOf(arrangement) as [Pump];
  const speedRatio = (arrangement.kind === "one" && arrangement.speedRatio) || setting.speed;
  const one = arrangement.kind === "one" ? { ...arrangement, speedRatio } : arrangement;
  const curve = curveOf(one, [own, own]);
  const judgements = pumpsOf(arrangement).flatMap((each) => placed(setting, each, line, wanted));
  const worst = worstSeverity(judgements);
  const base = { arrangement, pump, speedRatio, looked: false, judgements, worst };
  const why = judgements.find(({ severity }) => severity === "stop");
  if (why) return { ...base, fit: { kind: "apart", why } };
  const duty = curve && quickDuty(system, curve);
  if (!curve || !duty || duty.kind === "cannot-lift" || duty.delivered < wanted) {
    const made = curve && asked && publishedValue(headAt(curve, asked.flow));
    const short = asked && made !== undefined ? asked.head - made : 0;
    const flow = duty && duty.kind !== "cannot-lift" ? { flow: duty.delivered } : {};
    return {
      ...base,
      ...flow,
      fit: short > 0 ? { kind: "too-weak", short } : { kind: "too-weak" },
    };
  }
  if (duty.kind === "beyond-curve") {
    return { ...base, flow: duty.delivered, head: duty.head, fit: { kind: "too-strong" } };
  }
  const power = shaftPower(curve, duty.flow);
  return {
    ...base,
    ...{ flow: duty.delivered, head: duty.head },
    ...(power !== undefined && { power: power * line.site.specificGravity }),
    fit: { kind: "ranked", score: 0, parts: NO_MERIT },
  };
}

const NO_MERIT = Object.fromEntries(MERITS.map((merit) => [merit, 0])) as Record<Merit, number>;

/** What the place itself says of a pump, by the checks that need nothing but its plate. */
function placed({ ready, at }: Setting, pump: Pump, line: Line, wanted: number): Judgement[] {
  const pumps = ready.pumps.map((on, i) => (i === at ? { ...on, pump } : on));
  const context = { solution: { ...ready, pumps } as Solution, line, wantedFlow: wanted, best: [] };
  const itemId = ready.pumps[at]?.itemId;
  return OF_THE_PLACE.flatMap((code) => {
    const { find, quantity } = CHECKS[code];
    const found = find(context).filter((own) => own.itemId === itemId);
    const worst = found.toSorted(
      (a, b) => SEVERITY_ORDER[b.severity] - SEVERITY_ORDER[a.severity],
    )[0];
    return worst ? [{ code, quantity, ...worst } as Judgement] : [];
  });
}

/** A candidate put on the line and solved; nothing where the line is refused with it. */
function solvedIn(
  line: Line,
  arrangement: Arrangement,
  place: Choosing["place"],
  wanted: number | undefined,
): Candidate | undefined {
  const path = pathWith(line.path, arrangement, place?.itemId);
  if (!path) return undefined;
  const own = { ...line, path };
  const others = place?.others ?? [];
  const result = solveLine(own, [...pumpsOf(arrangement), ...others]);
  if (result.kind === "refused") return undefined;
  const { outcome, running } = result.solution.cases.normal;
  const judgements = judge(checkContext(result.solution, own, wanted)).flatMap(
    (judgement): Judgement[] => {
      if (OF_NO_PUMP.has(judgement.code)) return [];
      // A motor that a sleeve would cool, or that only a rule of thumb finds too warm, is told of and not ruled out.
      const sleeved =
        judgement.code === "motor-cooling" &&
        (judgement.facts.sleeve !== null || judgement.source === PRACTICE);
      return [
        sleeved && judgement.severity === "stop" ? { ...judgement, severity: "watch" } : judgement,
      ];
    },
  );
  const [pump] = pumpsOf(arrangement) as [Pump];
  const found: Candidate = {
    ...{ arrangement, pump, outcome, judgements, looked: true },
    speedRatio: (arrangement.kind === "one" && arrangement.speedRatio) || speedAt(line, place),
    worst: worstSeverity(judgements),
  };
  if (settledDuty(outcome) && running) {
    found.flow = running.state.delivered;
    found.head = running.duty.head;
  }
  if (running?.power !== undefined) found.power = running.power;
  return found;
}

const speedAt = (line: Line, place: Choosing["place"]): number =>
  everyItem(line.path).find(
    (item): item is PumpItem => item.kind === "pump" && (!place || item.id === place.itemId),
  )?.speedRatio ?? 1;

/** The path with an arrangement in a place, or in every one; nothing where two do not go there. */
export function pathWith(
  path: PathItem[],
  arrangement: Arrangement,
  itemId: string | undefined,
  name: (of: string) => string = (of) => `${of}-second`,
): PathItem[] | undefined {
  if (arrangement.kind === "one") {
    const { pump, speedRatio } = arrangement;
    return changeItems(path, (item) =>
      item.kind === "pump" && (itemId === undefined || item.id === itemId)
        ? { ...item, pump: pump.id, ...(speedRatio !== undefined && { speedRatio }) }
        : item,
    );
  }
  const item = everyItem(path).find(
    (own): own is PumpItem => own.kind === "pump" && (itemId === undefined || own.id === itemId),
  );
  if (!item) return undefined;
  const [first, second] = arrangement.pumps;
  const own = { ...item, pump: first.id };
  if (arrangement.kind === "after") {
    return changeItems(path, (each) =>
      each.id === item.id ? [own, { ...item, id: name(item.id), pump: second.id }] : each,
    );
  }
  const beside = besideItself(changed(path, item.id, first.id), own, name);
  return beside && changed(beside, name(item.id), second.id);
}

function fitOf(candidate: Candidate, wanted: number, laid: Fit | undefined): Fit {
  // Too little water is no reason not to stand there: it is said in m of head.
  const why = candidate.judgements.find(
    ({ severity, code }) => severity === "stop" && code !== "wanted-flow",
  );
  if (why) return { kind: "apart", why };
  if ((candidate.flow ?? 0) < wanted)
    return laid?.kind === "too-weak" ? laid : { kind: "too-weak" };
  return { kind: "ranked", score: 0, parts: NO_MERIT };
}

interface Bests {
  energy: number;
  weight: number;
  price: number;
}

function bestOf(ranked: readonly Candidate[], wanted: number): Bests {
  const least = (of: (candidate: Candidate) => number | undefined) =>
    ranked.reduce(
      (best, candidate) => Math.min(best, of(candidate) ?? best),
      Number.POSITIVE_INFINITY,
    );
  return {
    energy: least((own) => workAt(own, wanted)),
    weight: least(massOf),
    price: least((own) => priceOf(own) || undefined),
  };
}

/** Gives every candidate that is ranked its score against the best of all; tells what that is in each. */
function weigh(candidates: readonly Candidate[], wanted: number, weights: Weights): Bests {
  const ranked = candidates.filter(({ fit }) => fit?.kind === "ranked");
  const bests = bestOf(ranked, wanted);
  for (const candidate of ranked) {
    candidate.fit = { kind: "ranked", ...meritsOf(candidate, wanted, bests, weights) };
  }
  return bests;
}

/** Best-efficiency flow of a curve at rated speed, worked out once for each pump. */
const BEST = new WeakMap<Pump, number>();
function bestFlowOf(pump: Pump): number {
  let found = BEST.get(pump);
  if (found === undefined) {
    found = bestEfficiencyFlow(pumpCurve(pump)).flow;
    BEST.set(pump, found);
  }
  return found;
}

/** How near the pumps run to their best flow: the worst of them decides. */
function nearness({ arrangement, speedRatio, flow = 0 }: Candidate): number {
  const each =
    arrangement.kind === "one"
      ? [flow / (bestFlowOf(arrangement.pump) * speedRatio)]
      : arrangement.pumps.map(
          (pump) => (arrangement.kind === "beside" ? flow / 2 : flow) / bestFlowOf(pump),
        );
  return Math.min(...each.map((ratio) => 1 - Math.min(Math.abs(ratio - 1) / 0.5, 1)));
}

function meritsOf(
  candidate: Candidate,
  wanted: number,
  best: Bests,
  weights: Weights,
): { score: number; parts: Record<Merit, number> } {
  const { flow = 0, arrangement } = candidate;
  const pumps = pumpsOf(arrangement);
  const share = (least: number, own: number | undefined) =>
    own === undefined || !Number.isFinite(least) ? UNKNOWN : least / Math.max(own, least);
  const price = priceOf(candidate);
  const parts: Record<Merit, number> = {
    // A little in hand is best; twice what is wanted is no merit any more.
    flow: 1 - Math.min(Math.max(flow / wanted - IN_HAND, 0) / (TOO_STRONG - IN_HAND), 1),
    efficiency: nearness(candidate),
    energy: share(best.energy, workAt(candidate, wanted)),
    weight: share(best.weight, massOf(candidate)),
    price: price === 0 ? 1 : share(best.price, price),
    van: pumps.every(({ inVan }) => inVan) ? 1 : 0,
    spares:
      pumps.reduce(
        (sum, { spares }) => sum + (spares === undefined ? UNKNOWN : Number(spares)),
        0,
      ) / pumps.length,
  };
  const score = MERITS.reduce((sum, merit) => sum + weights[merit] * parts[merit], 0);
  return { score: score * Math.min(1, (TOO_STRONG * wanted) / flow), parts };
}

/** J per m³ from the plug or out of the tank, where power is published. */
export function workPerVolume({
  flow,
  power,
  pump,
}: Pick<Candidate, "flow" | "power" | "pump">): number | undefined {
  if (!flow || !power) return undefined;
  return power / flow / (pump.drive === "engine" ? ENGINE_EFFICIENCY : 1);
}

/**
 * J per m³ where no more than is of use is moved: a pump that moves more is throttled to what is wanted, and takes
 * then what its curve says there, if that is more for the water.
 */
function workAt(candidate: Candidate, wanted: number): number | undefined {
  const running = workPerVolume(candidate);
  const { flow, power, arrangement, speedRatio } = candidate;
  if (running === undefined || !flow || !power || flow <= IN_HAND * wanted) return running;
  if (arrangement.kind !== "one") return running;
  const curve = pumpCurve(arrangement.pump, speedRatio);
  const [open, throttled] = [shaftPower(curve, flow), shaftPower(curve, wanted)];
  if (!open || throttled === undefined) return running;
  return Math.max(running, (running * (throttled / wanted)) / (open / flow));
}

/** Of what is in its fuel a small engine gives the shaft so much. Common practice, no source. */
const ENGINE_EFFICIENCY = 0.25;

/** kg of all its pumps, where their plates tell. */
export function massOf({ arrangement }: Pick<Candidate, "arrangement">): number | undefined {
  let sum = 0;
  for (const { mass } of pumpsOf(arrangement)) {
    if (mass === undefined) return undefined;
    sum += mass;
  }
  return sum;
}

/** Pumps of a library that no limit of the place forbids, by their plates alone. */
export function mayStand(
  line: Line,
  pumps: readonly Pump[],
  place: NonNullable<Choosing["place"]>,
  wanted: number,
): Pump[] {
  const setting = settingOf(line, pumps, place);
  if (!setting) return [];
  return pumps.filter((pump) =>
    placed(setting, pump, line, wanted).every(({ severity }) => severity !== "stop"),
  );
}
