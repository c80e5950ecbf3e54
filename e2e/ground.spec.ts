import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import ICAL from "ical.js";
import { choosePump, expect, expectAccessible, saved, stage, test } from "./harness.ts";

const KETTERBY = "/jobs/ketterby-hurling-ground/ground";

const view = (page: Page, name: string) =>
  page.getByRole("group", { name: "Ground" }).getByRole("button", { name, exact: true });
const known = (page: Page) => page.getByRole("region", { name: "What is known of the ground" });
const told = (page: Page) => page.getByRole("region", { name: "What it comes to" });
const settled = (page: Page) =>
  expect(told(page).locator("[aria-busy=false]").first()).toBeVisible();

test("from the bank to the calendar: a gun, a field, the sets and their clock", async ({
  page,
}) => {
  await page.goto("/new/pond-to-field");
  for (const [label, text] of [
    ["pump down to the water", "1.5 m"],
    ["along to the gun", "100 m"],
    ["pump up to the gun", "3 m"],
    ["nozzle", "12 mm"],
    ["pressure at the gun", "3 bar"],
  ] as const) {
    await page.getByLabel(label, { exact: false }).first().fill(text);
  }
  await page.getByRole("button", { name: "Start the job" }).click();
  await page.waitForURL(/\/jobs\/[0-9a-f-]{36}/);
  await stage(page, "Pump").click();
  await choosePump(page, "Fenwicket Haycast 2 in");
  await stage(page, "Ground").click();

  // Nothing is red before anybody typed: it asks for the ground.
  await expect(told(page)).toContainText("Say how large the ground is");
  await known(page).getByLabel("Its shape").selectOption("rectangle");
  await known(page).getByLabel("Long").fill("100 m");
  await known(page).getByLabel("Wide").fill("60 m");
  const figures = page.getByTestId("field-figures");
  await expect(figures).toContainText("by the doubt of the throw");
  const doubtful = await figures.textContent();

  // One throw by paces: the doubt of the sets shrinks, and the throw says how it is known.
  await view(page, "Guns").click();
  await known(page).getByRole("button", { name: "A throw" }).click();
  await known(page).getByLabel("Throw", { exact: true }).fill("22 m");
  await expect(told(page)).toContainText("as measured here");
  await expect(told(page)).toContainText("22.0 m");
  await view(page, "Field").click();
  await settled(page);
  expect(await figures.textContent()).not.toBe(doubtful);
  await figures.getByTitle("Show the working").first().click();
  await expect(page.getByRole("dialog")).toContainText("Time a set");
  await expect(page).toHaveURL(/working=water\.per-set/);
  await page.keyboard.press("Escape");

  await view(page, "Day").click();
  await expect(page.getByRole("list", { name: "By the clock" })).toContainText("Set 1");
  await known(page).getByLabel("Day").fill("2026-06-05");
  const download = page.waitForEvent("download");
  await told(page).getByRole("button", { name: "Calendar file" }).click();
  const file = readFileSync(await (await download).path(), "utf8");
  const events = new ICAL.Component(ICAL.parse(file)).getAllSubcomponents("vevent");
  const first = new ICAL.Event(events[0] as ICAL.Component);
  expect(first.summary).toContain("Set 1");
  expect(first.startDate.toString()).toMatch(/^2026-06-05T08:/);
  await settled(page);
  await expectAccessible(page);
  await saved(page);
  await page.reload();
  await expect(page.getByRole("list", { name: "By the clock" })).toContainText("Set 1");
});

test("two guns fall back to a ring on a pump that was right for one, and undo brings the one back", async ({
  page,
}) => {
  await page.goto(`${KETTERBY}?view=guns`);
  await expect(told(page)).toContainText("Spreads evenly");
  await known(page).getByRole("button", { name: "A second gun" }).click();
  await expect(told(page)).toContainText("Falls in a ring");
  await expect(told(page)).toContainText(/2 guns share the pump.*root of the pressure/);
  await expect(page.getByTestId("duty")).toBeVisible();
  await view(page, "Field").click();
  await expect(told(page).getByRole("alert")).toContainText("No set is planned");
  await page.keyboard.press("Control+z");
  await expect(page.getByTestId("field-figures")).toBeVisible();
});

