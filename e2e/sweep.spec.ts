import type { Page } from "@playwright/test";
import { expect, expectAccessible, test, unfold } from "./harness.ts";

const GLASSHOUSES = "/jobs/ennet-glasshouses-transfer/measure";

/** What the hand valve of the box is turned to for the five points, from open to shut. */
const TURNS = [100, 56, 44, 28, 0];

const valve = (page: Page) => page.getByRole("slider");
const card = (page: Page) => page.getByRole("article", { name: /What the readings say/ });

/** Waits until the instruments stand still, takes what they show and files it. */
async function takeAndFile(page: Page): Promise<void> {
  const take = page.getByRole("button", { name: "Take", exact: true });
  await expect(take).toBeEnabled();
  await take.tap();
  await page.getByRole("button", { name: "File it" }).tap();
  await expect(page.getByText("Reading filed.").last()).toBeVisible();
}

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

  test("a whole sweep with the simulated box ends in a judgement, and no reading is lost on the way", async ({
    page,
  }) => {
    test.setTimeout(240_000);
    await page.goto(GLASSHOUSES);
    await unfold(page, "I have instruments that stream");
    await page.getByLabel("Simulated, with").selectOption("worn");
    await page.getByRole("button", { name: "Start the simulated box" }).tap();
    await expect(page.getByText("Simulated box: listening")).toBeVisible();
    await expect(page.getByRole("button", { name: "Take", exact: true })).toBeDisabled();
    await expectAccessible(page);
    await takeAndFile(page);
    const next = page.getByRole("region", { name: "Next point" });
    await expect(next).toHaveAttribute("data-next", "throttle");
    await expect(next).toContainText(/Throttle until the gauge shows about \d+/);

    // A browser that dies in the middle comes back to what was taken.
    await page.reload();
    await unfold(page, "I have instruments that stream");
    await page.getByRole("button", { name: "Listen" }).first().tap();
    for (const turn of TURNS.slice(1, -1)) {
      await valve(page).fill(String(turn));
      await expect(page.getByText(/is not steady/)).toBeVisible();
      await takeAndFile(page);
    }
    await expect(page.getByRole("region", { name: "Next point" })).toHaveAttribute(
      "data-next",
      "shut",
    );
    await valve(page).fill("0");
    await expect(page.getByRole("button", { name: "Shut", exact: true })).toHaveAttribute(
      "aria-pressed",
      "true",
    );
    await expect(page.getByRole("alert").filter({ hasText: "can scald" })).toBeVisible();
    await page.getByTestId("shut-clock").tap();
    await expect(page.getByTestId("shut-clock")).toHaveText(/^(29|28|27|26) s$/);
    await takeAndFile(page);
    await expect(page.getByRole("region", { name: "Next point" })).toHaveAttribute(
      "data-next",
      "done",
    );

    await expect(card(page)).toHaveAttribute("data-whole", "falls-short");
    await expect(card(page)).toContainText("The pump is short");
    await expect(card(page)).toContainText("By 5 readings together");
    const visit = page.getByRole("button", { name: /Readings of the day.*[5-9] readings/ });
    await expect(visit).toBeVisible();
    await page.getByRole("button", { name: "Stop the box and see what was wrong" }).tap();
    await expect(
      page.getByText(/Hidden in it: the pump made \d+ % of its published heads/),
    ).toBeVisible();
    const wide = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(wide).toBeLessThanOrEqual(390);
  });
});

