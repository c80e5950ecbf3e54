import { type Caught, type Evenness, evennessOf } from "./evenness.ts";
import { boxOf } from "./plane.ts";
import type { Wind } from "./sets.ts";
import type { Profile } from "./waterFallen.ts";

/**
 * m of water a volume in m³ stands for in a can with a mouth so many m across.
 * @example depthInCan(5e-5, 0.1) // 0.00637
 */
export function depthInCan(volume: number, mouth: number): number {
  return volume / ((Math.PI / 4) * mouth ** 2);
}

/** Cans set out from one gun in straight legs, or in a grid. Depths in m, distances in m. */
export type CansAsked =
  | {
      layout: "legs";
      cans: readonly { leg: number; distance: number; depth: number }[];
      arc: number;
    }
  /** one gun somewhere inside it; each can stands for `across` by `along` */
  | {
      layout: "grid";
      cans: readonly { x: number; y: number; depth: number }[];
      along: number;
      across: number;
    };

export interface CanTest {
  evenness: Evenness;
  /** m/s where it rained, on average over the ground the cans stand for */
  rate: number;
  /** m³/s the gun must have put out for what was caught, and its doubt as one standard deviation */
  flow: number;
  flowUncertainty: number;
  /** m to the farthest can that caught something, and to where every leg was dry from; of a grid, none */
  reach?: number;
  dryFrom?: number;
  /** the farthest can of some leg still caught a fair share: more fell beyond it, and the flow is at least this */
  edgeMissed: boolean;
  /** the most water of any leg over the mean of all, less 1; of one leg, or a grid, it is not known */
  lopsided?: number;
  /** of legs together: rate over the mean rate of the disc, at even steps from the gun to the reach */
  profile?: number[];
}

export type CanResult =
  | ({ kind: "tested" } & CanTest)
  | { kind: "refused"; why: "too-few" | "no-time" | "all-dry" };

/** Fewer cans say nothing. */
const LEAST_CANS = 3;
/** One standard deviation of a can's depth as a part of it: splash, wind across the mouth, reading. Common practice, no source. */
const CAN_DOUBT = 0.08;
/** The last can of a leg with more than this part of the leg's mean was not at the edge. */
const EDGE = 0.2;

/**
 * A catch-can test: how evenly it fell, each can counting for the ground it stands for (the ring of its distance, or
 * its piece of a grid), and what flow that adds up to.
 * @param seconds it ran
 */
export function canTest(asked: CansAsked, seconds: number): CanResult {
  if (asked.cans.length < LEAST_CANS) return { kind: "refused", why: "too-few" };
  if (!(seconds > 0)) return { kind: "refused", why: "no-time" };
  if (asked.cans.every(({ depth }) => depth <= 0)) return { kind: "refused", why: "all-dry" };
  return asked.layout === "legs" ? legsTest(asked, seconds) : gridTest(asked, seconds);
}

function gridTest(
  { cans, along, across }: Extract<CansAsked, { layout: "grid" }>,
  seconds: number,
): CanResult {
  const weight = along * across;
  const weighed = cans.map(({ depth }) => ({ depth, weight }));
  const evenness = evennessOf(weighed);
  const water = waterIn(weighed);
  const { left, right, bottom, top } = boxOf(cans.map(({ x, y }) => [x, y]));
  const border = cans.filter(({ x, y }) => x === left || x === right || y === bottom || y === top);
  return {
    kind: "tested",
    evenness,
    rate: evenness.mean / seconds,
    flow: water / seconds,
    flowUncertainty: Math.hypot(readingDoubt(weighed), SETTING_OUT * water) / seconds,
    edgeMissed: border.some(({ depth }) => depth > EDGE * evenness.mean),
  };
}

const waterIn = (caught: readonly Caught[]) =>
  caught.reduce((sum, { depth, weight }) => sum + depth * weight, 0);

/** One standard deviation of the water in cans that are each read on their own. */
const readingDoubt = (caught: readonly Caught[]) =>
  CAN_DOUBT * Math.hypot(...caught.map(({ depth, weight }) => depth * weight));

