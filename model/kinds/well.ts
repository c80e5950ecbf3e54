import { OFF_BOTTOM, UNDER_WATER, USUAL_MOTOR } from "#core/well/setting.ts";
import { usualTank } from "../well/usual.ts";
import { type JobKind, runOf } from "./kind.ts";

/** Draw from a well: the pump hangs in the casing. Measured down from the casing's top. */
export const well: JobKind = {
  demands: ["flow"],
  decisions: ["pump", "hang", "drop-pipe", "cable", "pre-charge", "tank"],
  asks: () => ["bottom", "standing", "pumped", "up", "along", "flow"],
  offers: () => ["dry", "casing", "pressure"],
  usual: (m) => ({
    ...{ bottom: 60 * m, standing: 30 * m, pumped: 30 * m, up: m, along: 20 * m, flow: 1e-3 },
    ...{ casing: m < 1 ? 0.1016 : 0.1, pressure: m < 1 ? 275_790 : 300_000 },
  }),
  clash: ({ bottom, standing, pumped, dry }) => {
    if (standing !== undefined && pumped !== undefined && pumped < standing) {
      return { at: "pumped", why: "above-standing-water" };
    }
    if (standing !== undefined && dry !== undefined && dry < standing) {
      return { at: "dry", why: "wetter-when-dry" };
    }
    for (const at of ["standing", "pumped", "dry"] as const) {
      const level = { standing, pumped, dry }[at];
      if (bottom === undefined || level === undefined) continue;
      if (level >= bottom) return { at, why: "below-the-bottom" };
      if (level >= bottom - OFF_BOTTOM - USUAL_MOTOR)
        return { at: "bottom", why: "bottom-too-near" };
    }
    return undefined;
  },
  begin(of, typed, _demand, m) {
    const standing = of("standing");
    const flow = typed("flow") ? of("flow") : undefined;
    const drawn = Math.max(0, of("pumped") - standing);
    // Another season is not known until somebody measures it, and taken as this one.
    const level = {
      low: typed("dry") ? -of("dry") : -standing,
      normal: -standing,
      high: -standing,
    };
    // Halfway to the lowest it may hang, and no more than 15 m under the lowest pumping level: in hand for a dry year.
    const lowest = drawn - level.low;
    const foot = of("bottom") - OFF_BOTTOM - USUAL_MOTOR;
    const seat = Math.min(Math.max((lowest + foot) / 2, lowest + UNDER_WATER), lowest + 15 * m);
    const drop = Math.max(Math.min(seat, foot), 1);
    const stock = m < 1 ? "pe-sidr7-1-1-4in" : "pe100-sdr11-40mm";
    const pressure = of("pressure");
    return {
      datum: "the casing’s top",
      source: {
        kind: "well",
        level,
        intake: -drop,
        drawdown: { linear: flow ? Math.min(drawn / flow, MOST_DRAWDOWN) : 0, quadratic: 0 },
      },
      path: [
        { kind: "pump", id: "pump", pump: null },
        {
          ...{ kind: "fitting", id: "check", fitting: "check-lift", count: 1 },
          stock,
        },
        { kind: "pipe", id: "drop-pipe", stock, ...runOf(0, drop) },
        { kind: "fitting", id: "elbow", fitting: "elbow-90", count: 1 },
        {
          ...{ kind: "pipe", id: "run", stock },
          ...runOf(of("along"), of("up")),
        },
        {
          ...{ kind: "outlet", id: "tank" },
          outlet: pressure > 0 ? { type: "pressure", pressure } : { type: "free" },
        },
      ],
      site: { standsAt: "casing", measuredFrom: "casing-top" },
      well: {
        bottom: of("bottom"),
        casings: [{ bore: of("casing"), from: 0, to: of("bottom") }],
        ...(m < 1 && { cable: { sizes: "awg" as const } }),
        ...(flow && drawn > 0 && { steps: [{ flow, level: of("pumped") }] }),
      },
      ...(pressure > 0 && { pressureTank: usualTank(pressure, m) }),
      ...(flow && { wantedFlow: flow, need: { kind: "typed", flow } }),
    };
  },
  restsOn: {
    "source.level.low": ["dry"],
    "source.level.normal": ["standing"],
    "source.level.high": [],
    "source.drawdown": ["pumped", "flow"],
    "source.intake": [],
    "path.check": [],
    "path.drop-pipe.stock": [],
    "path.elbow": [],
    "path.run.stock": [],
    "path.run.length": ["along"],
    "path.run.rise": ["up"],
    "path.tank": ["pressure"],
    "well.bottom": ["bottom"],
    "well.casings": ["casing"],
    pressureTank: [],
  },
};

/** m of drawdown for each m³/s: what a job takes at most. */
const MOST_DRAWDOWN = 1e7;
