import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { AxeBuilder } from "@axe-core/playwright";
import { type BrowserContext, test as base, expect, type Page } from "@playwright/test";
import { serverOf } from "./servers.ts";

/** Pages of the server that this worker has. One that is opened is gone on with when it answers to what is done. */
export const bare = base.extend<{ elsewhere: BrowserContext; demo: undefined }>({
  baseURL: async ({ browserName: _ }, use, { parallelIndex }) => {
    await use(serverOf(parallelIndex).address);
  },
  context: async ({ context, javaScriptEnabled }, use) => {
    if (javaScriptEnabled) context.on("page", answersWhenOpened);
    await use(context);
  },
  // What another file did to the jobs is none of this one's matter: the files may come in any order.
  demo: [
    async ({ request }, use, { file: here }) => {
      if (here !== file) expect((await request.post("/api/demo/reset")).ok()).toBe(true);
      file = here;
      await use(undefined);
    },
    { auto: true },
  ],
  /** Another person, or another device. */
  elsewhere: async ({ browser, contextOptions }, use) => {
    const context = await browser.newContext(contextOptions);
    context.on("page", answersWhenOpened);
    await use(context);
    await context.close();
  },
});

/** What a page shows before the application is there can be read, and not typed into yet. */
export function answersWhenOpened(page: Page): void {
  const answers = () => expect(page.locator("#root[data-drawn]")).toHaveCount(0);
  const { goto, reload } = page;
  page.goto = async (...args) => {
    const response = await goto.apply(page, args);
    await answers();
    return response;
  };
  page.reload = async (...args) => {
    const response = await reload.apply(page, args);
    await answers();
    return response;
  };
}

/** Where the last test of this process stood: another file begins with the demo as it was. */
let file = "";

/** A page that fails its test on any console error, uncaught error or request to another host. */
export const test = bare.extend<{ page: Page }>({
  page: async ({ page, baseURL }, use) => {
    const trouble: string[] = [];
    page.on("console", (message) => {
      if (message.type() === "error") trouble.push(message.text());
    });
    page.on("pageerror", (error) => trouble.push(error.message));
    page.on("request", (request) => {
      const url = request.url();
      if (!url.startsWith(baseURL ?? "") && !/^(data|blob):/.test(url))
        trouble.push(`asked ${url}`);
    });
    await use(page);
    expect(trouble).toEqual([]);
  },
});

export { expect } from "@playwright/test";

/**
 * No violation that assistive technology would meet, with the WCAG AA rules on; in all of the page or a part of it, and
 * of all the rules or of those named.
 */
export async function expectAccessible(
  page: Page,
  part = "body",
  rules?: readonly string[],
): Promise<void> {
  // Reading a whole page rule by rule takes its time on a busy machine.
  base.slow();
  // What is being worked out anew stands pale until it is there.
  await expect(page.locator('[aria-busy="true"], .opacity-60')).toHaveCount(0);
  const axe = new AxeBuilder({ page })
    // Nothing here is in a frame: the page is read at one go, without a second page to gather in.
    .setLegacyMode()
    .include(part)
    .exclude(".js-plotly-plot");
  if (rules) axe.withRules([...rules]);
  const { violations } = await axe.analyze();
  expect(
    violations.map(({ id, nodes }) => `${id}: ${nodes.map((n) => n.html).join(" | ")}`),
  ).toEqual([]);
}

/** Begins a job of a kind with nothing measured yet: what was not typed is taken as usual. */
export async function beginJob(page: Page, kind: string): Promise<void> {
  await page.goto(`/new/${kind}`);
  await page.getByRole("button", { name: "Start with what is there" }).click();
  await page.waitForURL(/\/jobs\/[0-9a-f-]{36}/);
}

/** Has the server take in many pumps at once, as a page would send them. */
export async function takeInPumps(page: Page, pumps: readonly { id: string }[]): Promise<unknown> {
  const place = `/api/imports/many-${Date.now()}`;
  const documents = pumps.map((document) => ({ collection: "pumps", id: document.id, document }));
  for (let from = 0; from < documents.length; from += 200) {
    const data = { from, documents: documents.slice(from, from + 200) };
    expect((await page.request.patch(place, { data })).status()).toBe(200);
  }
  const answer = await page.request.post(`${place}/finish`, { data: { count: documents.length } });
  const { outcome } = (await answer.json()) as { outcome: unknown };
  return outcome;
}

/** Chooses a pump by its name, whether it is recommended or one of the others. */
export async function choosePump(page: Page, name: string): Promise<void> {
  await page.getByLabel("Find among the others").fill(name);
  // Until the list has been narrowed it is there twice, on a card and among the others.
  await page
    .getByRole("button", { name: `Choose ${name}`, exact: true })
    .first()
    .click();
}

/**
 * Opens a part that is folded. On a phone the heads give way to what is scrolled, and a touch on what moves under it is
 * lost: it is made again, as whoever stands there would.
 */
export async function unfold(page: Page, words: string): Promise<void> {
  const folded = page
    .locator("details", { has: page.locator("summary", { hasText: words }) })
    .last();
  await expect(async () => {
    if ((await folded.getAttribute("open")) === null)
      await folded.locator("summary").first().click();
    await expect(folded).toHaveAttribute("open", { timeout: 1000 });
  }).toPass();
}

/** The link of a stage of the job. */
export const stage = (page: Page, name: "Need" | "Well" | "Line" | "Pump" | "Ground" | "Measure") =>
  page.getByRole("navigation", { name: "Stages of the job" }).getByRole("link", { name });

/** Waits until the job says that it is saved, and not that it is “Not saved”. */
export const saved = (page: Page) =>
  expect(page.getByRole("status").filter({ hasText: /^Saved/ })).toBeVisible();

/** The duty in words, once what was typed has taken effect: it follows the painted key by a frame or two. */
export async function dutyAfterKey(page: Page): Promise<string | null> {
  await page.evaluate(async () => {
    const frame = () => new Promise((done) => requestAnimationFrame(done));
    const rest = () => new Promise((done) => requestIdleCallback(done));
    for (const wait of [frame, frame, rest, rest]) await wait();
  });
  return page.getByTestId("duty").textContent();
}

/** A server of its own on a new folder, with the built interface; `address` is what it says it is ready at. */
export async function startServer(options: readonly string[], env: NodeJS.ProcessEnv = {}) {
  const folder = mkdtempSync(join(tmpdir(), "gusher-own-"));
  const server: ChildProcess = spawn(
    process.execPath,
    [
      join(import.meta.dirname, "../dist/server.mjs"),
      ...["--data", folder, "--port", "0", "--web", join(import.meta.dirname, "../dist/web")],
      ...options,
    ],
    { env: { ...process.env, ...env } },
  );
  const address = await new Promise<string>((resolve) => {
    let said = "";
    server.stdout?.on("data", (chunk) => {
      said += chunk;
      const found = /is ready: (https?:\/\/[\d.]+:\d+)/.exec(said)?.[1];
      if (found) resolve(found);
    });
  });
  return {
    address,
    stop() {
      server.kill("SIGKILL");
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
