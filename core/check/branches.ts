import { lostDerivation, outletDerivation } from "../formula/duty.ts";
import { derive, deriveOver, formula, sign, term } from "../formula/formula.ts";
import { DIFFERENCE, RATIO, SUM_OF_FLOWS } from "../formula/laws.ts";
import { NOTHING } from "../hydraulics/hydraulicModel.ts";
import { solveLine } from "../hydraulics/solveLine.ts";
import type { Stretch } from "../line/compiledLine.ts";
import { changeItems, type OutletItem, type PathItem } from "../line/path.ts";
import { holeService } from "../line/profile.ts";
import { delivers, wets } from "../outlet/outlets.ts";
import {
  check,
  type Found,
  LIMITS,
  lessIsWorse,
  moreIsWorse,
  PRACTICE,
  WORTH_SAYING,
  whileRunning,
} from "./check.ts";

/** Where the line parts, and what leaves it on the way. */

const BALANCE = "Balance of the network";

/** Water that runs against the path. */
export const branchRunsBack = check<{ why: "outlet" | "round" }>({
  quantity: "flow",
  each: "line",
  find: (context) =>
    whileRunning(context, ({ state }, { at }): Found<{ why: "outlet" | "round" }>[] => {
      let most = 0;
      let itemId: string | undefined;
      for (const [i, flow] of state.bySegment.entries()) {
        if (-flow <= Math.max(most, WORTH_SAYING)) continue;
        most = -flow;
        itemId = context.solution.line.segments[i]?.itemId;
      }
      if (itemId === undefined) return [];
      const why = state.byOutlet.some((flow) => flow < -NOTHING) ? "outlet" : "round";
      return [{ severity: "watch", at, itemId, value: most, source: BALANCE, facts: { why } }];
    }),
  rank: moreIsWorse,
  derive: ({ at, value }, { solution }) => {
    const { line, cases } = solution;
    const { state } = cases[at].running ?? { state: undefined };
    const index = state?.bySegment.indexOf(-value) ?? -1;
    const own = line.stretches.find(({ start, end }) => index >= start && index < end);
    const node =
      own &&
      nodeToBalance(
        own,
        line.outlets.map((o) => o.node),
      );
    if (node === 0) {
      // From the source straight to an outlet there is nothing to add up: the fall drives it.
      const flow = term(sign("Q", "driven back by the fall between its ends", "flow"), value);
      return [deriveOver(SUM_OF_FLOWS, [flow], { source: BALANCE })];
    }
    const parts = line.stretches.flatMap((other, i) => {
      if (other === own || (other.from !== node && other.to !== node)) return [];
      const flow = state?.byStretch[i] ?? 0;
      // Out of the node where the water runs back from, into it at the other end.
      const inward = other.to === node ? flow : -flow;
      return [own?.to === node ? inward : -inward];
    });
    const pumps = line.pumps.flatMap((pump, i) => {
      const flow = state?.byPump[i] ?? 0;
      const inward = pump.outlet === node ? flow : pump.inlet === node ? -flow : undefined;
      return inward === undefined ? [] : [own?.to === node ? inward : -inward];
    });
    const holes = line.holes.flatMap(({ node: at_ }, i) =>
      at_ === node
        ? [own?.to === node ? -(state?.lost[i]?.flow ?? 0) : (state?.lost[i]?.flow ?? 0)]
        : [],
    );
    const terms = [...parts, ...pumps, ...holes].map((flow, i) =>
      term(sign(`Q_${i + 1}`, "another way at the same place", "flow"), flow),
    );
    return [deriveOver(SUM_OF_FLOWS, terms, { title: "Mass balance where the ways meet" })];
  },
});

/** An end of a stretch at which flows add up to nothing: not the source, not an outlet. */
function nodeToBalance({ from, to }: Stretch, outlets: readonly number[]): number {
  return to !== 0 && !outlets.includes(to) ? to : from;
}

interface Dry {
  reached: number;
  asked: number;
  /** the head would do, and a valve is in the way */
  shut: boolean;
}

/** An outlet that no water reaches. */
export const outletDry = check<Dry>({
  quantity: "head",
  each: "item",
  find: (context) => {
    const { line } = context.solution;
    if (line.outlets.length < 2) return [];
    return whileRunning(context, ({ state }, { at, boundary }) =>
      line.outlets.flatMap(({ item, node }, i): Found<Dry>[] => {
        if (!delivers(item.outlet)) return [];
        if (Math.abs(state.byOutlet[i] as number) > WORTH_SAYING) return [];
        const into = line.stretches.find(({ to }) => to === node);
        const asked = boundary.outlets[i] as number;
        const reached = state.nodeHeads[into?.from ?? 0] as number;
        return [
          {
            severity: "stop",
            at,
            itemId: item.id,
            value: Math.max(asked - reached, 0),
            source: BALANCE,
            facts: { reached, asked, shut: into?.shut ?? false },
          },
        ];
      }),
    );
  },
  rank: moreIsWorse,
  derive: ({ facts }) => [
    derive(OUT_OF_REACH, [Math.max(facts.asked, facts.reached), facts.reached]),
  ],
});

const OUT_OF_REACH = formula({
  ...DIFFERENCE,
  title: "What is missing at the outlet",
  equation: "\\Delta = H_o - H",
  given: [
    sign("H_o", "asked for by the outlet", "head"),
    sign("H", "reached where its way begins", "head"),
  ],
});

