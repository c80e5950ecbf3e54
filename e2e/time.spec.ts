import type { Page } from "@playwright/test";
import { beginJob, expect, expectAccessible, saved, stage, test } from "./harness.ts";

const overTime = (page: Page) => page.getByRole("region", { name: "Ledger, sizes or curve" });
const marker = (page: Page) => page.getByTestId("marker");

/** A job of the demo's kind that no other test touches. */
async function copyOf(page: Page, id: string): Promise<void> {
  const own = `time-${Math.random().toString(36).slice(2, 10)}`;
  await page.goto("/");
  await page.evaluate(
    async ([from, to]) => {
      const { document } = await (await fetch(`/api/jobs/${from}`)).json();
      await fetch(`/api/jobs/${to}`, {
        method: "PUT",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ revision: 0, document }),
      });
    },
    [id, own] as const,
  );
  await page.goto(`/jobs/${own}/need`);
}

test("a pit through a storm and a power cut: said first, played, and every event is a place on the strip", async ({
  page,
}) => {
  await page.goto("/jobs/tallow-mill-wheel-pit/need");
  await expect(page.getByRole("list", { name: "What is said of it" })).toContainText(
    "The floor stays dry",
  );
  await expect(page.getByTestId("over-time")).toContainText("Largest inflow it holds");
  const events = page.getByRole("list", { name: "What happens" });
  await events.getByRole("button", { name: /Power gone/ }).click();
  await expect(marker(page)).toHaveText("4:00:00");
  await expect(overTime(page)).toContainText("no pump runs");
  await events.getByRole("button", { name: /Power back/ }).click();
  await expect(overTime(page)).toContainText("Pump 1 and Pump 2 running");
  await page.getByRole("button", { name: "Play" }).click();
  await expect(marker(page)).not.toHaveText("4:30:00");
  await page.getByRole("button", { name: "Pause" }).click();
  await page.getByLabel("Time of the run").focus();
  const before = await marker(page).textContent();
  await page.keyboard.press("ArrowRight");
  await expect(marker(page)).not.toHaveText(before ?? "");
  await expectAccessible(page);
});

test("a float over the rim is told at its field and stops the run; undo brings both back", async ({
  page,
}) => {
  await copyOf(page, "tallow-mill-wheel-pit");
  await expect(page.getByTestId("over-time")).toBeVisible();
  const on = page.getByLabel("On, float 1", { exact: true });
  await on.fill("0.2");
  await on.blur();
  const floats = page.getByRole("region", { name: "Floats" });
  await expect(floats.getByRole("alert").first()).toContainText("over the rim at 0.00 m");
  await expect(page.getByRole("list", { name: "What is wrong over time" })).toContainText(
    "over the rim",
  );
  await page.getByRole("button", { name: /^Undo/ }).click();
  await expect(floats.getByRole("alert")).toHaveCount(0);
  await expect(page.getByTestId("over-time")).toBeVisible();
  await saved(page);
});

test("what if in columns: put beside it, compared, applied, and taken back", async ({ page }) => {
  await copyOf(page, "tallow-mill-wheel-pit");
  await page.getByRole("button", { name: "Changes", exact: true }).click();
  const whatIf = page.getByRole("region", { name: "What if" });
  const offers = whatIf.getByRole("group", { name: "Put beside it" });
  await offers.getByRole("button", { name: "2-1/2 in for 2 in" }).click();
  await offers.getByRole("button", { name: "Floats 100 mm higher" }).click();
  const table = whatIf.getByRole("table");
  await expect(table.getByRole("columnheader")).toHaveText([
    "As it is",
    "2-1/2 in for 2 in",
    "Floats 100 mm higher",
  ]);
  const delivered = table.getByRole("row", { name: /^Delivered/ }).getByRole("cell");
  await expect(delivered.nth(2)).toBeVisible();
  const [now, pipe, floats] = await delivered.allTextContents();
  expect(Number.parseFloat(pipe ?? "")).toBeGreaterThan(Number.parseFloat(now ?? ""));
  expect(floats).toBe(now);
  await table.getByRole("button", { name: "Apply: 2-1/2 in for 2 in" }).click();
  await expect(page.getByTestId("duty")).toContainText((pipe ?? "").split(" ")[0] as string);
  await expect(table.getByRole("columnheader")).toHaveCount(2);
  await page.getByRole("button", { name: /^Undo/ }).click();
  await expect(page.getByTestId("duty")).toContainText((now ?? "").split(" ")[0] as string);
  await expect(table.getByRole("columnheader")).toHaveCount(3);
  await expectAccessible(page, "section[aria-label='What if']");
});

