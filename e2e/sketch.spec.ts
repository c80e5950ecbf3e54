import type { Page } from "@playwright/test";
import { choosePump, expect, expectAccessible, saved, test, unfold } from "./harness.ts";

const duty = "[data-testid=duty]";

/** Each way in: what is chosen, what is typed, and the flow and head it comes to. */
const WAYS = [
  {
    says: "Keep a pit dry",
    typed: [
      ["floor down to the bottom", "24 in"],
      ["pit across", "20 in"],
      ["pump off: time to rise", "40"],
      ["floor up to the bend", "3"],
      ["along to the outlet", "23 paces"],
    ],
    // 1.5 × π/4 (20 in)² 6 in in 40 s, in gpm; the same plus a third of the depth is lifted.
    flow: (1.5 * (Math.PI / 4) * 20 ** 2 * 6) / 231 / (40 / 60),
    lift: 3 + 2 / 3,
  },
  {
    says: "Move water between tanks",
    typed: [
      ["water in the first tank", "6"],
      ["hose to the pump", "5"],
      ["pump along to the tank", "90"],
      ["its floor up to the inlet", "20"],
      ["flow wanted", "16"],
    ],
    flow: 16,
    lift: 17,
  },
  {
    says: "Water ground",
    typed: [
      ["pump down to the water", "5"],
      ["along to the gun", "300"],
      ["pump up to the gun", "10"],
      ["bore of its nozzle", "9/16"],
      ["pressure at the gun", "45"],
    ],
    // 29.84 Cd d² √p, in gpm, inches and psi: the customary form, from memory, with Cd 0.95.
    flow: 29.84 * 0.95 * (9 / 16) ** 2 * Math.sqrt(45),
    lift: 15,
  },
] as const;

async function inUsUnits(page: Page): Promise<void> {
  await page.addInitScript(() => {
    localStorage.setItem(
      "upright-gusher-settings",
      JSON.stringify({ state: { theme: "light", units: "us" }, version: 0 }),
    );
  });
}

for (const { says, typed, flow, lift } of WAYS) {
  test(`${says}: one choice and ${typed.length} entries to a flow, a head and pumps`, async ({
    page,
  }) => {
    await inUsUnits(page);
    let choices = 0;
    let entries = 0;
    await page.goto("/");
    await page.getByRole("link", { name: "New job" }).click();
    await page.getByRole("link", { name: says }).click();
    choices++;
    for (const [label, text] of typed) {
      await page.getByLabel(label).fill(text);
      entries++;
    }
    expect([choices, entries]).toEqual([1, 5]);
    const figures = page.getByTestId("sketch-verdict").locator("dd");
    await expect(figures.first()).toContainText("gpm");
    const shown = async (i: number) =>
      Number.parseFloat((await figures.nth(i).textContent()) ?? "");
    expect(await shown(0)).toBeCloseTo(flow, flow < 100 ? 0 : -1);
    expect(await shown(1)).toBeGreaterThan(lift);
    const pumps = page.getByRole("region", { name: "Pumps that do it" });
    await expect(pumps.getByRole("listitem")).not.toHaveCount(0);
    await pumps.getByRole("button").first().click();
    // The job has the pump, and moves at least what is wanted.
    await expect(page.locator(duty)).toContainText("At the outlet");
    const out = Number.parseFloat(
      (await page.locator(duty).locator("dd").first().textContent()) ?? "",
    );
    expect(out).toBeGreaterThanOrEqual(Math.floor(flow));
    await saved(page);
  });
}

