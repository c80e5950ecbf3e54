import { expect, expectAccessible, type Page, test } from "./harness.ts";

const GLASSHOUSES = "/jobs/ennet-glasshouses-transfer/measure";

/** What the hand valve of the box is turned to for the five points, from open to shut. */
const TURNS = [100, 56, 44, 28, 0];

const valve = (page: Page) => page.getByRole("slider");
const card = (page: Page) => page.getByRole("article", { name: /What the readings say/ });

/** Waits until the instruments stand still, takes what they show and files it. */
async function takeAndFile(page: Page): Promise<void> {
  const take = page.getByRole("button", { name: "Take", exact: true });
  await expect(take).toBeEnabled({ timeout: 40_000 });
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
    await page.getByText("I have instruments that stream").tap();
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
    await page.getByText("I have instruments that stream").tap();
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

    await expect(card(page)).toHaveAttribute("data-whole", "falls-short", { timeout: 20_000 });
    await expect(card(page)).toContainText("The pump is short");
    await expect(card(page)).toContainText("By 5 readings together");
    const visit = page.getByRole("button", { name: /Readings of the day.*5 readings/ });
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
  await page.getByText("I also have a gauge").click();
  await page.getByLabel("Gauge reads").fill("1.4 bar");
  await page.getByLabel("Full scale", { exact: true }).fill("10 bar");
  await page.keyboard.press("Tab");
  const verdict = page.getByRole("region", { name: "Measured against rated" });
  await expect(verdict).toContainText("use “Test gauge”");
  await of("Discharge gauge").getByLabel("Instrument").selectOption({ index: 1 });
  await expect(of("Discharge gauge").getByLabel("Full scale", { exact: true })).toHaveValue("250");
  await expect(verdict).not.toContainText("use “Test gauge”");
});
