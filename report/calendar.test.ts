import ICAL from "ical.js";
import { expect, it } from "vitest";
import type { DayStep } from "#core/irrigation/dayPlan.ts";
import { dayPlan } from "#core/irrigation/dayPlan.ts";
import { calendarFile } from "./calendar.ts";

const hour = 3600;
const job = { id: "ground", name: "Ketterby, ground; wet", place: "Vale of Ennet" };

it("is read back by a calendar's parser: every set and fuel stop, at its wall clock, over midnight", () => {
  const plan = dayPlan({
    ...{ runs: [2 * hour, 2 * hour, 2 * hour], next: 0, start: 20 * hour, move: 600, prime: 180 },
    engine: { tankLasts: 3 * hour, left: 3 * hour, cooling: 900, filling: 300 },
  });
  if (plan.kind !== "planned") throw new Error(plan.why);
  const file = calendarFile(plan.steps, "2026-12-31", job, { round: "r", sequence: 7 });
  if (!file.ok) throw new Error(file.message);
  const events = new ICAL.Component(ICAL.parse(file.text))
    .getAllSubcomponents("vevent")
    .map((own) => new ICAL.Event(own));
  const kept = plan.steps.filter(({ kind }) => kind === "run" || kind === "fuel");
  expect(events).toHaveLength(kept.length);
  for (const [i, event] of events.entries()) {
    const step = kept[i] as DayStep;
    const start = event.startDate;
    const at = Date.UTC(start.year, start.month - 1, start.day, start.hour, start.minute);
    const due = Date.UTC(2026, 11, 31) + Math.round(step.from / 60) * 60_000;
    expect(at).toBe(due);
    expect(event.duration.toSeconds() / 60).toBeCloseTo((step.to - step.from) / 60, -0.5);
    // Floating: nobody's time zone, so that eight o'clock is eight o'clock on the field.
    expect(start.zone).toBe(ICAL.Timezone.localTimezone);
    expect(event.summary).toContain("Ketterby, ground; wet");
    expect(event.location).toBe("Vale of Ennet");
    expect(event.sequence).toBe(7);
  }
  expect(events.at(-1)?.startDate.year).toBe(2027);
  // Planned anew from the second set on, a day later: the same events, moved.
  const rest = calendarFile(plan.steps.slice(3), "2027-01-01", job, { round: "r", sequence: 8 });
  const again = rest.ok ? [...rest.text.matchAll(/^UID:(.*?)\r?$/gm)].map(([, uid]) => uid) : [];
  expect(again.length).toBeGreaterThan(0);
  for (const uid of again) expect(events.map((event) => event.uid)).toContain(uid);
  expect(new Set(events.map(({ uid }) => uid)).size).toBe(events.length);
});
