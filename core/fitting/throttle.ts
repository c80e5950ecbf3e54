import type { FittingStock } from "../catalogue/fittings.ts";
import { lossCoefficient } from "./resistance.ts";

/**
 * Extra loss coefficient of a valve opened to a fraction of its travel, over that of the open valve.
 * `opening` 0 … 1; infinite when shut, zero when open and for fittings that are no valves.
 *
 * Gate valve (travel of the gate) and plug or ball valve (turn of the handle): tables of measured K in
 * Perry's Chemical Engineers' Handbook, from memory; between the rows ln K is drawn straight, below them K ∝ 1/opening². Globe and
 * angle valve: flow coefficient in proportion to the opening, K ∝ 1/opening², the linear characteristic.
 */
export function throttleCoefficient(fitting: FittingStock, bore: number, opening: number): number {
  if (opening >= 1 || !fitting.throttles) return 0;
  if (opening <= 0) return Number.POSITIVE_INFINITY;
  if (fitting.throttles === "linear") {
    return lossCoefficient(fitting, bore) * (1 / opening ** 2 - 1);
  }
  const table = EXTRA[fitting.throttles];
  const [least, most] = table.at(-1) as Row;
  // Below the last row the way left is as wide as the opening: K ∝ 1/opening², towards shut without end.
  if (opening < least) return most * (least / opening) ** 2;
  const after = table.findIndex(([row]) => row <= opening);
  const i = Math.max(after, 1);
  const [upper, lower] = [table[i - 1], table[i]] as [Row, Row];
  const part = (opening - lower[0]) / (upper[0] - lower[0]);
  return Math.exp(Math.log(lower[1]) + part * (Math.log(upper[1]) - Math.log(lower[1])));
}

type Row = readonly [opening: number, k: number];

/** K over that of the open valve, from nearly open downwards. */
const EXTRA: Record<"gate" | "plug", readonly Row[]> = {
  gate: [
    [1, 0.05],
    [3 / 4, 0.73],
    [1 / 2, 4.3],
    [1 / 4, 23.8],
  ],
  plug: [
    [1, 0.02],
    [80 / 90, 0.29],
    [70 / 90, 1.56],
    [50 / 90, 17.3],
    [30 / 90, 206],
  ],
};
