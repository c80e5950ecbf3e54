import type { BrowserContext, Page } from "@playwright/test";
import { test as base, expect, saved } from "./harness.ts";

/** Every test has a job of its own, and pages whose network may fail without that being an error. */
const test = base.extend<{ job: string }>({
  job: async ({ request }, use, { testId }) => {
    const id = `outbox-${testId.replace(/[^a-z0-9]/g, "").slice(-12)}-${Date.now().toString(36)}`;
    const [first] = await (await request.get("/api/jobs")).json();
    const { document } = await (await request.get(`/api/jobs/${first.id}`)).json();
    await request.put(`/api/jobs/${id}`, {
      data: { revision: 0, document: { ...document, name: "Before" } },
    });
    await use(id);
  },
});

const nameField = (page: Page) => page.getByRole("textbox", { name: "Name of the job" });
async function open(context: BrowserContext, job: string): Promise<Page> {
  const page = await context.newPage();
  await page.goto(`/jobs/${job}`);
  await expect(nameField(page)).toBeVisible();
  return page;
}
/** The server's answers to saves do not arrive, nor the saves themselves. */
const cutOff = (page: Page) =>
  page.route("**/api/jobs/*", (route) =>
    route.request().method() === "PUT" ? route.abort() : route.continue(),
  );
const status = (page: Page, text: RegExp) =>
  expect(page.getByRole("status").filter({ hasText: text })).toBeVisible();
const nameOnServer = async (page: Page, job: string) =>
  (await (await page.request.get(`/api/jobs/${job}`)).json()).document.name as string;

test("a tab that saves leaves what another tab holds alone", async ({ context, job }) => {
  const offline = await open(context, job);
  await cutOff(offline);
  await nameField(offline).fill("Typed without network");
  await status(offline, /kept on this device/);
  const online = await open(context, job);
  await nameField(online).fill("Saved by the other tab");
  await saved(online);
  await offline.unroute("**/api/jobs/*");
  const dialog = offline.getByRole("dialog", { name: "Changed in two places" });
  await expect(dialog).toBeVisible();
  await dialog.getByRole("button", { name: "Keep mine, replace the other" }).click();
  await saved(offline);
  expect(await nameOnServer(offline, job)).toBe("Typed without network");
});

test("two people change one job: what differs is kept of both", async ({
  context,
  elsewhere,
  job,
}) => {
  const [mine, theirs] = [await open(context, job), await open(elsewhere, job)];
  await cutOff(mine);
  await nameField(mine).fill("Named by me");
  await status(mine, /kept on this device/);
  await theirs.goto(`/jobs/${job}/need`);
  await theirs.getByLabel("Levels measured from").fill("Their sill");
  await saved(theirs);
  await expect.poll(() => nameOnServer(theirs, job)).toBe("Before");
  await mine.unroute("**/api/jobs/*");
  const dialog = mine.getByRole("dialog", { name: "Changed in two places" });
  await expect(dialog).toContainText("different things: both can be kept");
  await dialog.getByRole("button", { name: "Keep both" }).click();
  await saved(mine);
  const { document } = await (await mine.request.get(`/api/jobs/${job}`)).json();
  expect(document).toMatchObject({ name: "Named by me", datum: "Their sill" });
});

test("a save the server could not take is tried again until it can, and that is said", async ({
  context,
  job,
}) => {
  const page = await open(context, job);
  const refusals = [
    [503, "failed", "The database did not answer in time."],
    [507, "no-room", "The disk is full."],
    [429, "failed", "Too many at once."],
  ] as const;
  let asked = 0;
  await page.route("**/api/jobs/*", (route) => {
    if (route.request().method() !== "PUT") return route.continue();
    const refusal = refusals[asked++];
    if (!refusal) return route.continue();
    const [status, error, message] = refusal;
    return route.fulfill({ status, json: { error, message } });
  });
  await nameField(page).fill("Taken in the end");
  await status(page, /did not answer in time.*Kept on this device.*tried again/);
  await status(page, /The disk is full.*tried again/);
  await saved(page);
  expect(asked).toBe(refusals.length + 1);
  expect(await nameOnServer(page, job)).toBe("Taken in the end");
});

