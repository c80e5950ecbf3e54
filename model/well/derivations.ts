import type { JobDocument } from "#contract/documents/job.ts";
import { findConductor } from "#core/driving/conductor.ts";
import { atmosphericPressure } from "#core/fluid/atmosphere.ts";
import { waterAt } from "#core/fluid/water.ts";
import { type Derivation, derive } from "#core/formula/formula.ts";
import { DRAWDOWN } from "#core/formula/laws.ts";
import {
  AIR_LIFTS,
  AIR_STARTS,
  ALL_STARTS,
  BOYLE,
  CYLINDER,
  HANDLE,
  IN_CASING,
  LIFT_AND_CUT_OUT,
  LOWEST_PUMPING,
  NOT_ABOVE,
  NOT_BELOW,
  RECOVERS,
  SETTLES,
  TANK_FOR,
  VOLTAGE_IN_ALL,
  VOLTAGE_LOST,
  WELL_GIVES,
} from "#core/formula/well.ts";
import { GRAVITY } from "#core/quantity/constants.ts";
import { HANDLE_LOSS } from "#core/well/handPump.ts";
import { tankGives } from "#core/well/pressureTank.ts";
import { OFF_BOTTOM, UNDER_WATER } from "#core/well/setting.ts";
import type { OtherPumpsResult } from "./otherPumps.ts";
import type { WellResult } from "./well.ts";

/** Figures of a well that show their working. */
export const WELL_FIGURES = [
  "pumping",
  "gives",
  "settles",
  "casing",
  "highest",
  "lowest",
  "cut-out",
  "cable",
  "tank",
  "minute",
  "starts",
  "handle",
  "air-start",
  "air-flow",
] as const;
export type WellFigure = (typeof WELL_FIGURES)[number];

/** How a figure comes about; nothing while it is not told. */
export function wellDerivation(
  figure: WellFigure,
  job: JobDocument,
  told: WellResult,
  others?: OtherPumpsResult,
): Derivation | undefined {
  const { source, site, well } = job;
  const { tank, seasons, window, casing, dropPipe, cable } = told;
  const [dry, , wet] = seasons;
  const { linear, quadratic } =
    source.kind === "well" ? source.drawdown : { linear: 0, quadratic: 0 };
  const water = waterAt(site.waterTemperature, site.specificGravity);
  const drawn =
    dry?.flow !== undefined ? derive(DRAWDOWN, [linear, quadratic, dry.flow]) : undefined;
  switch (figure) {
    case "pumping":
      return dry && drawn
        ? [drawn, derive(LOWEST_PUMPING, [dry.standing, drawn.result.value])]
        : undefined;
    case "gives":
      return dry?.gives === undefined
        ? undefined
        : [derive(WELL_GIVES, [linear, quadratic, told.depth - UNDER_WATER - dry.standing])];
    case "settles": {
      if (!casing || !dry?.flow || !dry.drawdown) return undefined;
      const tau = derive(SETTLES, [casing.area, linear > 0 ? linear : dry.drawdown / dry.flow]);
      return [tau, derive(RECOVERS, [tau.result.value, 0.1])];
    }
    case "casing":
      return casing && dry?.drawdown ? [derive(IN_CASING, [casing.area, dry.drawdown])] : undefined;
    case "highest":
      return window.top === "under-water"
        ? [derive(NOT_ABOVE, [window.from - UNDER_WATER])]
        : undefined;
    case "lowest": {
      const bound = window.bounds.find(
        ({ rule, side }) => side === "not-below" && rule === window.foot,
      );
      if (!bound) return undefined;
      const room = bound.rule === "off-bottom" ? OFF_BOTTOM : 0;
      const hasMotor = bound.rule !== "immersion" && bound.rule !== "cord";
      const motor = hasMotor ? window.motor : 0;
      return [derive(NOT_BELOW, [bound.depth + room + motor, room, motor])];
    }
    case "cut-out":
      return dropPipe.lift !== undefined && dropPipe.cutOut !== undefined
        ? [derive(LIFT_AND_CUT_OUT, [water.density, GRAVITY, dropPipe.lift, dropPipe.cutOut])]
        : undefined;
    case "cable": {
      const row =
        cable.rows.find(({ conductor }) => conductor.id === shownCable(told)) ?? undefined;
      const conductor = row && findConductor(row.conductor.id);
      if (!row || !conductor || !cable.motor) return undefined;
      const { current, phase } = cable.motor;
      const down = derive(VOLTAGE_LOST, [cable.down, current, conductor.resistance, phase], {
        title: "Down the well",
      });
      if (cable.run <= 0) return [down];
      const along = derive(VOLTAGE_LOST, [cable.run, current, row.ground.resistance, phase], {
        title: `Buried run, ${row.ground.label}`,
      });
      return [along, down, derive(VOLTAGE_IN_ALL, [along.result.value, down.result.value])];
    }
    case "tank":
    case "minute": {
      const { volume, preCharge, cutIn, cutOut } = tank.tank;
      const air = atmosphericPressure(site.altitude);
      if (figure === "tank") return [derive(BOYLE, [volume, preCharge, cutIn, cutOut, air])];
      return tank.flow === undefined
        ? undefined
        : [derive(TANK_FOR, [60 * tank.flow, preCharge, cutIn, cutOut, air])];
    }
    case "starts": {
      const worst = tank.switched?.worst;
      if (!worst || !Number.isFinite(worst.run) || worst.use <= 0) return undefined;
      const { volume, preCharge, cutIn, cutOut } = tank.tank;
      const gives = tankGives(volume, preCharge, cutIn, cutOut, tank.air);
      return [derive(ALL_STARTS, [worst.run, gives / worst.use])];
    }
    case "handle": {
      const { hand } = well ?? {};
      if (!hand || !others?.hand) return undefined;
      const area = derive(CYLINDER, [hand.bore]);
      return [
        area,
        derive(HANDLE, [
          water.density,
          others.hand.lift,
          area.result.value,
          hand.leverage,
          HANDLE_LOSS,
        ]),
      ];
    }
    case "air-start":
      return well?.air && wet
        ? [derive(AIR_STARTS, [water.density, Math.max(well.air.foot - wet.standing, 0)])]
        : undefined;
    case "air-flow": {
      const air = others?.air;
      if (!well?.air || air?.result.kind !== "lifts") return undefined;
      const { efficiency } = air.result;
      return [
        derive(AIR_LIFTS, [
          ...[efficiency, well.air.flow, well.air.foot - air.pumping, air.lift, water.density],
          atmosphericPressure(site.altitude),
        ] as [number, number, number, number, number, number]),
      ];
    }
  }
}

/** The conductor the figures of the cable are about: the one chosen, else the cheapest. */
export function shownCable({ cable }: Pick<WellResult, "cable">): string | undefined {
  const cheapest = cable.choice?.kind === "none" ? undefined : cable.choice?.row.conductor.id;
  return cable.rows.some(({ conductor }) => conductor.id === cable.chosen)
    ? cable.chosen
    : cheapest;
}
