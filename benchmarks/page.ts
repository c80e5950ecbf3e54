import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { type Browser, chromium } from "@playwright/test";
import { jobSchema } from "#contract/documents/job.ts";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { LIBRARY } from "#library/pumps.ts";
import { startServer } from "./server.ts";
import { benchStreams } from "./streams.ts";

/** How many times slower than this machine the processor is made. */
const SLOWER = 4;
const JOBS = 2000;
/** each page is opened so often, and the middle taken */
const TIMES = 3;
const KEYS = "1234567891";

/**
 * What a page costs on a slowed processor: the largest part of it painted, beside a page of one heading in the same
 * browser, and a key until what it changed is painted. The board has 2 000 jobs.
 */
export async function benchPage(
  row: (name: string, value: string, note?: string) => void,
  executablePath: string,
): Promise<void> {
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
  const blank = createServer((_, response) => {
    response.setHeader("content-type", "text/html");
    response.end("<!doctype html><title>Blank</title><h1>One heading, and nothing else</h1>");
  });
  await new Promise<void>((done) => blank.listen(0, "127.0.0.1", done));
  const browser = await chromium.launch({
    executablePath,
    args: [
      ...["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run"],
      ...["--disable-background-networking", "--disable-component-update", "--disable-sync"],
    ],
  });
  const open = async (url: string, field?: string) => {
    const seen: Opened[] = [];
    for (let time = 0; time < TIMES; time++) seen.push(await opened(browser, url, field));
    const middle = (of: (one: Opened) => number) =>
      seen.map(of).toSorted((a, b) => a - b)[Math.floor(TIMES / 2)] ?? 0;
    return { largest: middle(({ largest }) => largest), keys: seen.flatMap(({ keys }) => keys) };
  };
  const floor = await open(`http://127.0.0.1:${(blank.address() as AddressInfo).port}/`);
  row(`a page of one heading, processor slowed ${SLOWER} times`, `${floor.largest.toFixed(0)} ms`);
  const line = "section[aria-label='Part in hand'] input[inputmode=text]";
  for (const [name, path, field] of [
    [`the board of ${JOBS} jobs`, "/", "input[type=search]"],
    ["a job", "/jobs/ennet-glasshouses-transfer/line", line],
    ["a sketch", "/new/sump-riser", "input[inputmode=text]"],
  ] as const) {
    const { largest, keys } = await open(`${address}${path}`, field);
    const sorted = keys.toSorted((a, b) => a - b);
    row(
      `${name}: largest part painted`,
      `${largest.toFixed(0)} ms`,
      `×${(largest / floor.largest).toFixed(1)}; a key to its paint: median ${sorted[Math.floor(sorted.length / 2)]} ms, worst ${sorted.at(-1)} ms`,
    );
  }
  await benchLibrary(browser, address, row);
  await benchStreams(browser, address, row);
  await browser.close();
  blank.close();
  await stop();
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

interface Opened {
  /** ms to the largest contentful paint */
  largest: number;
  /** ms from key to paint, as the browser rounds it; 16 where it was quicker than it tells */
  keys: number[];
}

/** Runs in the page: keeps what the browser tells of its paints. */
const WATCHING = `
  window.watched = { largest: 0, keys: [] };
  const watch = (type, take, more) =>
    new PerformanceObserver((list) => list.getEntries().forEach(take))
      .observe({ type, buffered: true, ...more });
  watch("largest-contentful-paint", (entry) => { watched.largest = entry.startTime; });
  watch("event", (entry) => { if (entry.name === "keydown") watched.keys.push(entry.duration); },
    { durationThreshold: 16 });
`;

async function opened(browser: Browser, url: string, field?: string): Promise<Opened> {
  const page = await browser.newPage({
    viewport: { width: 1280, height: 800 },
    serviceWorkers: "block",
  });
  const session = await page.context().newCDPSession(page);
  await session.send("Emulation.setCPUThrottlingRate", { rate: SLOWER });
  await page.addInitScript({ content: WATCHING });
  const watched = () => page.evaluate<Opened>("watched");
  await page.goto(url);
  await page.waitForTimeout(field ? 6000 : 1500);
  const { largest } = await watched();
  if (field) {
    await page.locator(field).first().click();
    await page.waitForTimeout(500);
    for (const key of KEYS) {
      await page.keyboard.press(key);
      await page.waitForTimeout(400);
    }
  }
  const { keys } = await watched();
  await page.close();
  const quick = field ? Array.from({ length: KEYS.length - keys.length }, () => 16) : [];
  return { largest, keys: [...keys, ...quick] };
}