test("of two tabs closed without network neither's change is lost", async ({ context, job }) => {
  const tabs = [await open(context, job), await open(context, job)] as const;
  await context.setOffline(true);
  for (const [i, name] of ["First tab", "Second tab"].entries()) {
    await nameField(tabs[i] as Page).fill(name);
    await status(tabs[i] as Page, /kept on this device/);
  }
  for (const tab of tabs) await tab.close();
  await context.setOffline(false);
  const page = await context.newPage();
  await page.goto(`/jobs/${job}`);
  // One of them comes back at once: the later, unless the browser has not let go of its tab yet.
  await expect(nameField(page)).toHaveValue(/^(First|Second) tab$/);
  const other = (await nameField(page).inputValue()) === "First tab" ? "Second tab" : "First tab";
  await saved(page);
  await page.getByRole("link", { name: "Jobs", exact: true }).click();
  const held = page.getByRole("region", { name: "Not saved yet" });
  await expect(held).toContainText(other);
  await expect(held).toContainText("changed or deleted somewhere else");
  await held.getByRole("button", { name: "Keep as a job of its own" }).click();
  await expect(nameField(page)).toHaveValue(other);
});

test("a large job left by a link right after a change is saved", async ({ context, job }) => {
  const page = await context.newPage();
  const { document, revision } = await (await page.request.get(`/api/jobs/${job}`)).json();
  const large = { ...document, later: "x".repeat(100_000) };
  await page.request.put(`/api/jobs/${job}`, { data: { revision, document: large } });
  await page.goto(`/jobs/${job}`);
  await nameField(page).fill("Left at once");
  await page.getByRole("link", { name: "Pumps", exact: true }).click();
  await expect.poll(() => nameOnServer(page, job)).toBe("Left at once");
  // And one closed at once is saved when the application is next opened, whatever page that is.
  await page.goto(`/jobs/${job}`);
  await nameField(page).fill("Closed at once");
  await page.waitForTimeout(100);
  await page.close({ runBeforeUnload: false });
  const next = await context.newPage();
  await next.goto("/pumps");
  await expect.poll(() => nameOnServer(next, job)).toBe("Closed at once");
});

test("a reload while a save is under way is no conflict, and loses nothing", async ({
  context,
  job,
}) => {
  const page = await open(context, job);
  let arrived = false;
  await page.route("**/api/jobs/*", async (route) => {
    if (route.request().method() !== "PUT") return route.continue();
    // The save reaches the server; its answer never comes.
    await route.fetch();
    arrived = true;
  });
  await nameField(page).fill("Sent");
  await expect.poll(() => arrived).toBe(true);
  await nameField(page).fill("Sent, and more typed");
  await page.waitForTimeout(150);
  await page.unroute("**/api/jobs/*");
  await page.reload();
  await expect(nameField(page)).toHaveValue("Sent, and more typed");
  await saved(page);
  await expect(page.getByRole("dialog")).toHaveCount(0);
  expect(await nameOnServer(page, job)).toBe("Sent, and more typed");
});

test("where the device has no room the page says so, and asks before it is closed", async ({
  context,
  job,
}) => {
  const page = await context.newPage();
  await page.addInitScript(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException("full", "QuotaExceededError");
    };
  });
  await page.goto(`/jobs/${job}`);
  await cutOff(page);
  await nameField(page).fill("Nowhere but here");
  await status(page, /no room to keep it: leave this page open/);
  let asked = false;
  page.on("dialog", (dialog) => {
    asked = dialog.type() === "beforeunload";
    void dialog.dismiss();
  });
  await page.close({ runBeforeUnload: true });
  await expect.poll(() => asked).toBe(true);
  await page.unroute("**/api/jobs/*");
  await saved(page);
});