/** The part of the flow by which cans set out by hand may be wrong all together. Common practice, no source. */
const SETTING_OUT = 0.05;

interface Ring extends Caught {
  distance: number;
}

function legsTest(
  { cans, arc }: Extract<CansAsked, { layout: "legs" }>,
  seconds: number,
): CanResult {
  const names = [...new Set(cans.map(({ leg }) => leg))];
  const legs = names.map((name) => ringsOf(cans.filter(({ leg }) => leg === name)));
  // Each leg stands for its share of the circle.
  const shared = legs.flatMap((rings) =>
    rings.map((ring) => ({ ...ring, weight: (ring.weight * arc) / (360 * legs.length) })),
  );
  const wet = shared.filter(({ depth }) => depth > 0);
  const reach = Math.max(...wet.map(({ distance }) => distance));
  const water = waterIn(shared);
  const each = legs.map(waterIn);
  const mean = each.reduce((sum, own) => sum + own, 0) / each.length;
  const scatter =
    each.length > 1
      ? Math.sqrt(each.reduce((sum, own) => sum + (own - mean) ** 2, 0) / (each.length - 1)) /
        Math.sqrt(each.length) /
        mean
      : ONE_LEG;
  // Dry ground beyond the throw is not the gun's to water evenly.
  const evenness = evennessOf(shared.filter(({ distance }) => distance <= reach));
  return {
    kind: "tested",
    evenness,
    rate: evenness.mean / seconds,
    flow: water / seconds,
    flowUncertainty:
      Math.hypot(readingDoubt(shared), water * Math.hypot(scatter, SETTING_OUT)) / seconds,
    reach,
    ...dryBeyond(legs),
    edgeMissed: legs.some((rings) => {
      const last = rings.at(-1);
      const ground = rings.reduce((sum, { weight }) => sum + weight, 0);
      return last !== undefined && last.depth > (EDGE * waterIn(rings)) / ground;
    }),
    ...(legs.length > 1 && { lopsided: Math.max(...each) / mean - 1 }),
    profile: profileOf(legs, reach),
  };
}

/** The distance from which on every leg had only dry cans; nothing where some leg ended in a wet one. */
function dryBeyond(legs: readonly Ring[][]): { dryFrom?: number } {
  const each = legs.map((rings) => {
    const wet = rings.findLastIndex(({ depth }) => depth > 0);
    return rings[wet + 1]?.distance;
  });
  return each.every((own) => own !== undefined) ? { dryFrom: Math.max(...each) } : {};
}

/** One standard deviation of the flow by one leg alone: what fell on the other sides is not known. Common practice, no source. */
const ONE_LEG = 0.15;

/** Each can of a leg with the ring it stands for: halfway to its neighbours, the last as far out as in. */
function ringsOf(cans: readonly { distance: number; depth: number }[]): Ring[] {
  const rows = cans.toSorted((a, b) => a.distance - b.distance);
  return rows.map(({ distance, depth }, i) => {
    const before = rows[i - 1]?.distance;
    const after = rows[i + 1]?.distance;
    const inner = before === undefined ? 0 : (before + distance) / 2;
    const half = before === undefined ? distance : (distance - before) / 2;
    const outer = after === undefined ? distance + half : (distance + after) / 2;
    return { distance, depth, weight: Math.PI * (outer ** 2 - inner ** 2) };
  });
}

const STEPS = 64;