test("what was typed stays as typed, is refused in its place, and is assumed until it is known", async ({
  page,
}) => {
  await inUsUnits(page);
  await page.goto("/new/well-to-tank");
  await page.getByLabel("top down to the bottom").fill("200");
  await page.getByLabel("down to standing water").fill("60 yds ago");
  await expect(page.getByRole("alert").first()).toContainText("is not a unit of length");
  await page.getByLabel("down to standing water").fill("60");
  await page.getByLabel("down to pumped water").fill("40");
  await expect(page.getByRole("alert").first()).toContainText("above the standing water");
  await page.getByLabel("down to pumped water").fill("199");
  await expect(page.getByRole("alert").first()).toContainText("5 ft off the bottom");
  await page.getByLabel("down to pumped water").fill("72");
  await page.getByLabel("top up to the tank").fill("4");
  await page.getByLabel("along to the tank").fill("10 paces");
  // A person's own pace is set where it was used, and nothing is lost by a reload.
  await expect(page.getByText("30.0 ft", { exact: true })).toBeVisible();
  await page.getByLabel("One pace").fill("2.5 ft");
  await expect(page.getByText("25.0 ft", { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("along to the tank")).toHaveValue("10 paces");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /^Units/ }).click();
  // A bare number keeps the unit it was typed in.
  await expect(page.getByLabel("top up to the tank")).toHaveValue("4 ft");
  await page.getByRole("button", { name: /^Units/ }).click();
  await page.getByLabel("flow wanted").fill("8 gpm");
  await expect(page.getByTestId("sketch-verdict")).toContainText("Head it takes");
  await expect(page.locator("[data-check=well-dry]")).toContainText("Good");
  await expectAccessible(page);
  await page.getByLabel("Place").fill("Bramble Rigg");
  await page.getByRole("button", { name: "Start the job" }).click();
  await expect(page.getByLabel("Name of the job")).toHaveValue(/^Well, Bramble Rigg, /);
  await page.getByRole("navigation", { name: "Stages of the job" }).getByText("Need").click();
  const assumed = page.getByRole("region", { name: "Assumed" });
  await expect(assumed).toContainText("Dry-season water");
  await expect(assumed).not.toContainText("Usual water");
  await page.getByLabel("Dry-season water", { exact: true }).fill("-70");
  await expect(assumed).not.toContainText("Dry-season water");
  await assumed.getByRole("button", { name: "All of it is right" }).click();
  await expect(assumed).toHaveCount(0);
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(assumed).toBeVisible();
  await saved(page);
  // The next sketch begins empty, and can be emptied.
  await page.goto("/new/well-to-tank");
  await expect(page.getByLabel("top down to the bottom")).toHaveValue("");
  await page.getByLabel("top down to the bottom").fill("90");
  await page.getByRole("button", { name: "Clear" }).click();
  await expect(page.getByLabel("top down to the bottom")).toHaveValue("");
});

test("a flow is timed without any job before it: one choice, two taps", async ({ page }) => {
  await page.goto("/new");
  await page.getByRole("button", { name: "Just measure" }).click();
  await expect(page).toHaveURL(/\/measure/);
  const watch = page.getByTestId("watch").locator("..");
  await watch.click();
  await page.waitForTimeout(300);
  await watch.click();
  // No bucket fills in a third of a second: nothing is filed of it before the fill is a real one's.
  await expect(page.getByRole("button", { name: "File this reading" })).toBeDisabled();
  await page.getByLabel("Fill 1", { exact: true }).fill("7.4 s");
  await expect(page.getByRole("region", { name: "Measured against rated" })).toContainText(
    /± .*L\/s/,
  );
  await page.getByRole("button", { name: "File this reading" }).click();
  await expect(page.getByText("Reading filed.")).toBeVisible();
  await page.goto("/");
  await page
    .getByRole("list", { name: "Measured" })
    .getByText(/^Measuring, /)
    .waitFor();
});

test("a gauge is held to the pump alone where nobody drew the line", async ({ page }) => {
  await page.goto("/new");
  await page.getByRole("button", { name: "Just measure" }).click();
  await expect(page).toHaveURL(/\/measure/);
  await page.getByRole("link", { name: "Pump", exact: true }).click();
  await choosePump(page, "Osmerley Deep 3");
  await saved(page);
  await page.getByRole("link", { name: "Measure", exact: true }).click();
  await unfold(page, "I also have a gauge");
  await expect(page.getByText(/^With the line shut the pump makes at least/)).toBeVisible();
  await page.getByLabel("Measured by").selectOption("meter");
  await page.getByLabel("Meter reads", { exact: true }).fill("1 L/s");
  await page.getByLabel("Gauge reads").fill("20 psi");
  await page.getByLabel("Dial’s height").fill("0 m");
  await page.getByLabel("Full scale", { exact: true }).fill("36 psi");
  await expect(page.getByRole("region", { name: "Measured against rated" })).toContainText(
    "This gauge ends at",
  );
  await expect(page.getByRole("button", { name: "File this reading" })).toBeDisabled();
});

test("the board is searched, sorted, and opens again as it was", async ({ page }) => {
  await page.goto("/");
  const jobs = page.getByRole("region", { name: "Jobs" });
  await expect(page.getByRole("list", { name: "To mend" })).toContainText("Ketterby");
  const all: { name: string }[] = await (await page.request.get("/api/jobs")).json();
  const mills = all.filter(({ name }) => name.includes("Tallow Mill")).length;
  expect(mills).toBeLessThan(all.length);
  await page.getByLabel("Search the jobs").fill("mill tallow");
  await expect(jobs.getByRole("listitem")).toHaveCount(mills);
  await expect(page).toHaveURL(/q=mill\+tallow/);
  await page.reload();
  await expect(page.getByLabel("Search the jobs")).toHaveValue("mill tallow");
  await expect(jobs.getByRole("listitem")).toHaveCount(mills);
  await page.getByLabel("Search the jobs").fill("nowhere at all");
  await expect(page.getByText("No job says that")).toBeVisible();
  await page.getByLabel("Search the jobs").fill("");
  await page.getByLabel("Sorted by").selectOption("name");
  await expect(page).toHaveURL(/sort=name/);
});
