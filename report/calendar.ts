import { createEvents, type EventAttributes } from "ics";
import type { DayStep } from "#core/irrigation/dayPlan.ts";
import { formatClock, stepWords } from "#words/irrigation.ts";

/**
 * A day plan as a calendar file (iCalendar, RFC 5545): an event for every set and every stop for fuel, in the wall
 * clock of wherever it is opened.
 * @param day its first day, YYYY-MM-DD
 * @param plan which round of the field it is of, and a number that rises: read in again after a change, a set of the same
 * round is moved and does not stand there twice
 */
export function calendarFile(
  steps: readonly DayStep[],
  day: string,
  job: { id: string; name: string; place?: string | undefined },
  plan: { round: string; sequence: number },
): { ok: true; text: string } | { ok: false; message: string } {
  const events = steps.flatMap((step): EventAttributes[] => {
    if (step.kind !== "run" && step.kind !== "fuel") return [];
    const { title, note } = stepWords(step);
    return [
      {
        uid: `${job.id}-${plan.round}-${step.kind}-${step.set + 1}@upright-gusher`,
        sequence: plan.sequence,
        title: `${title}: ${job.name}`,
        description: note ?? `Runs to ${formatClock(step.to)}.`,
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
