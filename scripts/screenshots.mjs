// npm run screenshots: the pictures of docs/screenshots, from a fresh demo.
import { spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium as findChromium } from "./tasks/chromium.mjs";
import { buildServer, buildWeb, install, root } from "./tasks/prepare.mjs";

const GLASSHOUSES = "/jobs/ennet-glasshouses-transfer";
const KETTERBY = "/jobs/ketterby-hurling-ground";
const TALLOW_MILL = "/jobs/tallow-mill-wheel-pit";
const BOREHOLE = "/jobs/bramble-rigg-borehole";
const DESK = { viewport: { width: 1280, height: 800 } };
const PHONE = {
  viewport: { width: 390, height: 844 },
  hasTouch: true,
  isMobile: true,
  deviceScaleFactor: 2,
};

const PICTURES = [
  { name: "jobs", path: "/", ...DESK },
  { name: "phone-sketch", path: "/new/sump-riser", act: sketchPit, units: "us", ...PHONE },
  { name: "job-ledger", path: `${GLASSHOUSES}/line`, ...DESK },
  { name: "job-pump", path: `${GLASSHOUSES}/pump`, ...DESK },
  {
    name: "driving-dark",
    path: `${KETTERBY}/pump?view=driving`,
    act: seeCards,
    theme: "dark",
    units: "us",
    ...DESK,
  },
  { name: "trace", path: "/pumps/new/edit", act: traceChart, ...DESK },
  { name: "measure", path: `${GLASSHOUSES}/measure`, act: seeAsFound, ...DESK },
  { name: "live", path: `${GLASSHOUSES}/measure`, act: listen, ...DESK },
  { name: "years", path: `${GLASSHOUSES}/years`, act: seeYears, ...DESK },
  { name: "need-time", path: `${TALLOW_MILL}/need`, act: markPowerCut, ...DESK },
  { name: "what-if", path: `${TALLOW_MILL}/need?view=changes`, act: putBeside, ...DESK },
  { name: "field", path: `${KETTERBY}/ground?view=field`, act: seeSets, ...DESK },
  { name: "day-plan", path: `${KETTERBY}/ground?view=day`, act: seeClock, ...PHONE },
  { name: "well", path: `${BOREHOLE}/well`, act: seeWell, ...DESK },
  { name: "well-cable", path: `${BOREHOLE}/well?view=cable`, act: seeCable, ...DESK },
  { name: "well-day", path: `${BOREHOLE}/well?view=day`, act: seeDay, ...DESK },
  { name: "job-sheet", path: `${GLASSHOUSES}/sheet`, ...DESK },
  { name: "pumps", path: "/pumps", ...DESK },
  { name: "phone-measure", path: `${KETTERBY}/measure`, act: timeBuckets, ...PHONE },
];

/** A pit as it is measured. */
async function sketchPit(page) {
  for (const [label, text] of [
    ["floor down to the bottom", "24"],
    ["pit across", "20"],
    ["pump off: time to rise", "25"],
    ["floor up to the bend", "8"],
    ["along to the outlet", "25 paces"],
  ]) {
    await page.getByLabel(label).fill(text);
  }
  await page.getByRole("region", { name: "Pumps that do it" }).waitFor();
}

/** The run with the section folded: the strip has the room. */
async function seeRun(page) {
  await page.getByTestId("over-time").waitFor();
  await page.keyboard.press("f");
}

async function seeSets(page) {
  await page.getByTestId("field-figures").waitFor();
}

async function seeClock(page) {
  await page.getByRole("list", { name: "By the clock" }).waitFor();
}

async function seeWell(page) {
  await page.getByTestId("well-figures").waitFor();
}

async function seeCable(page) {
  await page.getByTestId("cables").waitFor();
}

async function seeDay(page) {
  await page.getByTestId("both").waitFor();
}

async function markPowerCut(page) {
  await seeRun(page);
  await page.getByRole("button", { name: /Power gone/ }).click();
  await page.getByTestId("marker").scrollIntoViewIfNeeded();
  await page.evaluate(() =>
    document
      .querySelector("[data-testid=marker]")
      ?.closest(".overflow-y-auto, [class*=overflow-y-auto]")
      ?.scrollTo(0, 0),
  );
}

