import type { JobDocument, JobPathItem, OverTimeDocument } from "#contract/documents/job.ts";
import { everyItem } from "#core/line/path.ts";
import type { Battery } from "#core/simulation/dynamics.ts";

/** Of a lead–acid battery: its exponent, and the hours its capacity is stated over. Common practice, no source. */
export const LEAD_ACID = { peukert: 1.2, ratedOver: 20 };
/** Of what turns a battery's current into the power of a pump. Common practice, no source. */
const USUAL_EFFICIENCY = 0.85;

/**
 * How long a battery lasts at a power: t = H (C / (I·H))^k with I = P / (V·η), the longer the less is drawn
 * (W. Peukert, Elektrotechnische Zeitschrift 20 (1897), from memory). With k = 1 it is t = C·V·η / P.
 * Undefined while its capacity or voltage is missing.
 */
export function batteryOf(given: OverTimeDocument["battery"]): Battery | undefined {
  const { ampereHours, volts, efficiency = USUAL_EFFICIENCY } = given ?? {};
  const { peukert = LEAD_ACID.peukert, ratedOver = LEAD_ACID.ratedOver } = given ?? {};
  if (!ampereHours || !volts) return undefined;
  return {
    lasts: (power) => {
      const current = power / (volts * efficiency);
      return 3600 * ratedOver * (ampereHours / (current * ratedOver)) ** peukert;
    },
  };
}

/** Places of the path whose pumps the battery feeds: those it is said to, and every one made for a battery. */
export function onBattery({
  path,
  pumps,
  overTime,
}: Pick<JobDocument, "path" | "pumps" | "overTime">): ReadonlySet<string> {
  const direct = new Set(pumps.flatMap(({ id, electric }) => (electric?.direct ? [id] : [])));
  const own = everyItem<JobPathItem>(path).flatMap((item) =>
    item.kind === "pump" && item.pump !== null && direct.has(item.pump) ? [item.id] : [],
  );
  return new Set([...(overTime?.battery?.pumps ?? []), ...own]);
}
