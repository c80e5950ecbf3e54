import type { BrowserContext, Page } from "@playwright/test";
import { test as base, expect, expectAccessible } from "./harness.ts";

/** A pump of one's own and a real one of it, for each test. Refused saves are no errors here. */
const test = base.extend<{ own: { pump: string; unit: string } }>({
  own: async ({ request }, use, { testId }) => {
    const mark = `${testId.replace(/[^a-z0-9]/g, "").slice(-10)}-${Date.now().toString(36)}`;
    const [some] = await (await request.get("/api/pumps")).json();
    const [pump, unit] = [`edited-${mark}`, `real-${mark}`];
    const document = { ...some.document, id: pump, maker: "Eddling", model: "Rill 4" };
    await request.put(`/api/pumps/${pump}`, { data: { revision: 0, document } });
    const real = {
      ...{ format: "upright-gusher/unit", version: 2, pumpId: pump },
      ...{ serial: "A 1", standsAt: "In the shop" },
    };
    const made = await request.put(`/api/units/${unit}`, { data: { revision: 0, document: real } });
    expect(made.status(), await made.text()).toBe(200);
    await use({ pump, unit });
  },
});

/** A page of its own, as of another person at another desk. */
async function at(context: BrowserContext, path: string): Promise<Page> {
  const page = await context.newPage();
  await page.goto(path);
  return page;
}
const dialog = (page: Page) => page.getByRole("dialog", { name: "Changed in two places" });

test("two people change one real pump: what differs is kept of both, what both changed is asked", async ({
  context,
  elsewhere,
  own,
}) => {
  const path = `/units/${own.unit}`;
  const [mine, theirs] = [await at(context, path), await at(elsewhere, path)];
  await mine.getByLabel("Where it stands").fill("At the mill");
  await mine.getByLabel("Serial number").fill("A 2");
  await theirs.getByLabel("Installed").fill("2026-03-01");
  await theirs.getByLabel("Serial number").fill("A 3");
  await theirs.getByRole("button", { name: "Save" }).click();
  await expect(theirs.getByText("Saved.")).toBeVisible();
  // Looked at again the page reads anew: what was typed stays, and is still a change of what it began from.
  await mine.evaluate(() => dispatchEvent(new Event("visibilitychange")));
  await expect(mine.getByLabel("Where it stands")).toHaveValue("At the mill");
  await mine.getByRole("button", { name: "Save" }).click();
  await expect(dialog(mine)).toContainText("Serial");
  await expect(dialog(mine).getByRole("group")).toHaveCount(1);
  await expectAccessible(mine, "[role=dialog]");
  await dialog(mine).getByLabel("The other: A 3").check();
  await dialog(mine).getByRole("button", { name: "Keep it so" }).click();
  await expect(mine.getByText("Saved.")).toBeVisible();
  const stored = await (await mine.request.get(`/api/units/${own.unit}`)).json();
  expect(stored.document).toMatchObject({
    ...{ serial: "A 3", standsAt: "At the mill", installed: "2026-03-01" },
  });
});

test("a pump being changed keeps what it began from, outlives a reload, and is put together", async ({
  context,
  own,
}) => {
  const page = await at(context, `/pumps/${own.pump}/edit`);
  await page.getByLabel("Model").fill("Rill 4 B");
  await page.reload();
  await expect(
    page.getByText("What you typed here before and did not save is back."),
  ).toBeVisible();
  await expect(page.getByLabel("Model")).toHaveValue("Rill 4 B");
  // Meanwhile it is saved somewhere else.
  const address = `/api/pumps/${own.pump}`;
  const { document, revision } = await (await page.request.get(address)).json();
  const other = { ...document, maker: "Eddling and Daughter" };
  await page.request.put(address, { data: { revision, document: other } });
  await page.reload();
  await expect(page.getByLabel("Model")).toHaveValue("Rill 4 B");
  await page.getByRole("button", { name: "Save the pump" }).click();
  await expect(dialog(page)).toContainText("different things: both can be kept");
  await dialog(page).getByRole("button", { name: "Keep both" }).click();
  await expect(page).toHaveURL(new RegExp(`/pumps/${own.pump}$`));
  const now = await (await page.request.get(address)).json();
  expect(now.document).toMatchObject({ maker: "Eddling and Daughter", model: "Rill 4 B" });
  // And what is let go is gone.
  await page.goto(`/pumps/${own.pump}/edit`);
  await page.getByLabel("Model").fill("Never mind");
  await page.reload();
  await page.getByRole("button", { name: "Let it go" }).click();
  await expect(page.getByLabel("Model")).toHaveValue("Rill 4 B");
  await page.reload();
  await expect(page.getByLabel("Model")).toHaveValue("Rill 4 B");
});

test("a new pump that was begun and not saved comes back after a reload, and is saved", async ({
  context,
  own,
}) => {
  const page = await at(context, `/pumps/new/edit?from=${own.pump}`);
  await page.getByLabel("Model").fill("Rill 5");
  await page.reload();
  await expect(page.getByLabel("Model")).toHaveValue("Rill 5");
  await page.getByRole("button", { name: "Save the pump" }).click();
  await expect(page).toHaveURL(/\/pumps\/[^/]+$/);
  await expect(page.getByRole("heading", { name: /Rill 5/ })).toBeVisible();
});

test("instruments put in at two desks are all there", async ({ context, elsewhere }) => {
  const [mine, theirs] = [await at(context, "/instruments"), await at(elsewhere, "/instruments")];
  const add = async (page: Page, name: string) => {
    await page.getByRole("button", { name: "Add a bucket or drum" }).click();
    await page.getByLabel("What you call it").last().fill(name);
  };
  await add(mine, "Long drum");
  await add(theirs, "Folding bucket");
  await theirs.getByRole("button", { name: "Save" }).click();
  await expect(theirs.getByText("Instruments saved.")).toBeVisible();
  await mine.getByRole("button", { name: "Save" }).click();
  await dialog(mine).getByRole("button", { name: "Keep both" }).click();
  await expect(mine.getByText("Instruments saved.")).toBeVisible();
  await mine.reload();
  for (const name of ["Folding bucket", "Long drum"]) {
    await expect(mine.getByRole("listitem", { name })).toBeVisible();
    await mine.getByRole("button", { name: `Take ${name} out` }).click();
  }
  await mine.getByRole("button", { name: "Save" }).click();
  await expect(mine.getByText("Instruments saved.")).toBeVisible();
});
