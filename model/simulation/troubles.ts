import type { JobDocument } from "#contract/documents/job.ts";
import type { Trouble } from "#core/simulation/answers.ts";
import { bottomOf, depthOf, storeOf } from "../demand/bodies.ts";
import { onBattery } from "./battery.ts";

/** Everything in the bodies of water, the floats, the storm and the battery that cannot be so. */
export function troublesOf(
  job: Pick<JobDocument, "source" | "path" | "pumps" | "bodies" | "overTime">,
): Trouble[] {
  const { bodies = [], overTime: time = {} } = job;
  const found: Trouble[] = [];
  for (const [i, body] of bodies.entries()) {
    const at = `bodies.${i}.shape`;
    if (body.shape.kind === "table") {
      const { rows } = body.shape;
      const row = rows.findIndex((own, n) => n > 0 && own.depth <= (rows[n - 1]?.depth ?? 0));
      if (row > 0) found.push({ code: "rows-not-rising", at, row: row + 1, stops: true });
    }
    const store = storeOf(body, 0);
    if (!(depthOf(body.shape) > 0) || !(store.volumeAt(store.rim) > 0)) {
      found.push({ code: "no-area", at, stops: true });
    }
  }
  if (found.some(({ stops }) => stops)) return found;

  let lead: { on: number; body: string } | undefined;
  for (const [i, control] of (time.controls ?? []).entries()) {
    if (control.kind !== "float" && control.kind !== "alarm") continue;
    const body = bodies.find(({ id }) => id === control.body);
    if (!body) continue;
    const bottom = bottomOf(body, job);
    const rim = bottom + depthOf(body.shape);
    const at = `overTime.controls.${i}`;
    const levels = control.kind === "alarm" ? { at: control.at } : floatLevels(control);
    for (const [field, level] of Object.entries(levels)) {
      if (level > rim + SLACK) {
        found.push({ code: "float-over-rim", at: `${at}.${field}`, level, rim, stops: true });
      }
      if (level < bottom - SLACK) {
        found.push({
          code: "float-under-bottom",
          at: `${at}.${field}`,
          level,
          bottom,
          stops: true,
        });
      }
    }
    if (control.kind === "alarm") continue;
    const { on, off, role } = control;
    // In the water that is pumped a float starts high and stops low; in water that is filled the other way round.
    const fills = !("body" in job.source) || job.source.body !== control.body;
    if (role !== "guard" && (fills ? on >= off : on <= off)) {
      found.push({ code: "floats-crossed", at: `${at}.on`, on, off, stops: true });
    }
    if (role === "lead") lead = { on, body: body.id };
    if (role === "lag" && lead?.body === body.id && (fills ? on >= lead.on : on <= lead.on)) {
      found.push({ code: "lag-under-lead", at: `${at}.on`, on, off: lead.on, stops: false });
    }
  }
  const { hyetograph = [], powerCut, battery } = time;
  const row = hyetograph.findIndex((own, n) => n > 0 && own.from <= (hyetograph[n - 1]?.from ?? 0));
  if (row > 0) {
    found.push({ code: "rows-not-rising", at: "overTime.hyetograph", row: row + 1, stops: true });
  }
  if (powerCut && powerCut.to <= powerCut.from) {
    found.push({ code: "power-back-before-cut", at: "overTime.powerCut.to", stops: true });
  }
  if (onBattery(job).size > 0 && !(battery?.ampereHours && battery.volts)) {
    found.push({ code: "no-battery", at: "overTime.battery", stops: false });
  }
  return found;
}

const floatLevels = ({ on, off }: { on: number; off: number }) => ({ on, off });

/** m: a float at the very rim is not over it. */
const SLACK = 1e-6;
