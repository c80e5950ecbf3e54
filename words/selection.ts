import type { PumpDocument } from "#contract/documents/pump.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { Merit, Weighing } from "#core/selection/weights.ts";
import type { RunFinding } from "#model/simulation/answers.ts";
import { checkWords } from "./checks.ts";
import { runFindingWords } from "./simulation.ts";

/** What somebody is after, in his own words. */
export const WEIGHING_WORDS: Record<Weighing, { name: string; says: string }> = {
  balanced: { name: "A bit of everything", says: "nothing counts for more than a quarter" },
  "runs-much": { name: "It runs for hours every day", says: "energy counts most" },
  "runs-seldom": { name: "It runs a few times a year", says: "the price counts most" },
  carried: { name: "One person carries it", says: "the weight counts most" },
  today: { name: "It has to run today", says: "what is in the van counts most" },
};

export const MERIT_WORDS: Record<Merit, string> = {
  flow: "flow in hand",
  efficiency: "near its best",
  energy: "energy for a volume",
  weight: "weight",
  price: "price",
  van: "in the van",
  spares: "spares",
};

/** What a candidate is like, as far as its reason is told from it. SI. */
export interface Reasoned {
  kind: "one" | "beside" | "after";
  flow?: number;
  /** J for a m³ */
  work?: number;
  price?: number;
  mass?: number;
  looked: boolean;
  fit?:
    | { kind: "apart"; why: Parameters<typeof checkWords>[0] }
    | { kind: "too-weak"; short?: number }
    | { kind: "too-strong" }
    | { kind: "fails"; why: RunFinding }
    | { kind: "ranked"; score: number; parts: Record<Merit, number> };
}

/** A candidate's one line: why it is not the best, or what stands against it. Nothing of the best itself. */
export function reasonOf(
  own: Reasoned,
  best: Reasoned | undefined,
  weights: Record<Merit, number>,
  job: Parameters<typeof checkWords>[1],
  units: UnitSystem,
): string | undefined {
  const { fit } = own;
  switch (fit?.kind) {
    case "apart":
      return checkWords(fit.why, job, units).title.toLowerCase();
    case "too-weak":
      return fit.short === undefined
        ? "too weak"
        : `too weak by ${format(fit.short, "head", units)}`;
    case "too-strong":
      return "too strong: it runs past its published curve; throttle it, or a smaller one";
    case "fails": {
      const { title, sentence } = runFindingWords(fit.why, {
        ...{ body: () => "the water", keepOff: () => "", system: units },
      });
      return `over time: ${(title ?? sentence).toLowerCase()}`;
    }
    case "ranked": {
      if (fit.parts.flow === 0) {
        return `moves more than twice what is wanted: throttle it, or let it start and stop${best === own ? "" : ", or take a smaller one"}`;
      }
      if (best?.fit?.kind !== "ranked" || best === own) return undefined;
      const other = best.fit.parts;
      const behind = (merit: Merit) => weights[merit] * (other[merit] - fit.parts[merit]);
      const [worst] = (Object.keys(weights) as Merit[]).toSorted((a, b) => behind(b) - behind(a));
      return worst && behind(worst) > 0 ? lessOf(worst, own, best, units) : "as good as the best";
    }
    default:
      return undefined;
  }
}

/** By how much one is behind another in one thing. */
function lessOf(merit: Merit, own: Reasoned, best: Reasoned, units: UnitSystem): string {
  switch (merit) {
    case "energy": {
      if (own.work === undefined || best.work === undefined) return "its power is not published";
      return `takes ${formatPercent(own.work / best.work - 1)} more energy for the same water`;
    }
    case "price":
      if (own.price === undefined) return "its price is not known";
      return best.price === undefined
        ? "dearer"
        : `dearer by ${(own.price - best.price).toFixed(0)}`;
    case "weight":
      if (own.mass === undefined || best.mass === undefined) return "its weight is not known";
      return `heavier by ${format(own.mass - best.mass, "mass", units)}`;
    case "flow":
      return `moves ${own.flow === undefined ? "more" : format(own.flow, "flow", units)}: more than is wanted`;
    case "efficiency":
      return "runs further from its best";
    case "van":
      return "not in the van";
    case "spares":
      return "wearing parts are harder to have";
  }
}

/** How several pumps stand together. */
const TOGETHER: Record<"beside" | "after", string> = {
  beside: "side by side",
  after: "one after the other",
};

/** "Brackle Run 35", "2 × Tarnfold Pit 4, side by side", "Round 8 at 2660 rpm". */
export function arrangementName(
  { kind, speedRatio }: { kind: "one" | keyof typeof TOGETHER; speedRatio?: number },
  pumps: readonly PumpDocument[],
): string {
  const [first, second] = pumps.map(({ maker, model }) => `${maker} ${model}`);
  if (kind === "one") {
    const rpm = (speedRatio ?? 1) * (pumps[0]?.ratedSpeedRpm ?? 0);
    return speedRatio === undefined ? `${first}` : `${first} at ${rpm.toFixed(0)} rpm`;
  }
  return first === second
    ? `2 × ${first}, ${TOGETHER[kind]}`
    : `${first} and ${second}, ${TOGETHER[kind]}`;
}
