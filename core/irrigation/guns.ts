import type { NozzleOutlet } from "../outlet/gun.ts";
import { BAR } from "../quantity/constants.ts";

/** A sprinkler with the chart it is sold by. */
export interface GunStock extends Omit<NozzleOutlet, "type"> {
  id: string;
  model: string;
  /** m, bore of its base, where the pressure of its chart is read */
  inlet: number;
  chart: { pressure: number; flow: number; radius: number }[];
}

type Row = readonly [bar: number, cubicMetresAnHour: number, metres: number];

function gun(
  id: string,
  model: string,
  [bore, spreader, inlet]: readonly [number, number, number],
  trajectory: number,
  [least, greatest]: readonly [number, number],
  dischargeCoefficient: number,
  ...rows: readonly Row[]
): GunStock {
  const mm = 1e-3;
  return {
    ...{ id, model, dischargeCoefficient, trajectory },
    ...{ bore: bore * mm, spreaderBore: spreader * mm, inlet: inlet * mm },
    ...{ leastPressure: least * BAR, greatestPressure: greatest * BAR },
    chart: rows.map(([pressure, flow, radius]) => ({
      ...{ pressure: pressure * BAR, flow: flow / 3600, radius },
    })),
  };
}

/** Sprinklers to choose from. Makers, models and charts are invented. */
export const GUNS: readonly GunStock[] = [
  gun(
    ...(["hollin-lea-20", "Hollin Lea 20, 7 mm", [7, 3, 20], 27, [1.8, 4], 0.93] as const),
    ...([
      [1.75, 2.9, 11.5],
      [2.25, 3.3, 13],
      [3, 3.8, 14.5],
      [3.5, 4.1, 15.5],
      [4, 4.4, 16.5],
    ] as const),
  ),
  gun(
    ...(["hollin-mead-25", "Hollin Mead 25, 10 mm", [10, 4, 25], 25, [2, 4.5], 0.94] as const),
    ...([
      [2, 6.3, 15],
      [2.5, 7, 16.5],
      [3.25, 8, 18.5],
      [4, 8.9, 20.5],
      [4.5, 9.4, 21.5],
    ] as const),
  ),
  gun(
    ...([
      "hollin-mead-25-low",
      "Hollin Mead 25 low jet, 10 mm",
      [10, 4, 25],
      12,
      [2, 4.5],
      0.94,
    ] as const),
    ...([
      [2, 6.3, 12],
      [2.5, 7, 13],
      [3.25, 8, 15],
      [4, 8.9, 16],
      [4.5, 9.4, 17],
    ] as const),
  ),
  gun(
    ...(["hollin-broad-40", "Hollin Broad 40, 13 mm", [13, 6, 40], 24, [2.5, 5.5], 0.95] as const),
    ...([
      [2.5, 12.5, 19.8],
      [3.25, 14.2, 22.3],
      [4, 15.8, 24.4],
      [4.75, 17.2, 26.6],
      [5.5, 18.5, 28.2],
    ] as const),
  ),
  gun(
    ...(["hollin-broad-40-16", "Hollin Broad 40, 16 mm", [16, 6, 40], 24, [2.8, 6], 0.95] as const),
    ...([
      [2.75, 18.7, 24],
      [3.5, 21.1, 27],
      [4.5, 23.9, 30],
      [5.25, 25.8, 32],
      [6, 27.6, 34],
    ] as const),
  ),
  gun(
    ...(["hollin-broad-50", "Hollin Broad 50, 20 mm", [20, 8, 50], 26, [3, 6.5], 0.95] as const),
    ...([
      [3, 31, 28.5],
      [4, 35.8, 32.5],
      [4.75, 39, 35],
      [5.5, 42, 37.5],
      [6.5, 45.7, 40.5],
    ] as const),
  ),
];

export function findGun(id: string): GunStock | undefined {
  return GUNS.find((own) => own.id === id);
}

/** What a line keeps of a gun: all of it that is not the catalogue's own. */
export function outletOf({ id: _, inlet: _inlet, ...gun }: GunStock): NozzleOutlet {
  return { type: "nozzle", ...gun };
}
