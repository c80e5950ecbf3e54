import * as z from "zod";
import { text } from "./fields.ts";
import { quantity } from "./quantity.ts";
import { RANGES } from "./ranges.ts";

/** What a gun is, on the line of a job or among those the firm keeps. */
export const gunFields = {
  bore: quantity("diameter", RANGES.bore),
  /** the smaller nozzle beside it, that wets near the gun */
  spreaderBore: quantity("diameter", RANGES.bore).optional(),
  dischargeCoefficient: z.number().min(0.4).max(1),
  /** at its base, between which it throws as it should */
  leastPressure: quantity("pressure", RANGES.outletPressure).optional(),
  greatestPressure: quantity("pressure", RANGES.outletPressure).optional(),
  /** degrees over which it turns; the whole circle when absent */
  arc: z
    .number({ error: "The arc must be a number." })
    .min(10, "The arc cannot be less than 10°.")
    .max(360, "The arc cannot be more than 360°.")
    .optional(),
  /** degrees above level */
  trajectory: z
    .number({ error: "The trajectory must be a number." })
    .min(0, "The trajectory cannot be less than 0°.")
    .max(60, "The trajectory cannot be more than 60°.")
    .optional(),
  model: text(120).optional(),
  /** its maker's chart */
  chart: z
    .array(
      z.looseObject({
        pressure: quantity("pressure", RANGES.emitterPressure),
        flow: quantity("flow", RANGES.flow),
        radius: quantity("length", RANGES.throw),
      }),
    )
    .max(20, "A chart takes at most twenty rows.")
    .optional(),
};

/** A window whose least lies over its greatest, or a chart whose throw does not rise with pressure. */
export function gunIssues(gun: {
  leastPressure?: number | undefined;
  greatestPressure?: number | undefined;
  chart?: readonly { pressure: number; radius: number; flow: number }[] | undefined;
}): { path: (string | number)[]; message: string }[] {
  const { leastPressure: least, greatestPressure: most, chart = [] } = gun;
  const found: { path: (string | number)[]; message: string }[] = [];
  if (least !== undefined && most !== undefined && least > most) {
    const message = "The least pressure is above the greatest.";
    found.push({ path: ["leastPressure"], message });
  }
  const order = [...chart.keys()].sort(
    (a, b) => (chart[a]?.pressure ?? 0) - (chart[b]?.pressure ?? 0),
  );
  for (const [k, i] of order.entries()) {
    const [own, before] = [chart[i], chart[order[k - 1] ?? -1]];
    if (!own || !before) continue;
    if (own.pressure === before.pressure) {
      found.push({ path: ["chart", i, "pressure"], message: "Two rows have the same pressure." });
    } else if (own.flow <= before.flow || own.radius <= before.radius) {
      const message = "Flow and throw must rise with pressure from row to row.";
      found.push({ path: ["chart", i, "flow"], message });
    }
  }
  return found;
}
