import { createEvents, type EventAttributes } from "ics";
import type { DayStep } from "#core/watering/dayPlan.ts";
import { clockAt, stepWords } from "#words/watering.ts";

/**
 * A day plan as a calendar file (iCalendar, RFC 5545): an event for every set and every stop for fuel, in the wall
 * clock of wherever it is opened.
 * @param day its first day, YYYY-MM-DD
 */
export function calendarFile(
  steps: readonly DayStep[],
  day: string,
  job: { id: string; name: string; place?: string | undefined },
): { ok: true; text: string } | { ok: false; message: string } {
  const events = steps.flatMap((step): EventAttributes[] => {
    if (step.kind !== "run" && step.kind !== "fuel") return [];
    const { title, note } = stepWords(step);
    return [
      {
        uid: `${job.id}-${day}-${step.kind}-${step.set + 1}@upright-gusher`,
        title: `${title}: ${job.name}`,
        description: note ?? `Runs to ${clockAt(step.to)}.`,
        ...(job.place && { location: job.place }),
        start: partsAt(day, step.from),
        end: partsAt(day, step.to),
        startInputType: "local",
        startOutputType: "local",
        endInputType: "local",
        endOutputType: "local",
        productId: "upright-gusher",
      },
    ];
  });
  const { error, value } = createEvents(events);
  return typeof value !== "string"
    ? { ok: false, message: error?.message ?? "There is nothing to put into it." }
    : { ok: true, text: value };
}

/** Year, month, day, hour and minute so many s after midnight of a day. Summer time is left to the calendar. */
function partsAt(day: string, seconds: number): [number, number, number, number, number] {
  const at = new Date(Date.parse(`${day}T00:00:00Z`) + Math.round(seconds / 60) * 60_000);
  return [
    at.getUTCFullYear(),
    at.getUTCMonth() + 1,
    at.getUTCDate(),
    at.getUTCHours(),
    at.getUTCMinutes(),
  ];
}
