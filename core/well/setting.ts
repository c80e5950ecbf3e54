import type { Casing } from "../line/casing.ts";
import { FOOT } from "../quantity/constants.ts";

/** m of water a pump is kept under at its lowest, 3 ft, and m it hangs off the bottom, 5 ft. Common practice, no source. */
export const UNDER_WATER = 3 * FOOT;
export const OFF_BOTTOM = 5 * FOOT;
/** m the motor reaches below the intake where nobody says: 2 ft. Common practice, no source. */
export const USUAL_MOTOR = 2 * FOOT;
/** m all round without which a pump does not go down, and with which it does not stick. Common practice, no source. */
export const CLEARANCE = { least: 0.001, easy: 0.003 };

/** What a pump's depth is held against: m down from the casing's top, of the intake unless said. */
export interface SettingAsked {
  /** the lowest the water is pumped to; absent where no drawdown is known */
  lowestPumping?: number | undefined;
  bottom?: number | undefined;
  /** top of the screen; absent where there is none, or slots go all the way up */
  screenTop?: number | undefined;
  /** the highest the water stands, from where its own immersion counts */
  highestStanding: number;
  casings: readonly Casing[];
  /** a sleeve round the motor makes the water pass it wherever it comes in */
  sleeve?: number | undefined;
  /** m the motor reaches below the intake; as usual when absent */
  motor?: number | undefined;
  pump?:
    | {
        /** m across */
        diameter?: number | undefined;
        /** m of water over it that it bears, and m down that its cord reaches */
        greatestImmersion?: number | undefined;
        greatestDepth?: number | undefined;
      }
    | undefined;
}

export type SettingRule =
  | "under-water"
  | "off-bottom"
  | "above-screen"
  | "immersion"
  | "cord"
  | "casing";

/** One rule: the pump's intake not above, or not below, a depth in m. */
export interface SettingBound {
  rule: SettingRule;
  side: "not-above" | "not-below";
  depth: number;
}

export interface SettingWindow {
  bounds: SettingBound[];
  /** m, between which every rule that can be judged is kept; `to` above `from` where none is left */
  from: number;
  to: number;
  /** what sets each end */
  top?: SettingRule;
  foot?: SettingRule;
  /** what is not known, and has to be measured before its rule can be judged */
  missing: ("pumping-level" | "bottom" | "casing" | "width" | "immersion")[];
  motor: number;
}

/** Where a pump may hang in a well, with the reason for either end. */
export function settingWindow(asked: SettingAsked): SettingWindow {
  const { lowestPumping, bottom, screenTop, highestStanding, casings, sleeve, pump } = asked;
  const motor = asked.motor ?? USUAL_MOTOR;
  const bounds: SettingBound[] = [];
  const notBelow = (rule: SettingRule, depth: number | undefined) => {
    if (depth !== undefined) bounds.push({ rule, side: "not-below", depth });
  };
  if (lowestPumping !== undefined) {
    bounds.push({ rule: "under-water", side: "not-above", depth: lowestPumping + UNDER_WATER });
  }
  notBelow("off-bottom", bottom === undefined ? undefined : bottom - OFF_BOTTOM - motor);
  // Slots that begin above where the pump has to hang are slots all the way: no depth is above them.
  const slotted = screenTop !== undefined && screenTop <= (lowestPumping ?? highestStanding);
  if (screenTop !== undefined && !slotted && sleeve === undefined) {
    notBelow("above-screen", screenTop - motor);
  }
  const { greatestImmersion, greatestDepth, diameter } = pump ?? {};
  notBelow(
    "immersion",
    greatestImmersion === undefined ? undefined : highestStanding + greatestImmersion,
  );
  notBelow("cord", greatestDepth);
  // A sleeve's own wall counts as what it wants to go down easily.
  const across = Math.max(diameter ?? 0, sleeve === undefined ? 0 : sleeve + 2 * CLEARANCE.easy);
  if (across > 0) {
    const tight = casings.filter(({ bore }) => bore < across + 2 * CLEARANCE.least);
    // The motor is what sticks first.
    if (tight.length > 0)
      notBelow("casing", Math.max(Math.min(...tight.map(({ from }) => from)) - motor, 0));
  }
  const above = bounds.filter(({ side }) => side === "not-above");
  const below = bounds.filter(({ side }) => side === "not-below");
  const top = above.toSorted((a, b) => b.depth - a.depth)[0];
  const foot = below.toSorted((a, b) => a.depth - b.depth)[0];
  return {
    bounds,
    from: top?.depth ?? highestStanding,
    to: foot?.depth ?? Number.POSITIVE_INFINITY,
    ...(top && { top: top.rule }),
    ...(foot && { foot: foot.rule }),
    missing: [
      ...(lowestPumping === undefined ? (["pumping-level"] as const) : []),
      ...(bottom === undefined ? (["bottom"] as const) : []),
      ...(casings.length === 0 ? (["casing"] as const) : []),
      ...(pump && diameter === undefined ? (["width"] as const) : []),
      ...(pump && greatestImmersion === undefined ? (["immersion"] as const) : []),
    ],
    motor,
  };
}

/** The screen reaches so far up that a pump can only hang in it: water may come in above its motor. */
export const isSlotted = (screenTop: number | undefined, lowestPumping: number): boolean =>
  screenTop !== undefined && screenTop <= lowestPumping;