test("what cannot be is said where it is typed, and nothing typed is lost", async ({ page }) => {
  await page.goto(`${KETTERBY}?view=guns`);
  await expect(told(page)).toContainText("Spreads evenly");
  // A window whose least lies over its greatest.
  await known(page).getByLabel("Throws from").fill("7 bar");
  await expect(known(page)).toContainText("The least pressure cannot be more than 550 kPa");
  await known(page).getByLabel("Throws from").fill("3 bar");
  await expect(told(page)).toContainText("Falls in a ring");
  await expect(told(page)).toContainText("286 kPa stand at its base; it throws from 300 kPa on");
  await page.keyboard.press("Control+z");

  await view(page, "Field").click();
  const wide = known(page).getByLabel("Wide");
  await wide.fill("15 m");
  await known(page).getByLabel("Long").fill("20 m");
  await expect(told(page)).toContainText("One circle is wider than the ground");
  await known(page).getByRole("button", { name: "A piece of ground" }).click();
  await known(page).getByRole("button", { name: "A piece of ground" }).click();
  await expect(told(page)).toContainText(
    "Building and building overlap: what lies in both is kept off once",
  );
  for (let i = 0; i < 4; i++) await page.keyboard.press("Control+z");

  await view(page, "Day").click();
  await known(page).getByLabel(/^Tank/).fill("0.4 L");
  await expect(told(page).getByRole("alert")).toContainText(
    /The tank lasts \d+ min, and set 1 takes \d+ min/,
  );
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("list", { name: "By the clock" })).toBeVisible();
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

  test("at set 7 at 14:20, with the tank nearly empty, and cans read on the field", async ({
    page,
  }) => {
    await page.goto(`${KETTERBY}?view=day`);
    await page.getByRole("button", { name: "Set 7: I am here now" }).tap();
    const where = page.getByRole("region", { name: "Where you are" });
    await expect(where.getByLabel("Next set")).toHaveValue("7");
    await expect(where).toBeInViewport();
    await where.getByLabel("It is").fill("20:20");
    await where.getByLabel(/Left in the tank/).fill("10");
    const steps = page.getByRole("list", { name: "By the clock" });
    await expect(steps.getByRole("listitem").first()).toContainText(/20:20.*refuel/);
    await expect(steps).not.toContainText("Set 6");
    await expectAccessible(page);
    await page.getByRole("button", { name: "From the start again" }).tap();
    await expect(steps).toContainText("Set 1");

    await view(page, "Catch cans").tap();
    await expect(told(page)).toContainText("Cans and line agree");
    // Half the water everywhere: something is wrong, and the likeliest comes first.
    const cans = known(page).getByLabel(/^In (it|can)/);
    for (const can of await cans.all()) {
      const value = Number(await can.inputValue());
      await can.fill(String(value / 2));
    }
    await expect(told(page)).toContainText("Less fell than the line says");
    await expect(
      told(page).getByRole("list", { name: "The likeliest first" }).getByRole("listitem").first(),
    ).toContainText("A nozzle smaller than typed, or partly blocked");
    await expectAccessible(page);
  });
});

test("season, drip and what is worked back stand on the same numbers", async ({ page }) => {
  await page.goto(`${KETTERBY}?view=season`);
  await expect(page.getByTestId("season-guns")).toContainText("a hectare");
  const dry = await page.getByTestId("season-guns").textContent();
  await known(page).getByLabel("4 May").fill("25 mm");
  await settled(page);
  await expect(page.getByTestId("season-guns")).not.toHaveText(dry ?? "");
  await view(page, "Drip").click();
  await expect(page.getByTestId("drip-figures")).toContainText("500 emitters");
  await known(page).getByLabel("Emitters on each").fill("800");
  await expect(told(page)).toContainText("Uneven");
  await view(page, "Worked back").click();
  await expect(told(page)).toContainText("Both say the same");
  await known(page)
    .getByRole("region", { name: "Two guns open" })
    .getByLabel(/Pressure/)
    .fill("0.5 bar");
  await expect(told(page)).toContainText("They do not agree");
  await expectAccessible(page);
});

test("a gun typed from its chart throws by it, is kept for other jobs, and let go again", async ({
  page,
}) => {
  await page.goto(`${KETTERBY}?view=guns`);
  await expect(told(page)).toContainText("Spreads evenly");
  const own = known(page);
  await own.getByLabel("Model").selectOption({ label: "By its bores, or a chart typed here" });
  await own.getByText("Its chart: pressure, flow, throw").click();
  for (const [i, [pressure, flow, radius]] of [
    ["2.5 bar", "14 m³/h", "19 m"],
    ["4 bar", "17.7 m³/h", "18 m"],
  ].entries()) {
    await own.getByRole("button", { name: "A row" }).click();
    const row = i === 0 ? "" : `, row ${i + 1}`;
    await own.getByLabel(`Pressure${row}`, { exact: true }).fill(pressure as string);
    await own.getByLabel(`Flow${row}`, { exact: true }).fill(flow as string);
    await own
      .getByLabel(`Throw${row}`, { exact: true })
      .first()
      .fill(radius as string);
  }
  // A throw that falls with pressure is no chart yet, and says so where it is typed.
  await expect(own.getByRole("alert")).toContainText("Flow and throw must rise with pressure");
  await own.getByLabel("Its name").fill("Groundsman’s");
  await own.getByLabel("Throw, row 2", { exact: true }).fill("24 m");
  await expect(own.getByRole("alert")).toBeHidden();
  await own.getByLabel("Its name").fill("Groundsman’s own");
  await own.getByRole("button", { name: "Keep for other jobs" }).click();
  await expect(page.getByText("is kept for other jobs")).toBeVisible();
  await own.getByLabel("Model").selectOption({ label: "Hollin Mead 25, 10 mm" });
  await own.getByLabel("Model").selectOption({ label: "Groundsman’s own" });
  await expect(told(page)).toContainText("Groundsman’s own");
  await own.getByRole("button", { name: "Keep it no longer" }).click();
  await expect(own.getByLabel("Model")).not.toContainText("Groundsman’s own");
  for (let i = 0; i < 12; i++) await page.keyboard.press("Control+z");
  await expect(own.getByLabel("Model")).toHaveValue("hollin-broad-40");
});
