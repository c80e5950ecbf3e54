import { test } from "@playwright/test";
import { expect, expectAccessible, startServer } from "./harness.ts";

let server: Awaited<ReturnType<typeof startServer>>;

// As it is started on a folder nobody has used: no jobs, and no pump in the library.
test.beforeAll(async () => {
  server = await startServer([]);
});
test.afterAll(() => server.stop());

test("a line, its head and its sizes without any pump", async ({ page }) => {
  const { address } = server;
  await page.goto(address);
  await expect(page.getByText("No jobs yet")).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press("n");
  await page.getByRole("link", { name: "Just a line" }).click();
  await page.getByLabel("water up to the outlet").fill("5 m");
  await page.getByLabel("along to the outlet").fill("60 m");
  await page.getByLabel("flow wanted").fill("2 L/s");
  const verdict = page.getByTestId("sketch-verdict");
  await expect(verdict).toContainText("Head it takes");
  await expect(page.getByRole("region", { name: "Pumps that do it" })).toHaveCount(0);
  await page.getByRole("button", { name: "Start the job" }).click();
  await expect(page.getByTestId("duty")).toContainText("Head it takes");
  const ledger = page.getByRole("table", { name: "Head ledger" });
  await expect(ledger).toContainText("Total dynamic head");
  await page.getByRole("button", { name: "Sizes" }).click();
  await expect(
    page.getByRole("table", { name: "Sizes compared" }).getByRole("row", { name: /^2 in/ }),
  ).toContainText(/ m/);
  await page.goto(address);
  await expect(page.getByRole("list", { name: "To choose" })).toContainText("asked, at");
});
