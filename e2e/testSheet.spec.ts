import { readFileSync } from "node:fs";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";
import { expect, expectAccessible, startServer, test, unfold } from "./harness.ts";

const AS_FOUND = "/jobs/ennet-glasshouses-transfer/tests/glasshouses-as-found";

test("a test is one page of PDF that says what was found, on what it rests and who saw to what", async ({
  page,
}) => {
  await page.goto(AS_FOUND);
  await expect(page.getByRole("heading", { name: "Pump and line are both short" })).toBeVisible();
  await expect(
    page
      .getByRole("img", { name: /Curve sheet of/ })
      .locator("svg")
      .first(),
  ).toBeVisible();
  await expectAccessible(page);
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "PDF" }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe("2026-10-14-season-s-end-as-found.pdf");
  const pdf = await getDocument({ data: new Uint8Array(readFileSync(await file.path())) }).promise;
  expect(pdf.numPages).toBe(1);
  const { items } = await (await pdf.getPage(1)).getTextContent();
  const text = items
    .map((item) => ("str" in item ? item.str : ""))
    .join(" ")
    .replace(/\s+/g, " ");
  for (const said of [
    "Season's end, as found, 2026-10-14",
    "Measured by Wren",
    "Pump: Brackle Run 35",
    "growers’ office, ask for Sedge",
    "Falls short of its curve",
    "Pump and line are both short",
    "By 5 readings together",
    "throttled",
    "shut",
    "Blue drum",
    "Discharge gauge after Check valve",
    "Total head, m",
    "discharge 89.3 m across",
    "Pressure let off before a joint was opened",
  ]) {
    expect(text).toContain(said);
  }
});

test("raw readings leave as CSV and JSON", async ({ page }) => {
  await page.goto(AS_FOUND);
  const [csv] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Readings as CSV" }).click(),
  ]);
  const rows = readFileSync(await csv.path(), "utf8")
    .trim()
    .split(/\r?\n/);
  expect(rows).toHaveLength(6);
  expect(rows[0]).toContain("discharge Pa");
  expect(rows[1]).toContain("162000");
  expect(rows[5]).toContain("shut");
  const [json] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "as JSON" }).click(),
  ]);
  const { readings } = JSON.parse(readFileSync(await json.path(), "utf8"));
  expect(readings).toHaveLength(5);
});

test("the years stand side by side, each as on its day and as today, with where it is going", async ({
  page,
}) => {
  await page.goto("/jobs/ennet-glasshouses-transfer/measure");
  await page.getByRole("link", { name: "Over the years" }).click();
  const rows = page.getByRole("row");
  for (const visit of ["Commissioning", "Season's end, as found", "Season's end, as left"]) {
    await expect(rows.filter({ hasText: visit })).toHaveCount(1);
  }
  await expect(page.locator("[data-crossing]")).toHaveAttribute("data-crossing", "below");
  await expect(page.locator("[data-crossing]")).toContainText(/falls by \d\.\d ± \d\.\d % a year/);
  await expectAccessible(page);
});

test("what is said of a visit is kept, and its limits decide", async ({ page }) => {
  await page.goto("/jobs/ennet-glasshouses-transfer/measure");
  await page.getByText(/^Seen to: 0 of 5/).click();
  await page.getByLabel("Outlet tied down, people clear of it").check();
  await page.getByLabel("Who measured").fill("Wren");
  await page.getByRole("button", { name: "Agree on limits of your own" }).click();
  await page.getByLabel("Head may be short by").fill("30");
  await page.getByLabel("Flow may be short by").fill("30");
  await page.getByLabel("Measured by").selectOption("meter");
  await page.getByLabel("Meter reads", { exact: true }).fill("2.9 L/s");
  await unfold(page, "I also have a gauge");
  await page.getByLabel("Gauge reads").fill("1.3 bar");
  await expect(page.locator("[data-acceptance]")).toHaveAttribute("data-acceptance", "meets");
  await page.getByRole("button", { name: "File this reading" }).click();
  await expect(page.getByText("Reading filed.")).toBeVisible();
  await page.reload();
  await expect(page.getByText("Seen to: 1 of 5, by Wren, limits 30.0 % and 30.0 %")).toBeVisible();
  // Once on file it is saved a moment after it is typed.
  await page.getByText(/^Seen to: 1 of 5/).click();
  const kept = page.waitForResponse(
    (answer) => answer.request().method() === "PUT" && answer.url().includes("/api/tests/"),
  );
  await page.getByLabel("Pressure let off before a joint was opened").check();
  await kept;
  await page.reload();
  await expect(page.getByText(/^Seen to: 2 of 5, by Wren/)).toBeVisible();
  // Somebody else writes a note to the visit meanwhile: what is said here next is said beside it.
  await page.getByText(/^Seen to: 2 of 5/).click();
  const job = new URL(page.url()).pathname.split("/")[2];
  const visits = await (await page.request.get(`/api/jobs/${job}/tests`)).json();
  const visit = visits.find(
    ({ document }: { document: { by?: string } }) => document.by === "Wren",
  );
  const document = { ...visit.document, note: "Gate is locked after six" };
  const data = { revision: visit.revision, document };
  expect((await page.request.put(`/api/tests/${visit.id}`, { data })).status()).toBe(200);
  page.removeAllListeners("console");
  await page.getByLabel("Pump lifted by rope or handle, never by its cable").check();
  await expect(async () => {
    const now = await (await page.request.get(`/api/tests/${visit.id}`)).json();
    expect(now.document).toMatchObject({ note: "Gate is locked after six" });
    expect(now.document.cautions).toHaveLength(3);
  }).toPass();
});

