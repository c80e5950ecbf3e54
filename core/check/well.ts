import { WATER_LEVELS, type WaterLevel } from "../fluid/levels.ts";
import { derive, formula, sign } from "../formula/formula.ts";
import { DIFFERENCE, DRAWDOWN, STATIC_PRESSURE } from "../formula/laws.ts";
import { WATER_OVER_INTAKE } from "../formula/well.ts";
import { pressureHead } from "../hydraulics/boundary.ts";
import { shutHeads } from "../hydraulics/shutHeads.ts";
import { type Solution, stateOf } from "../hydraulics/solveLine.ts";
import { type Line, levelsOf } from "../line/path.ts";
import { keptPressure } from "../outlet/outlets.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { flowDrawing } from "../well/drawdown.ts";
import {
  type SettingRule,
  type SettingWindow,
  settingWindow,
  UNDER_WATER,
} from "../well/setting.ts";
import { type CheckContext, check, type Found, lessIsWorse, PRACTICE } from "./check.ts";

/** What a well and its pressure tank allow. Depths are down from the casing's top. */

interface Drawn {
  /** m³/s, and m drawn down at it */
  flow: number;
  drawdown: number;
  /** m³/s the well gives with 3 ft of water left over the intake */
  gives: number;
  /** m³/s up to which its drawdown was measured; null where it never was */
  testedTo: number | null;
}

/** Water over the intake while it runs: none of it, and the well is pumped dry. */
export const wellDry = check<Drawn>({
  quantity: "length",
  each: "line",
  find: (context) => {
    const { line } = context.solution;
    const { source } = line;
    if (source.kind !== "well") return [];
    const { steps } = context.line.well ?? {};
    const { linear, quadratic } = source.drawdown;
    const known = linear > 0 || quadratic > 0;
    const testedTo = steps && steps.length > 0 ? Math.max(...steps.map(({ flow }) => flow)) : null;
    return WATER_LEVELS.flatMap((at): Found<Drawn>[] => {
      const surface = lowestSurface(context.solution, context.line, at);
      if (surface === undefined) return [];
      const value = surface - source.intake;
      const standing = levelsOf(source)[at];
      const drawdown = standing - surface;
      const flow = flowDrawing(source.drawdown, drawdown);
      const beyond = testedTo !== null && flow > testedTo * PAST_TEST;
      return [
        {
          severity: value <= 0 ? "stop" : !known || beyond ? "unknown" : "good",
          ...{ at, value, limit: 0, source: DRAWDOWN.source },
          facts: {
            flow: known ? flow : 0,
            drawdown,
            gives: flowDrawing(source.drawdown, standing - source.intake - UNDER_WATER),
            testedTo,
          },
        },
      ];
    });
  },
  rank: ({ value }) => -value,
  derive: ({ at, facts }, { solution }) => {
    const { source } = solution.line;
    if (source.kind !== "well") return [];
    const { linear, quadratic } = source.drawdown;
    const drawn = derive(DRAWDOWN, [linear, quadratic, facts.flow]);
    return [
      drawn,
      derive(WATER_OVER_INTAKE, [source.level[at], drawn.result.value, source.intake]),
    ];
  },
});

/**
 * The lowest the water of a well is pumped to at a season, in m above datum: where a switch lets the tank's pressure fall
 * to its cut-in the pump gives most there. Undefined while nothing runs.
 */
export function lowestSurface(
  { line, model, states, boundaries, cases, water }: Solution,
  { pressureTank }: Pick<Line, "pressureTank">,
  at: WaterLevel,
): number | undefined {
  const running = cases[at].running;
  if (!running) return undefined;
  const surface = running.state.nodeHeads[line.intakeNode] as number;
  const { cutIn } = pressureTank ?? {};
  if (cutIn === undefined) return surface;
  const boundary = boundaries[at];
  const outlets = line.outlets.map(({ item, elevation }, i) => {
    const kept = keptPressure(item.outlet);
    return kept === undefined
      ? (boundary.outlets[i] as number)
      : elevation + pressureHead(Math.min(cutIn, kept), water);
  });
  const state = stateOf(model.solve({ ...boundary, outlets }, states, running.state));
  return Math.min(surface, (state?.nodeHeads[line.intakeNode] as number | undefined) ?? surface);
}

/** A flow is one that was tested up to this many times the largest step. */
const PAST_TEST = 1.02;

interface Hung {
  /** m down, of the intake */
  depth: number;
  from: number;
  /** null where nothing known limits it */
  to: number | null;
  /** what it breaks, or what sets the ends that leave nothing between them */
  rule: SettingRule | null;
  other: SettingRule | null;
  missing: SettingWindow["missing"];
}

