import fs from "node:fs";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Browser, type BrowserContext, chromium, type Page } from "@playwright/test";

export type Row = (name: string, value: string, note?: string) => void;

/** How many times slower than this machine the processor is made. */
export const SLOWER = 4;
/** each page is opened so often, and the middle taken */
const TIMES = 5;
/** ms after which a page that was opened has long been all there */
const SETTLED = 8000;
const VIEWPORT = { width: 1280, height: 800 };

export const BROWSER_ARGS = [
  ...["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run"],
  ...["--disable-background-networking", "--disable-component-update", "--disable-sync"],
];

/** The pages that are there before the application is, each with a field to type into. */
export const FIRST = [
  ["the board", "/", "input[type=search]"],
  [
    "a job",
    "/jobs/ennet-glasshouses-transfer/line",
    "section[aria-label='Part in hand'] input[inputmode=text]",
  ],
  ["a sketch", "/new/sump-riser", "input[inputmode=text]"],
] as const;

/** What the browser tells of a page's opening. */
interface Opening {
  /** ms to the largest contentful paint */
  largest: number;
  /** ms until the field answers to what is typed */
  usable: number;
  /** layout shifts added up */
  shift: number;
  /** each task of 50 ms and more: when it began and how long it took */
  tasks: [at: number, ms: number][];
  html: string;
}

/** Runs in the page. A field answers once the library that draws it has put its mark on it. */
const WATCHING = (field: string) => `
  window.opening = { largest: 0, usable: 0, shift: 0, tasks: [] };
  const watch = (type, take) =>
    new PerformanceObserver((list) => list.getEntries().forEach(take)).observe({ type, buffered: true });
  watch("largest-contentful-paint", (entry) => { opening.largest = entry.startTime; });
  watch("layout-shift", (entry) => { if (!entry.hadRecentInput) opening.shift += entry.value; });
  watch("longtask", (entry) => { opening.tasks.push([entry.startTime, entry.duration]); });
  const looking = setInterval(() => {
    const one = document.querySelector(${JSON.stringify(field)});
    if (!one || !Object.keys(one).some((key) => key.startsWith("__reactProps"))) return;
    opening.usable = performance.now();
    clearInterval(looking);
  }, 20);
`;

async function opened(page: Page, url: string, slower: number, wait: number): Promise<Opening> {
  const session = await page.context().newCDPSession(page);
  await session.send("Emulation.setCPUThrottlingRate", { rate: slower });
  await page.goto(url);
  await page.waitForTimeout(wait);
  const told = await page.evaluate<Omit<Opening, "html">>("opening");
  return { ...told, html: await page.content() };
}

async function openedAnew(
  browser: Browser,
  url: string,
  field: string,
  slower: number,
  wait: number,
): Promise<Opening> {
  const page = await browser.newPage({ viewport: VIEWPORT, serviceWorkers: "block" });
  await page.addInitScript({ content: WATCHING(field) });
  const told = await opened(page, url, slower, wait);
  await page.close();
  return told;
}

const middleOf = (all: readonly number[]) => all.toSorted((a, b) => a - b)[all.length >> 1] ?? 0;
const ms = (time: number) => `${time.toFixed(0)} ms`;

/**
 * How pages open: the largest part painted beside the same page saved as plain HTML with its style sheet and no script,
 * when its field answers, how far things jump, and the longest task before that and after.
 */
