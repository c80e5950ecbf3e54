import { bare, expect, test } from "./harness.ts";

for (const each of [test, bare]) {
  each.beforeEach(({ page }) => page.request.post("/api/demo/reset"));
}

const table = (count: number) =>
  [
    "Maker,Model,Kind,Max head (ft),Max flow (gpm)",
    ...Array.from({ length: count }, (_, i) => `Bench,Row ${i + 1},sump,${30 + (i % 40)},50`),
  ].join("\n");
const benched = async (page: {
  request: { get: (path: string) => Promise<{ json: () => Promise<unknown> }> };
}) =>
  (
    (await (await page.request.get("/api/pumps")).json()) as { document: { maker: string } }[]
  ).filter(({ document }) => document.maker === "Bench").length;

// Answers of 503 are errors to the browser’s console.
bare(
  "an import whose answer was lost is told as it ended, and is not done twice",
  async ({ page }) => {
    await page.goto("/pumps");
    await page.getByRole("button", { name: "Read in" }).click();
    await page.getByLabel("or pasted").fill(table(450));
    await expect(page.getByText("450 new, 0 changed, 0 as they are")).toBeVisible();
    // The server does what it is told, and the line falls silent before it can say so; a piece is lost on its way.
    let lost = 0;
    await page.route("**/api/imports/**", async (route) => {
      const request = route.request();
      const from = request.method() === "PATCH" ? request.postDataJSON().from : undefined;
      if (lost < 2 && (from === 200 || request.url().endsWith("/finish"))) {
        lost += 1;
        if (from === undefined) await route.fetch();
        return route.fulfill({ status: 503, json: { error: "failed", message: "Busy just now." } });
      }
      return route.continue();
    });
    await page.getByRole("button", { name: "Read in 450" }).click();
    await expect(page.getByText("Busy just now. It is tried again.")).toBeVisible();
    await expect(page.getByText("450 added, 0 changed, 0 as they were.")).toBeVisible();
    expect(lost).toBe(2);
    expect(await benched(page)).toBe(450);
  },
);

test("an import that is cancelled takes in nothing, and what was read is still there to be tried again", async ({
  page,
}) => {
  await page.goto("/pumps");
  await page.getByRole("button", { name: "Read in" }).click();
  await page.getByLabel("or pasted").fill(table(450));
  let sent = 0;
  let arrived = () => {};
  const second = new Promise<void>((done) => {
    arrived = done;
  });
  let open = () => {};
  const gate = new Promise<void>((done) => {
    open = done;
  });
  await page.route("**/api/imports/**", async (route) => {
    if (route.request().method() === "PATCH" && ++sent === 2) {
      arrived();
      await gate;
    }
    await route.continue();
  });
  await page.getByRole("button", { name: "Read in 450" }).click();
  await second;
  await expect(page.getByRole("status").getByText("200 of 450 sent")).toBeVisible();
  await page.getByRole("button", { name: "Cancel: take in nothing" }).click();
  open();
  await expect(page.getByText("Nothing was read in.")).toBeVisible();
  expect(await benched(page)).toBe(0);
  await page.getByRole("button", { name: "Read in 450" }).click();
  await expect(page.getByText("450 added, 0 changed, 0 as they were.")).toBeVisible();
  expect(await benched(page)).toBe(450);
});

test("a hundred thousand rows are read beside the page, which goes on answering", async ({
  page,
}) => {
  await page.goto("/pumps");
  await page.getByRole("button", { name: "Read in" }).click();
  const dialog = page.getByRole("dialog");
  // Written by a spreadsheet, not in UTF-8.
  const text = table(100_000).replaceAll("Bench", "M\xfchle");
  await page.getByLabel("CSV or JSON file").setInputFiles({
    ...{ name: "all.csv", mimeType: "text/csv" },
    buffer: Buffer.from(text, "latin1"),
  });
  await expect(dialog.getByText("Reading it")).toBeVisible();
  // While that goes on a key is taken.
  await page.getByLabel("or pasted").press("End");
  await expect(dialog.getByText("100000 new, 0 changed, 0 as they are")).toBeVisible();
  await expect(dialog.getByText("Mühle Row 1", { exact: false }).first()).toBeVisible();
  await page.getByRole("button", { name: "Close" }).click();
  await expect(dialog).toBeHidden();
});