test("what is held of a job deleted elsewhere can be reached and kept", async ({
  context,
  job,
}) => {
  const page = await open(context, job);
  await cutOff(page);
  await nameField(page).fill("Not to be lost");
  await status(page, /kept on this device/);
  await page.close();
  const next = await context.newPage();
  await next.request.delete(`/api/jobs/${job}`);
  await next.goto(`/jobs/${job}`);
  await expect(next.getByText("There is no such job")).toBeVisible();
  const held = next.getByRole("region", { name: "Not saved yet" });
  await expect(held).toContainText("Not to be lost");
  await held.getByRole("button", { name: "Keep as a job of its own" }).click();
  await expect(nameField(next)).toHaveValue("Not to be lost");
  await next.goto("/");
  await expect(next.getByRole("link", { name: /Not to be lost/ })).toBeVisible();
  await expect(held).toHaveCount(0);
});

test("a reading filed without network, with a picture, goes by itself and is there once", async ({
  context,
  job,
}) => {
  const page = await context.newPage();
  await page.goto(`/jobs/${job}/measure`);
  await expect(page.getByText("None yet.")).toBeVisible();
  await expect(page.locator(".js-plotly-plot")).toBeVisible();
  await page.getByLabel("Measured by").selectOption("meter");
  await page.getByLabel("Meter reads").fill("3 L/s");
  await expect(page.locator("[data-kept]")).toBeVisible();
  await context.setOffline(true);
  const drawn = await page.evaluate(() => {
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [2600, 1300];
    canvas.getContext("2d")?.fillRect(0, 0, 900, 900);
    return canvas.toDataURL("image/png").split(",")[1] as string;
  });
  await page.getByLabel("Picture", { exact: true }).setInputFiles({
    ...{ name: "gauge.png", mimeType: "image/png", buffer: Buffer.from(drawn, "base64") },
  });
  const picture = page.getByRole("region", { name: "Reading" }).getByRole("img");
  await expect(picture).toHaveJSProperty("naturalWidth", 2000);
  await page.getByRole("button", { name: "File this reading" }).click();
  const list = page.getByRole("region", { name: "Measured against rated" });
  await expect(list.getByText("On this device only")).toBeVisible();
  await expect(list.getByRole("listitem").getByRole("img")).toHaveJSProperty("naturalWidth", 2000);
  await page.close();

  await context.setOffline(false);
  const next = await context.newPage();
  // The first sending arrives and its answer is lost: sent again it is still one reading.
  let lost = 0;
  await next.route("**/api/readings/*", async (route) => {
    if (lost++ > 0) return route.continue();
    await route.fetch();
    await route.abort();
  });
  await next.goto("/");
  const readings = async () =>
    (await (await next.request.get(`/api/jobs/${job}/tests`)).json()).flatMap(
      ({ readings: those }: { readings: unknown[] }) => those,
    ) as { document: { attachments: string[] } }[];
  await expect.poll(async () => (await readings()).length).toBe(1);
  await next.evaluate(() => dispatchEvent(new Event("online")));
  await expect.poll(() => lost).toBe(2);
  await next.goto(`/jobs/${job}/measure`);
  await expect(next.getByText("On this device only")).toHaveCount(0);
  const visits = next.getByRole("region", { name: "Measured against rated" });
  await expect(visits.getByRole("button", { name: /1 reading$/ })).toHaveCount(1);
  await expect(visits.getByRole("listitem").getByRole("img")).toHaveJSProperty(
    "naturalWidth",
    2000,
  );
  const [reading] = await readings();
  const content = await next.request.get(
    `/api/attachments/${reading?.document.attachments[0]}/content`,
  );
  expect(content.headers()["content-type"]).toBe("image/jpeg");
});

