import type { Page } from "@playwright/test";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { bare, expect, saved, stage, test } from "./harness.ts";

/** A job of each kind of place, and every stage of those that have one of their own. */
const AT = DEMO_JOBS.flatMap(({ id }) =>
  /borehole|hurling|glasshouses/.test(id)
    ? ["need", "well", "line", "pump", "ground"].map((stage) => `/jobs/${id}/${stage}`)
    : [`/jobs/${id}`],
);
const PAGES = ["/", "/new", "/new/sump-riser", "/new/pond-to-field", ...AT];

// What draws pages may have to be waited for once: the first page of all is sent without.
const drawn = (page: Page, path: string) =>
  expect(async () => {
    await page.goto(path);
    await expect(page.locator("#root[data-drawn]")).toHaveCount(1, { timeout: 100 });
  }).toPass();

test.describe("without a single script", () => {
  test.use({ javaScriptEnabled: false, locale: "en-US" });

  bare("the board says what each job comes to", async ({ page }) => {
    await drawn(page, "/");
    for (const { job } of DEMO_JOBS) {
      await expect(page.getByRole("link", { name: job.name })).toBeVisible();
    }
    await expect(page.getByRole("link", { name: /^Ennet Glasshouses: lagoon/ })).toContainText(
      "gpm",
    );
  });

  bare("a job says its duty, what to watch, and how it is laid", async ({ page }) => {
    await drawn(page, "/jobs/ennet-glasshouses-transfer/line");
    await expect(page.getByTestId("duty")).toContainText(/\dgpm/);
    const checks = page.getByRole("list", { name: "Checks", exact: true });
    await expect(checks).toContainText("Suction too fast");
    await expect(checks).toContainText("ft/s");
    await expect(page.getByLabel("Name of the job")).toHaveValue(/Ennet Glasshouses/);
    await expect(page.getByRole("region", { name: "Section" }).locator("svg")).toBeVisible();
  });
});

/** Keeps a file of scripts from being there until it is let go. */
async function hold(page: Page, file: string): Promise<() => void> {
  let go = () => {};
  const held = new Promise<void>((done) => {
    go = done;
  });
  await page.route(`**/assets/${file}-*.js`, async (route) => {
    await held;
    await route.continue();
  });
  return go;
}

/** Waits until a page is sent with its first view. */
const comesDrawn = (page: Page, path: string) =>
  expect(async () => {
    expect(await (await page.request.get(path)).text()).toContain("data-drawn");
  }).toPass();

/** Opens a page of which something is held: one that came with its first view. Resolves to what waits until it answers. */
async function openDrawn(page: Page, path: string): Promise<{ opening: Promise<unknown> }> {
  for (;;) {
    const read = page.waitForEvent("domcontentloaded");
    const opening = page.goto(path);
    await read;
    if ((await page.locator("#root[data-drawn]").count()) > 0) return { opening };
    // What draws it was not in time.
    await opening;
  }
}

/** How many elements the page was sent with, and how many of them are still those. */
const KEPT = `
  document.addEventListener("DOMContentLoaded", () => {
    const root = document.getElementById("root");
    const sent = [...root.querySelectorAll("*")];
    window.kept = () => [sent.length, sent.filter((each) => each.isConnected).length];
  });
`;

/**
 * How much has moved, but for what the faces it is written in moved: on a busy machine they come after the first paint.
 * Those are what moves from the frame in which the first of them came to the second frame after all were there.
 */
const SHIFTS = `
  const moves = [];
  let there = 0;
  new PerformanceObserver((list) => moves.push(...list.getEntries())).observe({ type: "layout-shift", buffered: true });
  document.fonts.addEventListener("loadingdone", () => {
    there = Infinity;
    requestAnimationFrame(() => requestAnimationFrame(() => { there = performance.now(); }));
  });
  window.shifted = () => {
    const faces = performance.getEntriesByType("resource").filter(({ name }) => name.endsWith(".woff2"));
    const came = Math.min(...faces.map(({ responseEnd }) => responseEnd)) - 1000 / 60;
    return moves
      .filter(({ startTime }) => startTime < came || startTime > there)
      .reduce((sum, { value }) => sum + value, 0);
  };
`;

for (const path of PAGES) {
  test(`${path} goes on from what was sent: nothing is drawn anew, nothing jumps`, async ({
    page,
  }) => {
    await page.addInitScript({ content: KEPT });
    await page.addInitScript({ content: SHIFTS });
    // Until what draws it has drawn it in time.
    await expect(async () => {
      await page.goto(path);
      const [sent, kept] = await page.evaluate<[number, number]>("kept()");
      expect(sent).toBeGreaterThan(50);
      expect(kept).toBeGreaterThan(sent * 0.95);
    }).toPass();
    // Where pumps are chosen the room of one card is kept, and three may come.
    const most = path.endsWith("/pump") ? 0.02 : 0.01;
    expect(await page.evaluate<number>("shifted()")).toBeLessThan(most);
  });
}