/** The depth a pump hangs at against every rule for it. */
export const wellSetting = check<Hung>({
  quantity: "length",
  each: "item",
  find: (context) => {
    const { line, pumps } = context.solution;
    if (line.source.kind !== "well") return [];
    return line.pumps.flatMap((placed, i): Found<Hung>[] => {
      const pump = pumps[i]?.pump;
      const asked = context.solution.asked !== undefined;
      // One at the top draws, and is judged by its suction.
      if (!pump || placed.elevation > levelsOf(line.source).high) return [];
      if (!asked && !pump.submersible) return [];
      const top = context.line.well?.top ?? 0;
      const depth = top - placed.elevation;
      const window = windowOf(context, asked ? undefined : pump);
      const { from, to, missing } = window;
      const empty = to < from;
      const [rule, other] = brokenBy(window, depth);
      const unknown = missing.includes("bottom") || missing.includes("pumping-level");
      const severity = empty
        ? "stop"
        : rule === "under-water"
          ? "watch"
          : rule
            ? "stop"
            : unknown
              ? "unknown"
              : "good";
      return [
        {
          severity,
          at: "low",
          itemId: placed.item.id,
          value: depth,
          limit: rule === "under-water" || !Number.isFinite(to) ? from : to,
          source: PRACTICE,
          facts: {
            ...{ depth, from, to: Number.isFinite(to) ? to : null, missing },
            ...{ rule: rule ?? null, other: other ?? null },
          },
        },
      ];
    });
  },
  rank: ({ facts }) =>
    facts.to === null
      ? facts.from - facts.depth
      : Math.max(facts.depth - facts.to, facts.from - facts.to),
  derive: ({ facts }, context) => {
    const top = context.line.well?.top ?? 0;
    return [derive(DOWN, [top, top - facts.depth])];
  },
});

const DOWN = formula({
  ...DIFFERENCE,
  title: "Depth of the pump",
  equation: "d = z_t - z_p",
  given: [sign("z_t", "casing’s top", "length"), sign("z_p", "pump’s intake", "length")],
  result: sign("d", "depth of the pump", "length"),
});

/** What of a pump its window depends on. */
type HungPump = Pick<Pump, "diameter" | "greatestImmersion" | "greatestDepth">;

/** The window a pump of this job may hang in, by the lowest the water is pumped to at any season. */
export function windowOf(
  { solution, line }: Pick<CheckContext, "solution" | "line">,
  pump: HungPump | undefined,
): SettingWindow {
  const { source } = line;
  const known =
    source.kind === "well" && (source.drawdown.linear > 0 || source.drawdown.quadratic > 0);
  const surfaces = WATER_LEVELS.flatMap((at) => lowestSurface(solution, line, at) ?? []);
  return windowFor(line, known && surfaces.length > 0 ? Math.min(...surfaces) : undefined, pump);
}

/** The same where the lowest water, in m above datum, is known already, or is not known at all. */
export function windowFor(
  { source, well = {} }: Pick<Line, "source" | "well">,
  lowest: number | undefined,
  pump: HungPump | undefined,
): SettingWindow {
  const { top = 0, bottom, screen, casings = [], sleeve, motor } = well;
  return settingWindow({
    ...(lowest !== undefined && { lowestPumping: top - lowest }),
    ...{ bottom, screenTop: screen?.from, highestStanding: top - levelsOf(source).high },
    ...{ casings, sleeve, motor, pump },
  });
}

/** What a depth breaks; of a window that is empty, what sets its ends. Immersion alone is told of elsewhere. */
function brokenBy({ bounds, from, to, top, foot }: SettingWindow, depth: number) {
  if (to < from) return [foot, top];
  if (depth < from - NEAR && top) return [top];
  const broken = bounds
    .filter(
      ({ side, rule, depth: own }) =>
        side === "not-below" && rule !== "immersion" && depth > own + NEAR,
    )
    .toSorted((a, b) => a.depth - b.depth)[0];
  return [broken?.rule];
}

/** m: a depth is kept to this. */
const NEAR = 0.005;

/** The most pressure the pump makes at its tank, against where its switch is to stop it. */
export const cutOutReached = check<{ cutOut: number }>({
  quantity: "pressure",
  each: "item",
  find: (context) => {
    const { line, boundaries, states, water, asked } = context.solution;
    const cutOut = context.line.pressureTank?.cutOut;
    if (cutOut === undefined || asked) return [];
    return WATER_LEVELS.flatMap((at) => {
      const shut = shutHeads(line, boundaries[at], states);
      return line.outlets.flatMap(({ item, node, elevation }): Found<{ cutOut: number }>[] => {
        if (keptPressure(item.outlet) === undefined) return [];
        const { head = elevation, published = false } = shut[node] ?? {};
        const value = (head - elevation) * water.density * GRAVITY;
        const severity = !published
          ? value > cutOut
            ? "good"
            : "unknown"
          : value <= cutOut
            ? "stop"
            : value < CUT_OUT_RESERVE * cutOut
              ? "watch"
              : "good";
        return [
          {
            severity,
            at,
            itemId: item.id,
            value,
            limit: cutOut,
            source: PRACTICE,
            facts: { cutOut },
          },
        ];
      });
    });
  },
  rank: lessIsWorse,
  derive: ({ at, itemId }, { solution }) => {
    const { line, boundaries, states, water } = solution;
    const outlet = line.outlets.find(({ item }) => item.id === itemId) ?? line.outlets[0];
    const shut = outlet && shutHeads(line, boundaries[at], states)[outlet.node];
    const names = { 1: "the water’s level and the most the pump can add", 2: "the tank" };
    return [
      derive(STATIC_PRESSURE, [water.density, shut?.head ?? 0, outlet?.elevation ?? 0], { names }),
    ];
  },
});

/** Times its cut-out that a pump should be able to make, so that wear and a dry year do not leave it running. Common practice, no source. */
const CUT_OUT_RESERVE = 1.1;
