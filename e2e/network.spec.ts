import {
  answersWhenOpened,
  expect,
  expectAccessible,
  saved,
  startServer,
  test,
} from "./harness.ts";

const PHRASE = "gravel lantern otter ninety";
let server: Awaited<ReturnType<typeof startServer>>;
let address = "";

test.beforeAll(async () => {
  server = await startServer(
    ["--host", "127.0.0.5", "--name", "gusher.test", "--https", "--demo"],
    { UPRIGHT_GUSHER_PASS_PHRASE: PHRASE },
  );
  address = server.address.replace("127.0.0.5", "gusher.test");
});
test.afterAll(() => server.stop());

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
  context.on("page", answersWhenOpened);
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
  // Whoever is let in stands there, and can be ended.
  const other = await browser.newContext({ ignoreHTTPSErrors: true });
  const desk = await other.newPage();
  await desk.goto(`${address}/devices`);
  await desk.getByLabel("Pass phrase of this installation").fill(PHRASE);
  await desk.getByRole("button", { name: "Come in" }).click();
  const devices = desk.getByRole("list", { name: "Devices signed in" }).getByRole("listitem");
  await expect(devices).toHaveCount(2);
  await expect(devices.filter({ hasText: "This one" })).toHaveCount(1);
  await devices.getByRole("button", { name: "End it" }).click();
  await expect(devices).toHaveCount(1);
  await desk.getByRole("button", { name: "Sign out here" }).click();
  await expect(desk.getByLabel("Pass phrase of this installation")).toBeVisible();
  await desk.goto(`${address}/devices`);
  await expect(desk.getByLabel("Pass phrase of this installation")).toBeVisible();
  await other.close();
  // A device that was signed out keeps what is typed, and says what to do.
  await context.clearCookies();
  await page.getByRole("textbox", { name: "Name of the job" }).fill("Typed signed out");
  await expect(page.getByRole("status").filter({ hasText: "Kept on this device" })).toContainText(
    "Sign in",
  );
  await browser.close();
});