test("the flow wanted follows the rain, and a storm out of a file with a gap is told by its row", async ({
  page,
}) => {
  await copyOf(page, "bramble-rigg-yard");
  const wanted = page.getByTestId("wanted");
  await expect(wanted).toHaveText("1.83 L/s");
  const rain = page.getByLabel("Rain in your hardest hour");
  await rain.fill("44");
  await rain.blur();
  await expect(wanted).toHaveText("3.65 L/s");
  await expect(page.getByTestId("duty")).toBeVisible();
  const storm = page.getByRole("region", { name: "Storm and power" });
  await storm.getByLabel("Storm").selectOption("from a table");
  const sheet = page.getByRole("dialog");
  const file = sheet.getByLabel("CSV file");
  await file.setInputFiles({
    name: "storm.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("time (min),flow (L/s)\n0,0\n10,2\n20,2\n60,0\n"),
  });
  await expect(sheet.getByRole("alert")).toContainText("Row 5, time: 40 min after the row before");
  const take = sheet.getByRole("button", { name: "Take it" });
  await expect(take).toBeDisabled();
  await file.setInputFiles({
    name: "storm.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("time (min),flow (L/s)\n0,0\n10,2\n20,2\n30,0\n"),
  });
  await expect(sheet.getByRole("status")).toContainText("4 rows, 2400 L in all");
  await expectAccessible(page, "[role=dialog]");
  await take.click();
  await expect(storm).toContainText("5 rows of inflow");
  await expect(storm.getByRole("alert")).toHaveCount(0);
  await page.getByRole("button", { name: "How sure is this" }).click();
  const sure = page.getByRole("region", { name: "How sure" });
  await sure.getByRole("button", { name: "Stop" }).click();
  await expect(sure).toContainText("Stopped.");
  await sure.getByRole("button", { name: "Try again" }).click();
  await expect(sure).toContainText("out of 200 draws");
});

test("a room emptied in stages: each is ticked, and stays so", async ({ page }) => {
  await copyOf(page, "ennet-halt-relay-room");
  const stages = page.getByRole("region", { name: "Stages" });
  await stages.getByRole("checkbox").first().check();
  await saved(page);
  await page.reload();
  await expect(stages.getByRole("checkbox").first()).toBeChecked();
  await expect(page.getByLabel("Who allowed it")).toHaveValue("Ennet Halt station keeper");
  await expect(page.getByTestId("over-time")).toContainText("Dry after");
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test("a pit begun from nothing runs over time with what it assumes, and fits", async ({
    page,
  }) => {
    await beginJob(page, "sump-riser");
    await stage(page, "Need").click();
    await page.getByLabel("Flow wanted").fill("1 L/s");
    await page.getByLabel("Flow wanted").blur();
    await expect(page.getByTestId("over-time")).toBeVisible();
    await expect(overTime(page)).toContainText("No pump is chosen yet");
    const wide = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(wide).toBeLessThanOrEqual(390);
    await expectAccessible(page);
  });
});

test("what has to be decided stands first; a float over the rim stops it there, beside the line and on the list", async ({
  page,
}) => {
  await copyOf(page, "tallow-mill-wheel-pit");
  const decisions = page.getByRole("navigation", { name: "Decisions" });
  const dry = decisions.getByRole("link", { name: /^Stays dry/ });
  await expect(dry).toContainText("yes");
  await expect(decisions.getByRole("link", { name: /^Pump/ })).toContainText("2 × Tarnfold Pit 9");
  const floats = decisions.getByRole("link", { name: /^Floats/ });
  await expect(floats).toContainText("starts an hour");
  await expect(floats).not.toContainText("Stop");
  await page.getByLabel("On, float 1", { exact: true }).fill("0.2");
  await page.getByLabel("On, float 1", { exact: true }).blur();
  await expect(floats).toContainText("Stop");
  const beside = page.getByRole("list", { name: "Beside the line" });
  await expect(beside).toContainText("over the rim");
  await expect(page.getByText(/^Saved/)).toBeVisible();
  // What leads to a decision is where it is taken.
  await decisions.getByRole("link", { name: /^Pipe/ }).click();
  await expect(page).toHaveURL(/\/line\?part=discharge/);
  await beside.getByRole("link", { name: "Show it" }).first().click();
  await expect(page).toHaveURL(/\/need\?view=time/);
  await expectAccessible(page);
  await page.getByRole("link", { name: "Jobs", exact: true }).click();
  const card = page.getByRole("listitem").filter({ hasText: "Tallow Mill" }).first();
  await expect(card).toContainText("Stop");
});

test("a remedy that was tried is one tap, and one tap brings back what was there", async ({
  page,
}) => {
  await copyOf(page, "tallow-mill-wheel-pit");
  const on = page.getByLabel("On, float 1", { exact: true });
  const beside = page.getByRole("list", { name: "Beside the line" });
  await expect(page.getByTestId("over-time")).toBeVisible();
  await on.fill("-2.17 m");
  await on.blur();
  await expect(beside).toContainText("Starts too often");
  const typed = await on.inputValue();
  await page.getByRole("button", { name: /^Raise the float by/ }).click();
  await expect(beside).not.toContainText("Starts too often");
  await expect(on).not.toHaveValue(typed);
  await page.getByRole("button", { name: "Undo", exact: true }).last().click();
  await expect(on).toHaveValue(typed);
  await expect(beside).toContainText("Starts too often");
});