/** The legs' mean depth by distance, as parts of the disc's mean. */
function profileOf(legs: readonly Ring[][], reach: number): number[] {
  const depthAt = (rings: readonly Ring[], distance: number) => {
    const above = rings.findIndex((ring) => ring.distance >= distance);
    if (above === 0) return rings[0]?.depth ?? 0;
    if (above < 0) return 0;
    const [a, b] = [rings[above - 1] as Ring, rings[above] as Ring];
    const part = (distance - a.distance) / (b.distance - a.distance);
    return a.depth + part * (b.depth - a.depth);
  };
  const depths = Array.from({ length: STEPS + 1 }, (_, i) => {
    const sum = legs.reduce((all, rings) => all + depthAt(rings, (reach * i) / STEPS), 0);
    return sum / legs.length;
  });
  // ∫ 2x f(x) dx over the disc is 1, by the rings between the steps.
  let mean = 0;
  for (let i = 0; i < STEPS; i++) {
    const ring = ((i + 1) ** 2 - i ** 2) / STEPS ** 2;
    mean += (ring * ((depths[i] as number) + (depths[i + 1] as number))) / 2;
  }
  return depths.map((depth) => (mean > 0 ? depth / mean : 0));
}

/** A profile out of its steps, straight between them. */
export function profileBy(steps: readonly number[]): Profile {
  return (part) => {
    const at = part * (steps.length - 1);
    const i = Math.floor(at);
    const [a, b] = [steps[i], steps[i + 1]];
    return a === undefined || b === undefined ? 0 : a + (at - i) * (b - a);
  };
}

/** Why cans and model disagree, the likeliest first. */
export type CanReason =
  | "nozzle-worn"
  | "nozzle-smaller"
  | "pressure-higher"
  | "pressure-lower"
  | "wind"
  | "evaporation"
  | "edge-missed";

export type CanAgreement =
  | { kind: "agree"; ratio: number; doubt: number }
  | { kind: "disagree"; ratio: number; doubt: number; reasons: CanReason[] };

export interface AgreementAsked {
  test: CanTest;
  /** m³/s the model says the gun passes, and its doubt as one standard deviation */
  flow: number;
  flowUncertainty: number;
  /** m of throw the model expects, between what; nothing outside the gun's window */
  thrown?: { radius: number; low: number; high: number } | undefined;
  wind: Wind;
}

/** One leg has so much more water than the mean where wind bends the pattern. Common practice, no source. */
const LOPSIDED = 0.2;

/**
 * Holds what the cans imply against what the line says the gun passes. They disagree when the difference is more than
 * two standard deviations of both. What points to a reason: more or less water, the reach against the throw expected
 * (pressure moves both, a nozzle the flow alone), and how lopsided it fell.
 */
export function agreement(asked: AgreementAsked): CanAgreement {
  const { test, flow, flowUncertainty, thrown, wind } = asked;
  const ratio = test.flow / flow;
  const doubt = (2 * Math.hypot(test.flowUncertainty, flowUncertainty * ratio)) / flow;
  if (Math.abs(ratio - 1) <= doubt) return { kind: "agree", ratio, doubt };
  const { reach, dryFrom } = test;
  // A farthest can that stood in water says nothing of how far it went.
  const side =
    reach === undefined || !thrown || test.edgeMissed
      ? undefined
      : reach > thrown.high
        ? "far"
        : dryFrom !== undefined && dryFrom < thrown.low
          ? "short"
          : "as-expected";
  const blown = wind === "strong" || wind === "fresh" || (test.lopsided ?? 0) > LOPSIDED;
  const reasons: CanReason[] = [];
  if (ratio > 1) {
    if (side === "far") reasons.push("pressure-higher", "nozzle-worn");
    else reasons.push("nozzle-worn", "pressure-higher");
    if (blown) reasons.push("wind");
  } else {
    if (test.edgeMissed) reasons.push("edge-missed");
    if (blown) reasons.push("wind");
    if (side === "short") reasons.push("pressure-lower", "nozzle-smaller", "evaporation");
    else if (1 - ratio <= EVAPORATES)
      reasons.push("evaporation", "nozzle-smaller", "pressure-lower");
    else reasons.push("nozzle-smaller", "pressure-lower", "evaporation");
  }
  return { kind: "disagree", ratio, doubt, reasons };
}

/** The most of the water that is lost in the air on an ordinary day. Common practice, no source. */
const EVAPORATES = 0.15;
