import { checkContext, type Judgement, judge } from "../check/registry.ts";
import { type Running, type Solution, solveLine } from "../hydraulics/solveLine.ts";
import type { Line, PathItem } from "../line/path.ts";
import type { Pump, PumpPoint } from "../pump/pump.ts";

/** Lines, pumps and parts that the tests of the core build their cases from. */

export const pipe = (id: string, stock: string, length: number, rise = 0): PathItem => ({
  kind: "pipe",
  id,
  stock,
  length,
  rise,
});
export const set = (id: string, pump = "one"): PathItem => ({ kind: "pump", id, pump });
export const fitting = (id: string, name: string, over = {}): PathItem => ({
  kind: "fitting",
  id,
  fitting: name,
  count: 1,
  ...over,
});
export const check = (id: string): PathItem => fitting(id, "check-swing");
export const open = (id: string): PathItem => ({ kind: "outlet", id, outlet: { type: "free" } });
export const gun = (id: string, bore = 0.016): PathItem => ({
  kind: "outlet",
  id,
  outlet: { type: "nozzle", bore, dischargeCoefficient: 0.95 },
});
export const tank = (id: string, level: number): PathItem => ({
  kind: "outlet",
  id,
  outlet: { type: "submerged", level: { low: level, normal: level, high: level } },
});
export const hole = (
  id: string,
  purpose: "vent-hole" | "leak" = "vent-hole",
  bore = 0.004,
): PathItem => ({ kind: "orifice", id, purpose, bore });
export const split = (id: string, ...branches: PathItem[][]): PathItem => ({
  kind: "split",
  id,
  branches,
});

export const levels = (low: number, normal = low, high = normal) => ({ low, normal, high });

/** Open water at datum with the path's start a metre under it, clean and cool, at sea level. */
export function lineOf(path: PathItem[], over: Partial<Line> = {}): Line {
  return {
    source: { kind: "open", level: levels(0), intake: -1 },
    path,
    site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1 },
    method: { friction: "darcy-weisbach", fittings: "coefficient" },
    ...over,
  };
}

/** A pump by what a row of its table says at each flow, typed in L/s. */
export function tablePump(
  id: string,
  flows: readonly number[],
  row: (q: number) => Omit<PumpPoint, "flow">,
  over: Partial<Pump> = {},
): Pump {
  return {
    id,
    points: flows.map((q) => ({ flow: q * 1e-3, ...row(q) })),
    ratedSpeedRpm: 2900,
    drive: "electric",
    submersible: false,
    tolerance: "2B",
    ...over,
  };
}

/** A pump whose head falls as a parabola from shut-off to a tenth of it at the last flow. */
export function pumpOf(id: string, shutoff: number, last: number, over: Partial<Pump> = {}): Pump {
  const parts = Array.from({ length: 13 }, (_, i) => i / 12);
  const flows = parts.map((part) => part * last * 1e3);
  const row = (q: number) => {
    const part = q / (last * 1e3);
    return { head: shutoff * (1 - 0.9 * part ** 2), power: 900 + 720 * part };
  };
  return tablePump(id, flows, row, over);
}
export const one = pumpOf("one", 40, 0.02);
export const strong = pumpOf("strong", 70, 0.02);

export function solved(line: Line, pumps: readonly Pump[] = [one, strong]): Solution {
  const result = solveLine(line, pumps);
  if (result.kind !== "solved") throw new Error(JSON.stringify(result.diagnostics));
  return result.solution;
}

/** The normal case while water moves. */
export function running(line: Line, pumps?: readonly Pump[]): Running {
  const { normal } = solved(line, pumps).cases;
  if (!normal.running) throw new Error(JSON.stringify(normal.outcome));
  return normal.running;
}

export function judged(line: Line, pumps?: readonly Pump[], wantedFlow?: number): Judgement[] {
  return judge(checkContext(solved(line, pumps), line, wantedFlow));
}

/**
 * The curve of a half-horse sump pump as gpm and ft, by which the trade checks what a sticker says. Common practice,
 * no source.
 */
export const HALF_HORSE = [
  [0, 23],
  [25, 20],
  [45, 15],
  [61, 10],
  [72, 5],
  [80, 2],
] as const;
