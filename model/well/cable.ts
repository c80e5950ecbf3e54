import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { feeds } from "#core/check/placing.ts";
import {
  type CableChoice,
  type CableRow,
  cableRows,
  cheapestCable,
} from "#core/driving/cableChoice.ts";
import { type Conductor, findConductor } from "#core/driving/conductor.ts";
import { currentOf, USUAL_POWER_FACTOR, USUAL_START } from "#core/driving/motor.ts";
import type { Solution } from "#core/hydraulics/solveLine.ts";
import type { Supply } from "#core/line/path.ts";
import type { JobWithWell } from "./season.ts";
import { pumpDepth } from "./settle.ts";

export interface CableResult {
  /** m along the ground and down the well */
  run: number;
  down: number;
  heavier: boolean;
  /** absent while the motor is not known */
  motor?: {
    current: number;
    /** by its plate, or from the power it takes with a usual power factor */
    currentFrom: "plate" | "power";
    starting: number;
    startingAssumed: boolean;
    volts: number;
    phase: 1 | 3;
    breaker?: number;
  };
  rows: CableRow[];
  choice?: CableChoice;
  /** the conductor the job has */
  chosen?: string;
  lacks: ("pump" | "current" | "volts")[];
}

/** The cable from a job's supply to its motor in each size, the sizes measured as those of its country are. */
export function cableOf(
  job: JobWithWell,
  solution: Solution | undefined,
  pump: PumpDocument | undefined,
): CableResult {
  const { well, site } = job;
  const run = well?.cable?.run ?? 0;
  const down = Math.max(pumpDepth(job), 0);
  const heavier = well?.cable?.heavier ?? true;
  const chosen = site.cable?.conductor;
  const base = { run, down, heavier, rows: [], ...(chosen && { chosen }) };
  if (!pump || !solution || solution.asked) return { ...base, lacks: ["pump"] };
  const plate = pump.electric ?? {};
  const supplies = (site.supplies ?? []) as NonNullable<JobDocument["site"]["supplies"]>;
  const supply =
    supplies.find((own) => feeds(own as Supply, pump)) ??
    supplies.find((own) => feeds(own as Supply, pump) === undefined);
  const volts = plate.volts ?? supply?.volts;
  const phase = plate.phase ?? 1;
  const most = mostPower(pump);
  const current =
    plate.runningCurrent ??
    (volts !== undefined && most !== undefined
      ? currentOf(most, volts, plate.powerFactor ?? USUAL_POWER_FACTOR, phase)
      : undefined);
  if (volts === undefined || current === undefined) {
    return { ...base, lacks: [volts === undefined ? "volts" : "current"] };
  }
  const starting = plate.startingCurrent ?? USUAL_START * current;
  const breaker = supply?.breaker;
  const typed = new Map(
    (well?.cables ?? []).flatMap((own) => (own.conductor ? [[own.conductor, own] as const] : [])),
  );
  const rows = cableRows(alikeOf(well?.cable?.sizes, chosen, volts), {
    ...{ run, down, heavier, current, starting, phase, typed },
    volts: supply?.volts ?? volts,
    breaker,
  });
  return {
    ...base,
    motor: {
      ...{ current, starting, volts: supply?.volts ?? volts, phase },
      currentFrom: plate.runningCurrent === undefined ? "power" : "plate",
      startingAssumed: plate.startingCurrent === undefined,
      ...(breaker !== undefined && { breaker }),
    },
    rows,
    choice: cheapestCable(rows),
    lacks: [],
  };
}

/** Sizes as they are asked for, else like the one chosen; while none is, American ones on American voltages. */
function alikeOf(
  sizes: "awg" | "mm2" | "mm2stranded" | undefined,
  chosen: string | undefined,
  volts: number,
): Conductor {
  const american = [115, 120, 208, 240, 460, 480].includes(volts);
  const way = sizes ?? chosen?.split("-")[0] ?? (american ? "awg" : "mm2");
  return findConductor(way === "awg" ? "awg-12" : `${way}-2-5`) as Conductor;
}

/** W at the worst place of its curve: a cable is not chosen for a throttled pump. */
function mostPower({ points }: PumpDocument): number | undefined {
  const powers = points.flatMap(({ power }) => (power === undefined ? [] : [power]));
  return powers.length > 0 ? Math.max(...powers) : undefined;
}