test("a reading left out counts no more, stays on file, and is taken in again", async ({
  page,
}) => {
  await page.goto(GLASSHOUSES);
  await page.getByRole("button", { name: /Season's end, as found/ }).click();
  await expect(card(page)).toContainText("By 5 readings together");
  await expect(card(page)).toContainText("Pump and line are both short");
  const row = page.getByRole("listitem").filter({ hasText: "valve shut" }).last();
  await row.getByRole("button", { name: "Leave out" }).click();
  await row.getByLabel("Why it is left out").fill("Shut too long");
  await row.getByRole("button", { name: "Leave out" }).click();
  await expect(row).toContainText("Left out: Shut too long");
  await expect(card(page)).toContainText("By 4 readings together");
  await row.getByRole("button", { name: "Take it in" }).click();
  await expect(card(page)).toContainText("By 5 readings together");
});

test("an instrument is kept once and picked, and what the firm owns is named where it would help", async ({
  page,
}) => {
  await page.goto("/instruments");
  await expect(page.getByRole("listitem", { name: "Blue drum" })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("button", { name: "Add a flow meter" }).click();
  const save = page.getByRole("button", { name: "Save" });
  await expect(save).toBeDisabled();
  await page.getByLabel("What you call it").last().fill("Clip-on meter");
  await page.getByLabel("Reading ±").last().fill("3");
  await save.click();
  await expect(page.getByText("Instruments saved.")).toBeVisible();
  await page.reload();
  await expect(page.getByRole("listitem", { name: "Clip-on meter" })).toBeVisible();

  await page.goto(GLASSHOUSES);
  await page.getByLabel("Measured by").selectOption("meter");
  const of = (name: string) => page.getByRole("group", { name, exact: true });
  await of("Flow").getByLabel("Instrument").selectOption({ label: "Clip-on meter, ± 3.0 %" });
  await page.getByLabel("Meter reads").fill("2.9 L/s");
  await unfold(page, "I also have a gauge");
  await page.getByLabel("Gauge reads").fill("1.4 bar");
  await page.getByLabel("Full scale", { exact: true }).fill("10 bar");
  await page.keyboard.press("Tab");
  const verdict = page.getByRole("region", { name: "Measured against rated" });
  await expect(verdict).toContainText("use “Test gauge”");
  await of("Discharge gauge").getByLabel("Instrument").selectOption({ index: 1 });
  await expect(of("Discharge gauge").getByLabel("Full scale", { exact: true })).toHaveValue("250");
  await expect(verdict).not.toContainText("use “Test gauge”");
});

test("a logger's file is read in, looked through, and a window of it taken as a reading", async ({
  page,
}) => {
  await page.goto(GLASSHOUSES);
  await unfold(page, "I have instruments that stream");
  await page.getByRole("button", { name: "Read in a logger’s file" }).click();
  const dialog = page.getByRole("dialog");
  const begins = Date.parse("2026-11-20T08:00:00Z");
  const rows = Array.from({ length: 120 }, (_, i) => {
    const ramp = Math.min(i / 60, 1);
    const at = new Date(begins + 1000 * i).toISOString();
    return `${at},${(3 * ramp).toFixed(3)},${(1.9 - 0.45 * ramp).toFixed(3)},x`;
  });
  const text = ["Time,Flow (L/s),Outlet pressure (bar),Remark", ...rows, "noon,1,1,x"].join("\n");
  await dialog
    .getByLabel("The logger’s file")
    .setInputFiles({ name: "pit.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await expect(dialog.getByRole("status")).toHaveText("120 samples can be taken, 1 row cannot.");
  await expect(dialog).toContainText("Row 122");
  await expectAccessible(page, "[role=dialog]");
  await dialog.getByRole("button", { name: "Read it in" }).click();
  await expect(page.getByText("120 samples")).toBeVisible();
  const strips = page.getByTestId("strips");
  await expect(strips.locator(".js-plotly-plot")).toHaveCount(2);
  await expectAccessible(page);
  const take = page.getByRole("button", { name: "Take this window as a reading" });
  await expect(page.getByText("Go closer to a stretch")).toBeVisible();
  await expect(take).toBeDisabled();
  // Closer, and on to where it stands still.
  for (let i = 0; i < 2; i++) await page.getByRole("button", { name: "Closer" }).click();
  await strips.focus();
  for (let i = 0; i < 20; i++) await page.keyboard.press("ArrowRight");
  await expect(take).toBeEnabled();
  await take.click();
  await expect(page.getByLabel("Meter reads")).toHaveValue("3");
  await expect(page.locator("[data-acceptance]")).toBeVisible();
});