export async function benchOpening(browser: Browser, address: string, row: Row): Promise<void> {
  const saved = await startSaved(address);
  for (const [name, path, field] of FIRST) {
    const open = async (url: string, slower: number, wait: number) => {
      const all: Opening[] = [];
      for (let time = 0; time < TIMES; time++) {
        all.push(await openedAnew(browser, url, field, slower, wait));
      }
      return all;
    };
    // What draws it has drawn it once.
    await openedAnew(browser, `${address}${path}`, field, 1, 1500);
    const slow = await open(`${address}${path}`, SLOWER, SETTLED);
    saved.show(slow[0]?.html ?? "");
    const plain = await open(saved.address, SLOWER, 2500);
    const quick = await open(`${address}${path}`, 1, 2500);
    const of = (all: Opening[], what: (one: Opening) => number) => middleOf(all.map(what));
    const [largest, least] = [slow, plain].map((all) => of(all, (one) => one.largest)) as [
      number,
      number,
    ];
    const longest = (isMeant: (at: number, usable: number) => boolean) =>
      of(slow, ({ tasks, usable }) =>
        Math.max(0, ...tasks.flatMap(([at, took]) => (isMeant(at, usable) ? [took] : []))),
      );
    row(
      `${name}, processor slowed ${SLOWER} times: largest part painted`,
      ms(largest),
      `×${(largest / least).toFixed(2)} the page saved as plain HTML (${ms(least)}); at full speed ${ms(of(quick, (one) => one.largest))}`,
    );
    row(
      `${name}: answers`,
      ms(of(slow, (one) => one.usable)),
      `at full speed ${ms(of(quick, (one) => one.usable))}; longest task before that ${ms(longest((at, usable) => at <= usable))}, after it ${ms(longest((at, usable) => at > usable))}; layout shift ${Math.max(...slow.map((one) => one.shift)).toFixed(4)} at most`,
    );
  }
  await saved.stop();
}

/** A server of one page, without its scripts; what it links to is had from where it came from. */
async function startSaved(from: string) {
  let page = "";
  const server = createServer((request, response) => {
    if (!request.url?.startsWith("/assets/")) {
      response.setHeader("content-type", "text/html; charset=utf-8");
      response.end(page);
      return;
    }
    void fetch(`${from}${request.url}`).then(async (answer) => {
      response.setHeader("content-type", answer.headers.get("content-type") ?? "");
      response.end(Buffer.from(await answer.arrayBuffer()));
    });
  });
  await new Promise<void>((done) => server.listen(0, "127.0.0.1", done));
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`,
    show(html: string): void {
      page = html
        .replace(/<script[\s\S]*?<\/script>/g, "")
        .replace(/<link[^>]*modulepreload[^>]*>/g, "");
    },
    stop: () => new Promise((done) => server.close(done)),
  };
}

/** What a phone gets of a mast some way off: bytes a second, and ms there and back. */
const NETWORK = {
  offline: false,
  downloadThroughput: 500_000,
  uploadThroughput: 125_000,
  latency: 80,
};

/** A first visit and a second, when what the first one kept is there: until the field answers, over a slow network. */
export async function benchSecondVisit(
  executablePath: string,
  address: string,
  row: Row,
): Promise<void> {
  const [, path, field] = FIRST[1];
  const firsts: number[] = [];
  const seconds: number[] = [];
  for (let time = 0; time < 3; time++) {
    const folder = fs.mkdtempSync(join(tmpdir(), "gusher-profile-"));
    const context = await chromium.launchPersistentContext(folder, {
      ...{ executablePath, args: BROWSER_ARGS, viewport: VIEWPORT },
    });
    await context.addInitScript({ content: WATCHING(field) });
    firsts.push(await visited(context, `${address}${path}`));
    seconds.push(await visited(context, `${address}${path}`));
    await context.close();
    fs.rmSync(folder, { recursive: true, force: true });
  }
  const [first, second] = [middleOf(firsts), middleOf(seconds)];
  row(
    "a second visit to a job, over a slow network: answers",
    ms(second),
    `×${(second / first).toFixed(2)} the first (${ms(first)}), processor slowed ${SLOWER} times`,
  );
}

/** ms until the field answers; left once what is kept for later is kept. */
async function visited(context: BrowserContext, url: string): Promise<number> {
  const page = await context.newPage();
  const session = await context.newCDPSession(page);
  await session.send("Network.enable");
  await session.send("Network.emulateNetworkConditions", NETWORK);
  const { usable } = await opened(page, url, SLOWER, SETTLED * 2);
  await page.evaluate("navigator.serviceWorker.ready");
  await page.close();
  return usable;
}
