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
const RELAY_ROOM = "/jobs/ennet-halt-relay-room";
const DESK = { viewport: { width: 1280, height: 800 } };
const PHONE = {
  viewport: { width: 390, height: 844 },
  hasTouch: true,
  isMobile: true,
  deviceScaleFactor: 2,
};

const PICTURES = [
  { name: "jobs", path: "/", ...DESK },
  { name: "new-job", path: "/new", ...DESK },
  { name: "phone-sketch", path: "/new/sump-riser", act: sketchPit, units: "us", ...PHONE },
  { name: "job-ledger", path: `${GLASSHOUSES}/line`, ...DESK },
  {
    name: "job-curve-dark-us",
    path: `${KETTERBY}/need?view=curve`,
    theme: "dark",
    units: "us",
    ...DESK,
  },
  { name: "line-before-pump", path: "/new/sump-riser", act: startPit, units: "us", ...DESK },
  { name: "job-changes", path: `${GLASSHOUSES}/line?view=changes`, act: claimTooMuch, ...DESK },
  { name: "job-pump", path: `${GLASSHOUSES}/pump`, ...DESK },
  { name: "measure", path: `${GLASSHOUSES}/measure`, act: takeReading, ...DESK },
  { name: "need-time", path: `${TALLOW_MILL}/need`, act: markPowerCut, ...DESK },
  { name: "what-if", path: `${TALLOW_MILL}/need?view=changes`, act: putBeside, ...DESK },
  { name: "emptying", path: `${RELAY_ROOM}/need`, act: seeRun, ...DESK },
  { name: "job-branches", path: `${TALLOW_MILL}/pump?view=ledger`, ...DESK },
  {
    name: "line-editor",
    path: `${TALLOW_MILL}/line?view=curve`,
    units: "us",
    ...DESK,
  },
  {
    name: "phone-working",
    path: `${GLASSHOUSES}?working=check.npsh-margin+pump`,
    units: "us",
    ...PHONE,
  },
  { name: "job-sheet", path: `${GLASSHOUSES}/sheet`, ...DESK },
  { name: "hoses", path: "/hoses?volume=4", ...DESK },
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

/** The line that begins with it, no pump yet. */
async function startPit(page) {
  await sketchPit(page);
  await page.getByLabel("Place").fill("Tallow Mill museum");
  await page.getByRole("button", { name: "Start the job" }).click();
  await page.getByRole("region", { name: "Pumps that do it" }).waitFor();
}

/** The run with the section folded: the strip has the room. */
async function seeRun(page) {
  await page.getByTestId("over-time").waitFor();
  await page.keyboard.press("f");
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

/** More than arrives, as it stands on a box. */
async function claimTooMuch(page) {
  await page.getByLabel("What the box or the seller says").fill("5 L/s");
  await page.getByText("Not on this line").waitFor();
}

/** A reading typed in but not filed, so that the verdict shows. */
async function takeReading(page) {
  await page.getByLabel("Measured by").selectOption("meter");
  await page.getByLabel("Meter reads", { exact: true }).fill("3.1 L/s");
  await page.getByText("I also have a gauge").click();
  await page.getByLabel("Gauge reads").fill("1.45 bar");
  await page.getByLabel("Gauge reads").blur();
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
  await page.waitForFunction(() => !/Loading|Likely range …/.test(document.body.textContent ?? ""));
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