/** Guns and sprinklers that are alike and share badly. */
export const outletsUneven = check<{ least: number; most: number }>({
  quantity: "ratio",
  each: "line",
  find: (context) => {
    const { line } = context.solution;
    const [first, ...others] = line.outlets;
    // Guns and sprinklers are there to wet evenly; a tap and a tank are not.
    const alike = others.every((outlet) => sameOutlet(outlet.item, first?.item));
    if (!first || !wets(first.item.outlet) || others.length === 0 || !alike) return [];
    return whileRunning(context, ({ state }, { at }) => {
      const least = Math.min(...state.byOutlet);
      const most = Math.max(...state.byOutlet);
      if (most <= NOTHING) return [];
      const value = least / most;
      const limit = LIMITS.evenness;
      const weakest = line.outlets[state.byOutlet.indexOf(least)];
      return [
        {
          severity: least <= 0 ? "stop" : value < limit ? "watch" : "good",
          at,
          itemId: weakest?.item.id as string,
          value,
          limit,
          source: PRACTICE,
          facts: { least, most },
        },
      ];
    });
  },
  rank: lessIsWorse,
  derive: ({ facts }) => [derive(EVENNESS, [facts.least, facts.most])],
});

const EVENNESS = formula({
  ...RATIO,
  title: "Weakest over strongest",
  equation: "\\frac{q_{min}}{q_{max}}",
  given: [sign("q_{min}", "least of the outlets", "flow"), sign("q_{max}", "most", "flow")],
});

function sameOutlet(a: OutletItem, b: OutletItem | undefined): boolean {
  return JSON.stringify(a.outlet) === JSON.stringify(b?.outlet);
}

/** What comes up at an open gully or catch basin that was joined to the pumped line. */
export const drainFloods = check<{ share: number }>({
  quantity: "flow",
  each: "item",
  find: (context) => {
    const { line } = context.solution;
    return whileRunning(context, ({ state, duty }, { at }) =>
      line.outlets.flatMap(({ item }, i): Found<{ share: number }>[] => {
        const value = state.byOutlet[i] as number;
        if (delivers(item.outlet) || value <= WORTH_SAYING) return [];
        const share = duty.flow > 0 ? value / duty.flow : 0;
        const source = "The head line stands over its rim";
        return [{ severity: "stop", at, itemId: item.id, value, source, facts: { share } }];
      }),
    );
  },
  rank: moreIsWorse,
  derive: ({ at, itemId }, { solution }) => outletDerivation(solution, at, itemId),
});

interface Wasted {
  share: number;
  leaks: boolean;
  /** part a smaller vent hole would waste, tried on the line; absent where none was, null where it would waste no less */
  smaller?: number | null;
}

/** What holes let go: a vent hole may waste a little, a leak nothing. */
export const holeWastes = check<Wasted>({
  quantity: "flow",
  each: "line",
  find: (context) =>
    whileRunning(context, ({ state, duty }, { at }): Found<Wasted>[] => {
      const { holes } = context.solution.line;
      const [hole] = holes;
      if (!hole) return [];
      const value = state.lost.reduce((sum, { flow }) => sum + flow, 0);
      const leaks = holes.some(({ purpose }) => purpose === "leak");
      const share = duty.flow > 0 ? value / duty.flow : 0;
      const severity = leaks || share > LIMITS.holeShare ? "watch" : "good";
      const source = "Orifice q = Cd A √(2gh), Cd 0.61; share common practice, no source";
      return [{ severity, at, itemId: hole.itemId, value, source, facts: { share, leaks } }];
    }),
  rank: moreIsWorse,
  complete: (found, context) => {
    const { facts, severity, at } = found;
    if (facts.leaks || severity === "good") return found;
    const { line, solution } = context;
    const path = changeItems<PathItem>(line.path, (item) =>
      item.kind === "orifice" && item.bore > SMALLEST_VENT
        ? { ...item, bore: SMALLEST_VENT }
        : item,
    );
    const pumps = solution.pumps.map(({ pump }) => pump);
    const tried = solveLine({ ...line, path }, pumps, solution.asked?.wanted);
    const running = tried.kind === "solved" ? tried.solution.cases[at].running : undefined;
    const lost = running?.state.lost.reduce((sum, { flow }) => sum + flow, 0);
    const share = running && lost !== undefined ? lost / running.duty.flow : undefined;
    const smaller = share !== undefined && share < 0.9 * facts.share ? share : null;
    return { ...found, facts: { ...facts, smaller } };
  },
  derive: ({ at }, { solution }) => lostDerivation(solution, at),
});

/** m: a vent hole smaller than this clogs before it lets the air out. Common practice, no source: 3 mm, 1/8 in. */
const SMALLEST_VENT = 0.003;

/** A vent hole where it does nothing against air. */
export const holeMisplaced = check<{ why: "above-check" | "no-check" }>({
  quantity: "head",
  each: "item",
  find: ({ solution: { line } }) =>
    line.holes.flatMap((hole): Found<{ why: "above-check" | "no-check" }>[] => {
      const why = hole.purpose === "vent-hole" ? holeService(line, hole) : "works";
      if (why === "works") return [];
      const value = hole.elevation - (line.pumps[0]?.elevation ?? 0);
      return [
        {
          severity: "watch",
          at: "normal",
          itemId: hole.itemId,
          value,
          source: PRACTICE,
          facts: { why },
        },
      ];
    }),
  rank: moreIsWorse,
  derive: ({ itemId }, { solution }) => {
    const { line } = solution;
    const hole = line.holes.find((own) => own.itemId === itemId);
    return [derive(HOLE_HEIGHT, [hole?.elevation ?? 0, line.pumps[0]?.elevation ?? 0])];
  },
});

const HOLE_HEIGHT = formula({
  ...DIFFERENCE,
  title: "Hole above the pump",
  equation: "h = z_h - z_p",
  given: [sign("z_h", "hole", "length"), sign("z_p", "pump", "length")],
});