test("what is said of a visit without network outlives a reload, and stands beside what others said", async ({
  context,
  job,
}) => {
  const page = await context.newPage();
  const on = new Date();
  const day = `${on.getFullYear()}-${`${on.getMonth() + 1}`.padStart(2, "0")}-${`${on.getDate()}`.padStart(2, "0")}`;
  const visit = {
    ...{ format: "upright-gusher/field-test", version: 3, title: "A visit", takenOn: day },
    jobId: job,
  };
  const place = `/api/tests/visit-${job}`;
  expect((await page.request.put(place, { data: { revision: 0, document: visit } })).ok()).toBe(
    true,
  );
  await page.goto(`/jobs/${job}/measure`);
  const details = page.locator("details", { hasText: "Seen to:" });
  await details.locator("summary").click();
  const note = page.getByLabel("About the visit");
  await page.route("**/api/tests/*", (route) =>
    route.request().method() === "PUT" ? route.abort() : route.continue(),
  );
  const tried = page.waitForRequest(
    (request) => request.method() === "PUT" && request.url().includes("/tests/"),
  );
  await note.fill("The sill was flooded");
  await tried;
  // Somebody else says something else of it meanwhile.
  const theirs = { ...visit, by: "Sedge" };
  expect((await page.request.put(place, { data: { revision: 1, document: theirs } })).ok()).toBe(
    true,
  );
  await page.reload();
  await details.locator("summary").click();
  await expect(note).toHaveValue("The sill was flooded");
  await page.unroute("**/api/tests/*");
  await page.evaluate(() => dispatchEvent(new Event("online")));
  await expect
    .poll(async () => (await (await page.request.get(place)).json()).document)
    .toMatchObject({ note: "The sill was flooded", by: "Sedge" });
});

test("hundreds of readings held on this device: what is in sight is drawn, and all of them go", async ({
  context,
  job,
}) => {
  const page = await context.newPage();
  await page.route("**/api/readings/*", (route) => route.abort());
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "Jobs", exact: true })).toBeVisible();
  const testId = `days-${job}`;
  const count = 400;
  await page.evaluate(
    async ({ job, testId, count }) => {
      const db = await new Promise<IDBDatabase>((done, failed) => {
        const asked = indexedDB.open("upright-gusher", 1);
        asked.onsuccess = () => done(asked.result);
        asked.onerror = () => failed(asked.error);
      });
      const tx = db.transaction("outbox", "readwrite");
      const put = (collection: string, id: string, document: object) =>
        tx.objectStore("outbox").put({
          ...{
            key: `${collection}/${id}/gone`,
            collection,
            id,
            tab: "gone",
            base: 0,
            document,
            job,
          },
          ...{ at: new Date(Date.now() - 60_000).toISOString(), state: "waiting" },
        });
      put("tests", testId, {
        ...{ format: "upright-gusher/field-test", version: 3, title: "Days", jobId: job },
        ...{ takenOn: "2026-05-02", configuration: "as-found" },
      });
      for (let i = 0; i < count; i++) {
        put("readings", `${testId}-${i}`, {
          ...{ format: "upright-gusher/reading", version: 5, testId },
          ...{ takenAt: new Date(Date.UTC(2026, 4, 2, 8, 0, i)).toISOString() },
          flow: { method: "meter", flow: 0.003, tolerance: 0.02 },
        });
      }
      await new Promise((done) => {
        tx.oncomplete = done;
      });
      db.close();
    },
    { job, testId, count },
  );
  await page.reload();
  const unsaved = page.getByRole("region", { name: "Not saved yet" });
  await expect(unsaved.getByText(`On this device only: ${count}`)).toBeVisible();
  expect(await unsaved.getByRole("listitem").count()).toBeLessThan(40);
  await unsaved.getByRole("listitem").first().hover();
  await page.mouse.wheel(0, 100_000);
  await expect(unsaved.getByRole("button", { name: "Throw away …" }).first()).toBeVisible();
  await page.unroute("**/api/readings/*");
  await page.evaluate(() => dispatchEvent(new Event("online")));
  const arrived = async () =>
    (
      (await (await page.request.get("/api/jobs")).json()) as { id: string; readings: number }[]
    ).find(({ id }) => id === job)?.readings;
  await expect.poll(arrived).toBe(count);
  await expect(unsaved).toHaveCount(0);
});
