import { join } from "node:path";
import { type Browser, chromium } from "@playwright/test";
import { jobSchema } from "#contract/documents/job.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { LIBRARY } from "#library/pumps.ts";
import {
  BROWSER_ARGS,
  benchOpening,
  benchSecondVisit,
  FIRST,
  type Row,
  SLOWER,
} from "./opening.ts";
import { startServer } from "./server.ts";
import { benchStreams } from "./streams.ts";

const JOBS = 2000;
/** each page is typed into so often */
const KEYS = "1234567891";

/**
 * What pages cost: how they open, and a key until what it changed is painted, on a slowed processor. The board has
 * 2 000 jobs.
 */
export async function benchPage(row: Row, executablePath: string): Promise<void> {
  const { address, stop } = await startServer("--web", join(import.meta.dirname, "web"), "--demo");
  const documents = DEMO_JOBS.map(({ job }) => jobSchema.parse(job) as { name: string });
  for (let n = 0; n < JOBS; n++) {
    const document = documents[n % documents.length];
    await fetch(`${address}/api/jobs/many-${n}`, {
      method: "PUT",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({
        revision: 0,
        document: { ...document, name: `${n} ${document?.name}` },
      }),
    });
  }
  // What lists show of them is worked out after they were saved.
  for (;;) {
    const jobs = (await (await fetch(`${address}/api/jobs`)).json()) as { pending?: true }[];
    if (!jobs.some(({ pending }) => pending)) break;
    await new Promise((done) => setTimeout(done, 500));
  }
  const browser = await chromium.launch({ executablePath, args: BROWSER_ARGS });
  await benchOpening(browser, address, row);
  await benchSecondVisit(executablePath, address, row);
  await benchKeys(browser, address, row);
  // What was typed into them is taken back.
  await fetch(`${address}/api/demo/reset`, { method: "POST" });
  await benchLibrary(browser, address, row);
  await benchStreams(browser, address, row);
  await browser.close();
  await stop();
}

/** A key until its paint, on every demo job and the page of each of its stages, and where one begins. */
async function benchKeys(browser: Browser, address: string, row: Row): Promise<void> {
  const stages = ["need", "well", "line", "pump", "ground"];
  const pages = [
    ...FIRST.filter(([name]) => name !== "a job").map(([name, path]) => [name, path] as const),
    ...DEMO_JOBS.flatMap(({ id }) =>
      stages.map((stage) => [`${id}, ${stage}`, `/jobs/${id}/${stage}`] as const),
    ),
  ];
  const told: { name: string; middle: number; worst: number }[] = [];
  for (const [name, path] of pages) {
    const keys = (await typed(browser, `${address}${path}`)).toSorted((a, b) => a - b);
    if (keys.length === 0) continue;
    told.push({ name, middle: keys[keys.length >> 1] as number, worst: keys.at(-1) as number });
  }
  const worst = (of: "middle" | "worst") => told.reduce((a, b) => (b[of] > a[of] ? b : a));
  const [middle, single] = [worst("middle"), worst("worst")];
  row(
    `a key to its paint, processor slowed ${SLOWER} times, the worst of ${told.length} pages`,
    `${middle.middle} ms`,
    `median, on ${middle.name}; the slowest single key ${single.worst} ms, on ${single.name}`,
  );
  for (const one of told.toSorted((a, b) => b.worst - a.worst).slice(0, 6)) {
    row(`  ${one.name}`, `${one.middle} ms`, `slowest ${one.worst} ms`);
  }
}

const PUMPS = 5000;
/** Of those a thousand are offered while pumps are being chosen. */
const OFFERED = 1000;