/** Three changes beside the job as it is. */
async function putBeside(page) {
  await page.keyboard.press("f");
  for (const name of ["2-1/2 in for 2 in", "Floats 100 mm higher", "No check valve"]) {
    await page.getByRole("button", { name, exact: true }).click();
  }
  await page.getByRole("button", { name: "Apply: No check valve" }).waitFor();
  await page.locator("[aria-label='What if'] [aria-busy=false]").waitFor();
}

/** The pumps to choose between, worked out. */
async function seeCards(page) {
  await page.keyboard.press("f");
  await page.getByText(/ways to put them/).waitFor();
}

/** A chart as it is printed, drawn here, its axes marked and its line clicked along. */
async function traceChart(page) {
  const [width, height] = [1200, 760];
  const x = (gpm) => 110 + 17 * gpm;
  const y = (feet) => 680 - 15 * feet;
  const head = (gpm) => 38 - 0.0115 * gpm ** 2;
  const small = (gpm) => 27 - 0.0125 * gpm ** 2;
  const bytes = await page.evaluate(
    async ({ width, height, lines, curves, words }) => {
      const canvas = document.createElement("canvas");
      [canvas.width, canvas.height] = [width, height];
      const context = canvas.getContext("2d");
      context.fillStyle = "#f6f3ea";
      context.fillRect(0, 0, width, height);
      context.strokeStyle = "#b9b4a6";
      for (const [a, b, c, d] of lines) context.strokeRect(a, b, c, d);
      context.fillStyle = "#333";
      context.font = "22px sans-serif";
      for (const [text, left, top] of words) context.fillText(text, left, top);
      context.strokeStyle = "#222";
      context.lineWidth = 4;
      for (const dots of curves) {
        context.beginPath();
        for (const [a, b] of dots) context.lineTo(a, b);
        context.stroke();
      }
      const blob = await new Promise((done) => canvas.toBlob(done, "image/png"));
      return [...new Uint8Array(await blob.arrayBuffer())];
    },
    {
      ...{ width, height },
      lines: [0, 10, 20, 30, 40, 50, 60].flatMap((step) => [
        [x(step), y(40), 0.5, 600],
        ...(step <= 40 ? [[x(0), y(step), 1020, 0.5]] : []),
      ]),
      curves: [
        Array.from({ length: 54 }, (_, gpm) => [x(gpm), y(head(gpm))]),
        Array.from({ length: 44 }, (_, gpm) => [x(gpm), y(small(gpm))]),
      ],
      words: [
        ...[0, 20, 40, 60].map((step) => [String(step), x(step) - 10, y(0) + 30]),
        ...[10, 20, 30, 40].map((step) => [String(step), 65, y(step) + 8]),
        ["gpm", x(52), y(0) + 62],
        ["ft", 40, 50],
      ],
    },
  );
  await page.getByLabel("How its curve is known").selectOption("traced");
  await page.getByLabel(/^A photo of the curve/).setInputFiles({
    ...{ name: "chart.png", mimeType: "image/png", buffer: Buffer.from(bytes) },
  });
  const sheet = page.getByRole("dialog", { name: "Trace the curve" });
  const picture = sheet.getByRole("button", { name: /^The picture/ });
  const click = async (a, b) => {
    const box = await picture.boundingBox();
    const position = { x: (a / width) * box.width, y: (b / height) * box.height };
    await picture.click({ position });
  };
  await sheet.getByLabel("Flow in").selectOption("gpm");
  await sheet.getByLabel("Head in").selectOption("ft");
  await click(x(0), y(0));
  await sheet.getByLabel("Flow at place 2").fill("60");
  await sheet.getByRole("button", { name: "Click place 2" }).first().click();
  await click(x(60), y(0));
  await sheet.getByRole("button", { name: "Click place 1" }).last().click();
  await click(x(0), y(0));
  await sheet.getByLabel("Head at place 2").fill("40");
  await sheet.getByRole("button", { name: "Click place 2" }).last().click();
  await click(x(0), y(40));
  const along = sheet.getByRole("button", { name: /^Click along it/ });
  await along.click();
  for (const gpm of [1, 9, 18, 27, 36, 44, 52]) await click(x(gpm), y(head(gpm)));
  await sheet.getByRole("button", { name: /^Another speed or impeller/ }).click();
  await sheet.getByLabel("Name", { exact: true }).fill("Small impeller");
  for (const gpm of [1, 12, 22, 32, 41]) await click(x(gpm), y(small(gpm)));
}