test("what is preferred on this device is how the next page comes", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: /^Units/ }).click();
  await page.getByRole("button", { name: "Dark" }).click();
  const path = "/jobs/tallow-mill-wheel-pit/line";
  await expect(async () => {
    const html = await (await page.request.get(path)).text();
    expect(html).toContain('data-theme="dark"');
    expect(html).toMatch(/\d<span class="[^"]*">gpm<\/span>/);
  }).toPass();
});

test("a draft of this device is never lost to what was sent", async ({ page }) => {
  await page.goto("/new/sump-riser");
  const field = page.locator("main input[inputmode=text]").first();
  await field.fill("7.5");
  await page.reload();
  await expect(field).toHaveValue("7.5");
  await page.getByLabel("Place", { exact: true }).fill("Weir Lane");
  await page.reload();
  await expect(page.getByLabel("Place", { exact: true })).toHaveValue("Weir Lane");
});

bare.describe("without a script, where metres are read", () => {
  bare.use({ javaScriptEnabled: false });
  bare("a job comes in them: nobody has chosen yet", async ({ page }) => {
    await drawn(page, "/jobs/ennet-glasshouses-transfer/line");
    await expect(page.getByTestId("duty")).toContainText("L/s");
  });
});

test("a page that is opened again shows what stands now, not what its fields held", async ({
  page,
}) => {
  const path = "/jobs/bramble-rigg-yard/need";
  await comesDrawn(page, path);
  await page.goto(path);
  const datum = page.getByLabel("Levels measured from");
  await datum.fill("The gully’s grating");
  await saved(page);
  const { revision, document } = await (
    await page.request.get("/api/jobs/bramble-rigg-yard")
  ).json();
  const data = { revision, document: { ...document, datum: "The gate’s sill" } };
  expect((await page.request.put("/api/jobs/bramble-rigg-yard", { data })).status()).toBe(200);
  await comesDrawn(page, path);
  // As a browser does that keeps what fields held.
  await page.addInitScript(() =>
    addEventListener("DOMContentLoaded", () => {
      const fields = document.querySelectorAll("main input[type=text]");
      for (const field of fields) if (/grating|sill/.test(field.value)) field.value = "As it was";
    }),
  );
  await page.reload();
  await expect(datum).toHaveValue("The gate’s sill");
  await page.getByLabel("Customer", { exact: true }).fill("Weir Lane");
  await expect(datum).toHaveValue("The gate’s sill");
});

test("what is typed before the application is there is heard once it is", async ({ page }) => {
  const go = await hold(page, "application");
  const path = "/new/sump-riser";
  const { opening } = await openDrawn(page, path);
  await expect(page.locator("head link[rel=modulepreload]").first()).toBeAttached();
  const field = page.locator("main input[inputmode=text]").first();
  await field.fill("7.5");
  await field.press("Enter");
  await page.getByLabel("Place", { exact: true }).fill("Weir Lane");
  go();
  await opening;
  await expect(page).toHaveURL(path);
  await expect(page.getByRole("button", { name: "Clear" })).toBeVisible();
  await expect(field).toHaveValue("7.5");
  await page.reload();
  await expect(field).toHaveValue("7.5");
  await expect(page.getByLabel("Place", { exact: true })).toHaveValue("Weir Lane");
});

test("nothing but links answers before the application is there, and everything once it is", async ({
  page,
}) => {
  const go = await hold(page, "application");
  const path = "/jobs/tallow-mill-wheel-pit/line";
  const { opening } = await openDrawn(page, path);
  const section = page.getByRole("button", { name: "Fold the section (F)" });
  await expect(section).toBeVisible();
  await expect(section).toHaveCSS("pointer-events", "none");
  await expect(stage(page, "Pump")).toHaveCSS("pointer-events", "auto");
  go();
  await opening;
  await section.click();
  await expect(page.getByRole("button", { name: "Unfold the section (F)" })).toBeVisible();
  await saved(page);
});

test("what a view is made of is waited for, and what was sent of it stays", async ({ page }) => {
  const path = "/jobs/tallow-mill-wheel-pit/line?view=sizes";
  const go = await hold(page, "SizeSheet");
  const { opening } = await openDrawn(page, path);
  const lay = page.getByRole("button", { name: /^Lay / }).first();
  await expect(lay).toHaveCSS("pointer-events", "none");
  const sent = await lay.elementHandle();
  go();
  await opening;
  expect(await sent?.evaluate((element) => element.isConnected)).toBe(true);
  await lay.click();
  await expect(page.getByRole("button", { name: "Undo (Ctrl Z)" })).toBeEnabled();
  await saved(page);
});