/** A library of thousands: the longest the page stood still while it was scrolled, searched and chosen from. */
async function benchLibrary(
  browser: Browser,
  address: string,
  row: (name: string, value: string, note?: string) => void,
): Promise<void> {
  const pumps = Array.from({ length: PUMPS }, (_, i) => {
    const own = LIBRARY[i % LIBRARY.length];
    const archived = i >= OFFERED && { archived: true };
    return { ...own, ...archived, id: `many-${i}`, maker: "Many", model: `${own?.model} no ${i}` };
  });
  const send = (method: string, path: string, body: object) =>
    fetch(`${address}/api/imports/many${path}`, {
      method,
      headers: { "content-type": "application/json" },
      body: JSON.stringify(body),
    });
  for (let from = 0; from < PUMPS; from += 200) {
    const documents = pumps
      .slice(from, from + 200)
      .map((document) => ({ collection: "pumps", id: document.id, document }));
    await send("PATCH", "", { from, documents });
  }
  const started = performance.now();
  await send("POST", "/finish", { count: PUMPS });
  row(`${PUMPS} pumps taken in at once`, `${(performance.now() - started).toFixed(0)} ms`);
  const page = await browser.newPage({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: "block",
  });
  await page.addInitScript({ content: STANDING });
  const longest = async (work: () => Promise<void>) => {
    await page.evaluate("stood.length = 0");
    await work();
    await page.waitForTimeout(400);
    const all = await page.evaluate<number[]>("stood");
    return `${Math.max(0, ...all).toFixed(0)} ms`;
  };
  await page.goto(`${address}/pumps?which=archived`);
  await page.getByRole("table", { name: "Pumps" }).waitFor();
  await page.waitForTimeout(1500);
  await page.mouse.move(640, 500);
  const scrolled = await longest(async () => {
    for (let i = 0; i < 40; i++) {
      await page.mouse.wheel(0, 900);
      await page.waitForTimeout(30);
    }
  });
  await page.mouse.wheel(0, -1e6);
  const found = await longest(async () => {
    await page.getByLabel("Find").pressSequentially("many run no 43", { delay: 60 });
  });
  row(
    `a library of ${PUMPS}: longest task while scrolled`,
    scrolled,
    `while searched key by key ${found}; 0 where none took 50 ms`,
  );
  // The stage is open and its chart drawn: what is timed is choosing, once more for another thing to be good at.
  await page.goto(`${address}/jobs/ennet-glasshouses-transfer/pump`);
  await page.getByText(/ways to put them/).waitFor({ timeout: 60_000 });
  await page.waitForTimeout(2000);
  const chosen = await longest(async () => {
    await page.getByLabel("What it has to be good at").selectOption("carried");
    await page.getByText(/^Trying/).waitFor({ timeout: 60_000 });
    await page.getByText(/ways to put them/).waitFor({ timeout: 60_000 });
  });
  row(`choosing among ${OFFERED}: longest task of the page`, chosen, "until the last card");
  await page.close();
}

/** Runs in the page: keeps how long each task took that took 50 ms and more. */
const STANDING = `
  window.stood = [];
  new PerformanceObserver((list) => list.getEntries().forEach(({ duration }) => stood.push(duration)))
    .observe({ type: "longtask" });
`;

/** Runs in the page: keeps how long keys took to be painted. */
const WATCHING = `
  window.keys = [];
  new PerformanceObserver((list) => list.getEntries().forEach((entry) => {
    if (entry.name === "keydown") keys.push(entry.duration);
  })).observe({ type: "event", buffered: true, durationThreshold: 16 });
`;

/** ms of each key typed into a page's first field, as the browser rounds it; 16 where it was quicker than it tells. */
async function typed(browser: Browser, url: string): Promise<number[]> {
  const page = await browser.newPage({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: "block",
  });
  const session = await page.context().newCDPSession(page);
  await session.send("Emulation.setCPUThrottlingRate", { rate: SLOWER });
  await page.addInitScript({ content: WATCHING });
  await page.goto(url);
  await page.waitForTimeout(7000);
  const field = page
    .locator("main :is(input[inputmode=text], input[inputmode=decimal], input[type=search])")
    .locator("visible=true")
    .first();
  if ((await field.count()) === 0) {
    await page.close();
    return [];
  }
  await field.click();
  await page.waitForTimeout(500);
  for (const key of KEYS) {
    await page.keyboard.press(key);
    await page.waitForTimeout(400);
  }
  const keys = await page.evaluate<number[]>("keys");
  await page.close();
  return [...keys, ...Array.from({ length: KEYS.length - keys.length }, () => 16)];
}