test("as left stands beside as found, and two set-ups beside each other", async ({ page }) => {
  await page.goto("/jobs/ennet-glasshouses-transfer/measure");
  await page.getByRole("button", { name: /Season's end, as left/ }).click();
  const both = page.getByRole("article", { name: "As left beside As found" });
  await expect(both).toContainText("Flow: As left has 1.267 ± 0.010 times as much.");

  await page.goto("/jobs/ketterby-hurling-ground/measure");
  await page.getByText(/^Seen to:/).click();
  await page.getByRole("button", { name: "Hold two set-ups side by side" }).click();
  await page.getByLabel("Set-up 1", { exact: true }).fill("One gun");
  await page.getByLabel("Set-up 2", { exact: true }).fill("Two guns");
  await page.getByLabel("Measured by").selectOption("meter");
  for (const [setup, flow, thrown] of [
    ["One gun", "3.1 L/s", "18 m"],
    ["Two guns", "3.7 L/s", "12 m"],
  ] as const) {
    await page.getByLabel("Which set-up").selectOption(setup);
    await page.getByLabel("Meter reads", { exact: true }).fill(flow);
    await page.getByLabel("Throw").fill(thrown);
    await page.getByRole("button", { name: "File this reading" }).click();
    await expect(page.getByText("Reading filed.").last()).toBeVisible();
  }
  const guns = page.getByRole("article", { name: "Two guns beside One gun" });
  await expect(guns).toContainText(/Flow: Two guns has 1\.19\d? ± /);
  await expect(guns).toContainText(/Throw: Two guns has 0\.6\d* ± /);
});

test("a job leaves with its tests and pictures as one file, and another installation opens it", async ({
  page,
  elsewhere,
}) => {
  const job = "/jobs/ketterby-hurling-ground/measure";
  await page.goto(job);
  await page
    .getByLabel("Picture", { exact: true })
    .setInputFiles("docs/screenshots/phone-measure.png");
  await expect(page.getByRole("img", { name: "Picture 1" })).toBeVisible();
  await page.getByLabel("Measured by").selectOption("meter");
  await page.getByLabel("Meter reads", { exact: true }).fill("3 L/s");
  await page.getByRole("button", { name: "File this reading" }).click();
  await expect(page.getByText("Reading filed.")).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "All as one file" }).click(),
  ]);
  const file = await download.path();
  const bundle = JSON.parse(readFileSync(file, "utf8"));
  expect(bundle.tests.length).toBeGreaterThan(1);
  expect(bundle.pictures).toHaveLength(1);

  const other = await startServer([]);
  try {
    const there = await elsewhere.newPage();
    await there.goto(`${other.address}/`);
    await there.getByLabel("Job file").setInputFiles(file);
    await there.waitForURL(/\/measure$/);
    await expect(there.getByRole("button", { name: /Gun throws short.*1 reading/ })).toBeVisible();
    const picture = there.getByRole("img", { name: "Picture 1" });
    await expect(picture).toBeVisible();
    const width = await picture.evaluate((own) => (own as HTMLImageElement).naturalWidth);
    expect(width).toBeGreaterThan(100);
    await there.close();
  } finally {
    other.stop();
  }
});

test("a real pump has a serial number, a warranty and a place, and is tested on the stand without a job", async ({
  page,
}) => {
  await page.goto("/pumps/brackle-run-35");
  await page.getByRole("button", { name: "Keep one of them" }).click();
  await page.waitForURL(/\/units\//);
  // The address changes before the page does, and the one before asks for a number too.
  await expect(page.getByLabel("Where it stands")).toBeVisible();
  await page.getByLabel("Serial number").fill("BR35-0417");
  await page.getByLabel("Where it stands").fill("Ennet Glasshouses, pump house");
  await page.getByLabel("Warranty until").fill("2027-04-30");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Saved.")).toBeVisible();
  await expectAccessible(page);
  await page.getByRole("link", { name: "Test it on the stand" }).click();
  await expect(page.getByRole("heading", { name: /BR35-0417: on the stand/ })).toBeVisible();
  await page.getByLabel("Measured by").selectOption("meter");
  await page.getByLabel("Meter reads", { exact: true }).fill("3 L/s");
  await unfold(page, "I also have a gauge");
  await page.getByLabel("Gauge reads").fill("1.7 bar");
  await expect(page.locator("[data-acceptance]")).toBeVisible();
  await page.getByRole("button", { name: "File this reading" }).click();
  await expect(page.getByText("Reading filed.")).toBeVisible();
  await expect(page.getByRole("button", { name: /On the shop’s stand.*1 reading/ })).toBeVisible();
  await page.getByRole("link", { name: "The pump", exact: true }).click();
  await expect(page.getByRole("link", { name: "On the shop’s stand" })).toBeVisible();

  // On a job it is said which of them it was.
  await page.goto("/jobs/ennet-glasshouses-transfer/measure");
  await page.getByText(/^Seen to:/).click();
  await page.getByLabel("Which pump of this model").selectOption("BR35-0417");
  await expect(page.getByLabel("Which pump of this model")).not.toHaveValue("");
});
