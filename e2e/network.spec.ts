import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, expectAccessible, saved, test } from "./harness.ts";

const PHRASE = "gravel lantern otter ninety";
const folder = mkdtempSync(join(tmpdir(), "gusher-open-"));
let server: ChildProcess;
let address = "";

test.beforeAll(async () => {
  test.setTimeout(120_000);
  server = spawn(
    process.execPath,
    [
      join(import.meta.dirname, "../dist/server.mjs"),
      ...["--data", folder, "--port", "0", "--web", join(import.meta.dirname, "../dist/web")],
      ...["--host", "127.0.0.5", "--name", "gusher.test", "--https", "--demo"],
    ],
    { env: { ...process.env, UPRIGHT_GUSHER_PASS_PHRASE: PHRASE } },
  );
  address = await new Promise((resolve) => {
    let said = "";
    server.stdout?.on("data", (chunk) => {
      said += chunk;
      const port = /is ready: https:\/\/127\.0\.0\.5:(\d+)/.exec(said)?.[1];
      if (port) resolve(`https://gusher.test:${port}`);
    });
  });
});
test.afterAll(() => {
  server.kill("SIGKILL");
  rmSync(folder, { recursive: true, force: true });
});

test("another device comes in by name over HTTPS, with the pass phrase, and works", async ({
  playwright,
  launchOptions,
}) => {
  const browser = await playwright.chromium.launch({
    ...launchOptions,
    args: [...(launchOptions.args ?? []), "--host-resolver-rules=MAP gusher.test 127.0.0.5"],
  });
  const context = await browser.newContext({
    ignoreHTTPSErrors: true,
    viewport: { width: 390, height: 844 },
  });
  const page = await context.newPage();
  await page.goto(`${address}/jobs/ketterby-hurling-ground?part=pump`);
  await expect(page.getByRole("heading", { name: "Upright Gusher" })).toBeVisible();
  await expectAccessible(page);
  const phrase = page.getByLabel("Pass phrase of this installation");
  await phrase.fill("not the phrase at all");
  await page.getByRole("button", { name: "Come in" }).click();
  await expect(page.getByRole("alert")).toHaveText("That is not the pass phrase.");
  await phrase.fill(PHRASE);
  await phrase.press("Enter");
  await expect(page).toHaveURL(`${address}/jobs/ketterby-hurling-ground?part=pump`);
  // What a browser keeps from pages on plain HTTP is there.
  expect(await page.evaluate(() => isSecureContext && "locks" in navigator)).toBe(true);
  await page.getByRole("textbox", { name: "Name of the job" }).fill("From the pit");
  await saved(page);
  await page.goto(`${address}/new/plain-line`);
  await page.getByLabel("Place").fill("Made on a phone");
  await page.getByRole("button", { name: "Start with what is there" }).click();
  await expect(page.getByRole("textbox", { name: "Name of the job" })).toHaveValue(
    /^Line, Made on a phone, /,
  );
  // A device that was signed out keeps what is typed, and says what to do.
  await context.clearCookies();
  await page.getByRole("textbox", { name: "Name of the job" }).fill("Typed signed out");
  await expect(page.getByRole("status").filter({ hasText: "Kept on this device" })).toContainText(
    "Sign in",
  );
  await browser.close();
});
