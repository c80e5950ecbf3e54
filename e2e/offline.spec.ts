import { expect, saved, stage, test, unfold } from "./harness.ts";

test.use({ serviceWorkers: "allow" });

test("without a network it opens, is edited, times a bucket and files; back on line all is there once", async ({
  page,
  context,
}) => {
  // All of the application is fetched once more, to be kept.
  test.slow();
  // The browser itself reports every request that fails; that is not the application's error.
  page.removeAllListeners("console");
  const job = "/jobs/ennet-glasshouses-transfer";
  await page.goto(`${job}/line`);
  await expect(page.getByTestId("duty")).toContainText("L/s");
  // Until what the page is made of, and what it read, is kept.
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
    const answers = await caches.open("answers");
    while (!(await answers.match("/api/jobs/ennet-glasshouses-transfer"))) {
      await new Promise((done) => setTimeout(done, 100));
    }
  });
  await stage(page, "Measure").click();
  await expect(page.getByText("Falls short of its curve").first()).toBeVisible();
  // What instruments stream goes past what is kept for later.
  await unfold(page, "I have instruments that stream");
  await page.getByRole("button", { name: "Start the simulated box" }).click();
  await expect(page.locator("[data-channel=flow]")).toBeVisible();
  const kept = await page.evaluate(async () => {
    const answers = await caches.open("answers");
    return (await answers.keys()).filter(({ url }) => url.includes("/api/streams")).length;
  });
  expect(kept).toBe(0);
  await page.goto("/");
  await page.getByRole("region", { name: "Jobs" }).getByRole("listitem").first().waitFor();

  await context.setOffline(true);
  await page.reload();
  await expect(page.getByRole("status").filter({ hasText: "as it was last read" })).toBeVisible();
  await page.getByRole("link", { name: /Ennet Glasshouses/ }).click();
  await stage(page, "Need").click();
  const datum = page.getByLabel("Levels measured from");
  await datum.fill("Door sill");
  await expect(page.getByRole("status").filter({ hasText: "kept on this device" })).toBeVisible();
  await stage(page, "Measure").click();
  await page.getByLabel("Bucket holds").fill("60 L");
  const watch = page.getByTestId("watch").locator("..");
  await watch.click();
  await page.waitForTimeout(250);
  await watch.click();
  await page.getByLabel("Fill 1", { exact: true }).fill("19.2 s");
  await page.getByLabel("Note").fill("In the dark");
  await page.getByRole("button", { name: "File this reading" }).click();
  await expect(page.getByText("kept on this device and goes by itself")).toBeVisible();
  // A job can be begun there too, with a reading on it.
  await page.goto("/new/plain-line");
  await page.getByLabel("Place").fill("The far bank");
  await page.getByRole("button", { name: "Start with what is there" }).click();
  await expect(page.getByLabel("Name of the job")).toHaveValue(/^Line, The far bank/);
  const begun = new URL(page.url()).pathname.split("/")[2];
  await page.reload();
  await expect(page.getByLabel("Name of the job")).toHaveValue(/^Line, The far bank/);
  await page.goto("/");

  await context.setOffline(false);
  await page.reload();
  await expect(page.getByRole("region", { name: "Not saved yet" })).toHaveCount(0);
  const api = page.request;
  await expect
    .poll(
      async () =>
        (await (await api.get("/api/jobs/ennet-glasshouses-transfer")).json()).document.datum,
    )
    .toBe("Door sill");
  const filed = async () => {
    const tests = await (await api.get("/api/jobs/ennet-glasshouses-transfer/tests")).json();
    const notes = tests.flatMap((test: { readings: { document: { note?: string } }[] }) =>
      test.readings.map(({ document }) => document.note),
    );
    return notes.filter((note: string) => note === "In the dark").length;
  };
  await expect.poll(filed).toBe(1);
  await expect.poll(async () => (await api.get(`/api/jobs/${begun}`)).status()).toBe(200);
  const listed: { name: string }[] = await (await api.get("/api/jobs")).json();
  expect(listed.filter(({ name }) => name.startsWith("Line, The far bank"))).toHaveLength(1);
  // What was sent is not sent again.
  await page.reload();
  await page.waitForTimeout(2000);
  expect(await filed()).toBe(1);
  await page.goto(`${job}/need`);
  await expect(datum).toHaveValue("Door sill");
  await datum.fill("Pump-house floor");
  await saved(page);
});