/** The visit as it was found: pump and line both short. */
async function seeAsFound(page) {
  await page.getByRole("button", { name: /Season's end, as found/ }).click();
  await page.getByText("Pump and line are both short").waitFor();
  await page.evaluate(() =>
    document.querySelector("[aria-label='Measured against rated']")?.scrollTo(0, 0),
  );
}

/** The simulated box, once everything stands still. */
async function listen(page) {
  await page.getByText("I have instruments that stream").click();
  await page.getByLabel("Simulated, with").selectOption("silted");
  await page.getByRole("button", { name: "Start the simulated box" }).click();
  await page.getByText("Everything stands still.").waitFor({ timeout: 40_000 });
  await page.getByRole("button", { name: "Take", exact: true }).click();
}

async function seeYears(page) {
  await page.locator("[data-crossing=below]").waitFor();
}

/** Three fills of a barrel, and the verdict at the foot of the phone. */
async function timeBuckets(page) {
  await page.getByLabel("Bucket holds").fill("120 L");
  const watch = page.getByTestId("watch");
  for (const [i, seconds] of ["34.6", "34.9", "34.4"].entries()) {
    await watch.tap();
    await page.waitForTimeout(250);
    await watch.tap();
    await page.getByLabel(`Fill ${i + 1}`, { exact: true }).fill(seconds);
  }
  await page.getByLabel("Fill 3", { exact: true }).blur();
}

/** Nothing is being fetched or worked out any more, and the fonts are there. */
async function settled(page) {
  await page.waitForFunction(
    () => !/Loading|Likely range …|Trying \d+ pumps/.test(document.body.textContent ?? ""),
  );
  await page.evaluate(() => document.fonts.ready);
}

await install();
await Promise.all([buildServer(), buildWeb()]);
const { chromium } = await import("@playwright/test");
const folder = mkdtempSync(join(tmpdir(), "gusher-pictures-"));
const server = spawn(process.execPath, [
  join(root, "dist", "server.mjs"),
  ...["--data", folder, "--port", "0", "--web", join(root, "dist", "web"), "--demo"],
]);
const address = await new Promise((resolve, reject) => {
  server.stdout.on("data", (chunk) => {
    const found = /http:\/\/[\d.:]+/.exec(String(chunk))?.[0];
    if (found) resolve(found);
  });
  server.on("exit", () => reject(new Error("The server did not start.")));
});
const browser = await chromium.launch({
  executablePath: await findChromium(),
  args: [
    ...["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run"],
    ...["--disable-background-networking", "--disable-component-update", "--disable-sync"],
  ],
});
try {
  for (const { name, path, act, theme = "light", units = "metric", ...context } of PICTURES) {
    const page = await browser.newPage({ locale: "en-GB", ...context });
    const settings = JSON.stringify({ state: { theme, units }, version: 0 });
    await page.addInitScript(
      (value) => localStorage.setItem("upright-gusher-settings", value),
      settings,
    );
    await page.goto(address + path, { waitUntil: "networkidle" });
    await settled(page);
    if (act) await act(page);
    await settled(page);
    await page.waitForTimeout(600);
    await page.screenshot({ path: join(root, "docs", "screenshots", `${name}.png`) });
    await page.close();
    console.log(`docs/screenshots/${name}.png`);
  }
} finally {
  await browser.close();
  server.kill("SIGTERM");
  await new Promise((done) => server.once("exit", done));
  rmSync(folder, { recursive: true, force: true });
}
