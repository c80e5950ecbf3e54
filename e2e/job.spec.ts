import {
  choosePump,
  dutyAfterKey,
  expect,
  expectAccessible,
  saved,
  stage,
  test,
  unfold,
} from "./harness.ts";

const duty = "[data-testid=duty]";

test("a whole job by keyboard: create, edit the line, choose a pump, time a bucket, read the verdict, reload", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("region", { name: "Jobs" }).waitFor();
  await page.keyboard.press("Control+k");
  await page.getByPlaceholder("Type a job, a pump or an action").waitFor();
  await page.keyboard.type("Keep a pit dry");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/new\/sump-riser/);
  const verdict = page.getByTestId("sketch-verdict");
  await expect(verdict.getByRole("listitem")).toHaveCount(5);
  // The first dimension has the cursor; the others follow it.
  for (const [label, text] of [
    ["floor down to the bottom", "1.5 m"],
    ["pit across", "0.6 m"],
    ["pump off: time to rise", "40"],
    ["floor up to the bend", "20 bricks"],
    ["along to the outlet", "15"],
  ] as const) {
    await expect(page.getByLabel(label)).toBeFocused();
    await page.keyboard.type(text);
    await page.keyboard.press("Tab");
  }
  await expect(verdict).toContainText("Head it takes");
  await page.getByRole("region", { name: "Pumps that do it" }).getByRole("button").first().focus();
  await page.keyboard.press("Enter");
  await expect(page.getByLabel("Name of the job")).toHaveValue(/^Pit, \d+ \w+ 20\d\d$/);
  await expect(page.locator(duty)).toContainText("Total head");
  // The seat follows the pit: the pump stands on its bottom.
  await expect(page.getByRole("region", { name: "Section" })).toContainText("pump −1.50 m");

  // Another pump, from all there are.
  await page.getByRole("link", { name: "Sheet" }).focus();
  await page.keyboard.press("3");
  await page.getByLabel("Find among the others").focus();
  await page.keyboard.type("run 35");
  await page.getByRole("button", { name: "Choose Brackle Run 35" }).focus();
  await page.keyboard.press("Enter");
  const before = await dutyAfterKey(page);

  // Keys 1 to 5 bring a part to hand, each in its stage.
  await page.getByRole("link", { name: "Sheet" }).focus();
  await page.keyboard.press("1");
  await expect(page).toHaveURL(/\/need/);
  await page.keyboard.press("4");
  await expect(page).toHaveURL(/\/line/);
  const lengths = page.getByRole("list", { name: "Discharge line" }).getByLabel("Length");
  await lengths.last().focus();
  await page.keyboard.type("60 m");
  await page.keyboard.press("Tab");
  await expect(page.locator(duty)).not.toHaveText(before ?? "");
  const longer = await dutyAfterKey(page);

  // One visit to a field is one step of undo.
  await page.keyboard.press("Control+z");
  await expect(lengths.last()).toHaveValue("15");
  expect(await dutyAfterKey(page)).toBe(before);
  await page.keyboard.press("Control+Shift+z");
  await expect(lengths.last()).toHaveValue("60");
  expect(await dutyAfterKey(page)).toBe(longer);

  // A row moves along the path by keyboard.
  await lengths.last().focus();
  await page.keyboard.press("Alt+ArrowUp");
  await expect(
    page
      .getByRole("list", { name: "Discharge line" })
      .getByRole("listitem")
      .nth(3)
      .getByLabel("Length"),
  ).toHaveValue("60");
  await saved(page);

  await page.getByRole("link", { name: "Measure" }).focus();
  await page.keyboard.press("Enter");
  await page.getByLabel("Bucket holds").focus();
  await page.keyboard.type("60 L");
  const watch = page.getByTestId("watch");
  for (let fill = 0; fill < 3; fill++) {
    await watch.locator("..").focus();
    await page.keyboard.press("Space");
    await page.waitForTimeout(250);
    await page.keyboard.press("Space");
  }
  await expect(page.getByRole("list", { name: "Fills" }).getByRole("listitem")).toHaveCount(3);
  // The fills of a real bucket are longer: type them over the ones just timed.
  for (const [i, seconds] of ["21.2", "20.9", "21.4"].entries()) {
    await page.getByLabel(`Fill ${i + 1}`, { exact: true }).focus();
    await page.keyboard.type(seconds);
  }
  await page.getByText("I also have a gauge").focus();
  await page.keyboard.press("Enter");
  await page.getByLabel("Gauge reads").focus();
  await page.keyboard.type("1.5 bar");
  await page.keyboard.press("Tab");
  await expect(page.locator("[data-acceptance]")).toBeVisible();
  const judgement = await page.locator("[data-acceptance]").getAttribute("data-acceptance");
  await page.getByRole("button", { name: "File this reading" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.getByText("Reading filed.")).toBeVisible();
  await expect(page.getByText(/Measured 2\.\d/).last()).toBeVisible();

  await page.reload();
  await expect(page.getByText(/Measured 2\.\d/)).toBeVisible();
  expect(["meets", "falls-short", "cannot-tell"]).toContain(judgement);
  await page.goBack();
  await page.reload();
  await expect(page.getByLabel("Name of the job")).toHaveValue(/^Pit, /);
  await expect(page.locator(duty)).toHaveText(longer ?? "");
});

test.describe("at the pit", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

  test("a whole job by touch", async ({ page }) => {
    await page.goto("/");
    await page.getByRole("link", { name: "New job" }).tap();
    await page.getByRole("link", { name: "Keep a pit dry" }).tap();
    await page.getByRole("button", { name: "Start with what is there" }).tap();
    await stage(page, "Pump").tap();
    await page.getByLabel("Find among the others").fill("pit 9");
    await page.getByRole("button", { name: "Choose Tarnfold Pit 9", exact: true }).tap();
    await expect(page.locator(duty)).toContainText("L/s");
    await stage(page, "Line").tap();
    // A size is searched for, not scrolled to.
    await page.getByLabel("Pipe or hose").first().tap();
    await page.getByLabel("Search: Pipe or hose").fill("2 sump");
    await page.getByRole("option", { name: "2 in sump hose", exact: true }).tap();
    await expect(page.getByLabel("Pipe or hose: 2 in sump hose")).toBeVisible();
    await page.getByRole("button", { name: "Fitting", exact: true }).tap();
    await expect(page.getByLabel("Count")).toHaveCount(3);
    await saved(page);
    // The bar says what stands against it, and brings it up.
    const bar = page.getByRole("button", { name: "Duty and checks" });
    await expect(bar).toContainText(/gpm|L\/s/);
    await expect(bar).toContainText(/\d (stop|watch)/);
    await bar.tap();
    await expect(page.getByRole("list", { name: "Checks" })).toBeInViewport();

    await stage(page, "Measure").tap();
    const watch = page.getByTestId("watch").locator("..");
    const box = await watch.boundingBox();
    expect(box?.height).toBeGreaterThanOrEqual(44);
    expect(box?.width).toBeGreaterThan(300);
    const fills = page.getByRole("list", { name: "Fills" }).getByRole("listitem");
    for (const count of [1, 2]) {
      await watch.tap();
      await expect(watch).toContainText("Full: stop");
      // Less than a tenth of a second is a slip of the thumb, and no fill.
      await expect(page.getByTestId("watch")).not.toHaveText(/^0\.[01]/);
      await watch.tap();
      await expect(fills).toHaveCount(count);
    }
    // What fills in a second nobody can time, and that is said.
    for (const fill of [1, 2]) await page.getByLabel(`Fill ${fill}`, { exact: true }).fill("1 s");
    await expect(page.getByText(/nobody can time it/).last()).toBeInViewport();
    for (const fill of [1, 2]) await page.getByLabel(`Fill ${fill}`, { exact: true }).fill("6.2 s");
    await expect(page.locator("[data-kept]")).toHaveAttribute("data-kept", /less|more|as-promised/);
    await unfold(page, "I also have a gauge");
    await page.getByLabel("Gauge reads").fill("30 kPa");
    await expect(page.locator("[data-acceptance]")).toBeVisible();
    await page.reload();
    // The reading being taken survives a phone that slept.
    await expect(page.getByRole("list", { name: "Fills" }).getByRole("listitem")).toHaveCount(2);
    await page.getByRole("button", { name: "File this reading" }).tap();
    await expect(page.getByText("Reading filed.")).toBeVisible();
    await page.reload();
    await expect(page.getByText(/^Measured \d/)).toHaveCount(1);
    const wide = await page.evaluate(() => document.documentElement.scrollWidth);
    expect(wide).toBeLessThanOrEqual(390);
  });

  for (const path of [
    "/",
    "/new",
    "/new/sump-riser",
    "/new/well-to-tank",
    "/pumps",
    "/pumps/brackle-run-35",
    "/jobs/ketterby-hurling-ground?part=pump&view=sizes",
    "/jobs/ketterby-hurling-ground?part=discharge&view=ledger",
    "/jobs/ketterby-hurling-ground/measure",
    "/jobs/bramble-rigg-borehole/well",
    "/jobs/bramble-rigg-borehole/well?view=cable",
    "/jobs/bramble-rigg-borehole/well?view=day",
  ]) {
    test(`${path} is not wider or taller than the phone`, async ({ page }) => {
      await page.goto(path);
      await expect(page.locator("main > *").first()).toBeVisible();
      await expect(page.getByText(/^Loading the /)).toHaveCount(0);
      const size = () =>
        page.evaluate(() => [
          document.documentElement.scrollWidth <= 390,
          // The page itself never scrolls: only the part under the steps does.
          document.documentElement.scrollHeight <= 844,
        ]);
      expect(await size()).toEqual([true, true]);
      // Nor once what is worked out beside the page has come.
      await expect(page.locator('[aria-busy="true"]')).toHaveCount(0);
      expect(await size()).toEqual([true, true]);
    });
  }

  test("nothing to tap is smaller than a thumb", async ({ page }) => {
    await page.goto("/jobs/ketterby-hurling-ground?part=discharge");
    await expect(page.locator(duty)).toBeVisible();
    const small = await page
      .locator("section[aria-label='Part in hand'] :is(button, select, input)")
      .evaluateAll(
        (nodes) =>
          nodes
            .map((node) => node.getBoundingClientRect())
            .filter((box) => box.height > 0 && (box.height < 44 || box.width < 44)).length,
      );
    expect(small).toBe(0);
  });
});

test("the demo shows its duty, ledger, curve and readings", async ({ page }) => {
  await page.goto("/jobs/ennet-glasshouses-transfer?view=curve");
  await expect(page.locator(duty)).toContainText("3.17");
  await expect(page.locator(".js-plotly-plot .main-svg").first()).toBeVisible();
  await expect(
    page.getByText(/^Likely \d\.\d\d to \d\.\d\d L\/s at 1\d\.\d to 1\d\.\d m$/),
  ).toBeVisible();
  await page.getByRole("button", { name: "Head ledger" }).click();
  await expect(page.getByRole("table", { name: "Head ledger" })).toContainText(
    "Total dynamic head",
  );
  // The whole job without the page itself scrolling.
  const tall = await page.evaluate(() => document.documentElement.scrollHeight);
  expect(tall).toBeLessThanOrEqual(800);
  // One click lays a run a size larger, and the flow grows by what was promised.
  await page.getByRole("button", { name: "75 mm: +0.36 L/s" }).click();
  await expect(page.locator(duty)).toContainText("3.54");
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(page.locator(duty)).toContainText("3.17");
  await page.keyboard.press("u");
  await expect(page.locator(duty)).toContainText("gpm");
  await page.keyboard.press("u");
  await page.getByRole("link", { name: "Measure" }).click();
  await expect(page.getByText("Falls short of its curve").first()).toBeVisible();
  await page.getByRole("button", { name: /Commissioning/ }).click();
  const rows = page.getByRole("listitem").filter({ hasText: "valve open" });
  await expect(rows.filter({ hasText: "Meets its curve" }).last()).toBeVisible();
  await expect(rows.filter({ hasText: "Cannot tell" }).last()).toBeVisible();
});

test("bad input says why at its field, keeps the text, and leaves the duty standing", async ({
  page,
}) => {
  await page.goto("/jobs/ketterby-hurling-ground?part=discharge");
  const before = await page.locator(duty).textContent();
  const length = page.getByRole("list", { name: "Discharge line" }).getByLabel("Length").first();
  for (const [text, sentence] of [
    ["-4 m", "The length must be more than 0."],
    ["1,200", "could be either"],
    ["12 gpm", "not a unit of length"],
  ] as const) {
    await length.fill(text);
    await expect(page.getByRole("alert")).toContainText(sentence);
    await expect(length).toHaveValue(text);
    expect(await dutyAfterKey(page)).toBe(before);
  }
  await length.press("Escape");
  await expect(length).toHaveValue("26");
  await length.fill("2 m");
  await expect(page.getByRole("list", { name: "What is wrong" })).toContainText(
    "rises more than it is long",
  );
  await expect(page.getByRole("alert")).toContainText("rises more than it is long");
  await length.press("Escape");
  expect(await dutyAfterKey(page)).toBe(before);
});

test("two tabs on one job: the later one is asked, and nothing is lost", async ({
  page,
  context,
}) => {
  // The browser itself reports the refused write; that is not the application's error.
  page.removeAllListeners("console");
  await page.goto("/jobs/ketterby-hurling-ground?part=source");
  const other = await context.newPage();
  await other.goto("/jobs/ketterby-hurling-ground?part=source");
  await other.getByLabel("Levels measured from").fill("Lock sill");
  await saved(other);
  await other.waitForTimeout(900);
  await saved(other);
  await other.close();
  await page.route("**/api/jobs/ketterby-hurling-ground", (route) =>
    route.request().method() === "GET" ? route.abort() : route.continue(),
  );
  await page.getByLabel("Water", { exact: true }).fill("Upper basin");
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("Changed in two places");
  await page.unroute("**/api/jobs/ketterby-hurling-ground");
  await dialog.getByRole("button", { name: "Take the other" }).click();
  await expect(page.getByLabel("Levels measured from")).toHaveValue("Lock sill");
  await expect(page.getByLabel("Water", { exact: true })).toHaveValue("Canal basin");
});

test("a server that does not answer loses nothing", async ({ page }) => {
  await page.goto("/jobs/ketterby-hurling-ground?part=source");
  const datum = page.getByLabel("Levels measured from");
  await page.route("**/api/jobs/*", (route) =>
    route.request().method() === "PUT" ? route.abort("connectionfailed") : route.continue(),
  );
  // The browser itself reports the failed request; that is not the application's error.
  page.removeAllListeners("console");
  await datum.fill("Coping stone");
  await expect(page.getByRole("status").filter({ hasText: "does not answer" })).toBeVisible();
  await page.unroute("**/api/jobs/*");
  await saved(page);
  await page.reload();
  await expect(datum).toHaveValue("Coping stone");
});

test("a pump of one's own: what is wrong is named, then it is in the library and on a job", async ({
  page,
}) => {
  await page.goto("/pumps/new/edit");
  await page.getByLabel("Maker").fill("Own bench");
  await page.getByRole("button", { name: "Save the pump" }).click();
  await expect(page.getByRole("alert")).toContainText("Name the model.");
  await page.getByLabel("Model").fill("Rebuild 7");
  const points = page.getByRole("list", { name: "Points" }).getByRole("listitem");
  for (const [i, [flow, head]] of [
    ["0", "26"],
    ["2", "23"],
    ["1.5 L/s", "17"],
    ["5", "10"],
  ].entries()) {
    await points
      .nth(i)
      .getByLabel("Flow")
      .fill(flow ?? "");
    await points
      .nth(i)
      .getByLabel("Head")
      .fill(head ?? "");
  }
  await page.getByRole("button", { name: "Save the pump" }).click();
  await expect(page.getByRole("alert")).toContainText("Point 3: Flow must rise");
  await points.nth(2).getByLabel("Flow").fill("3.5");
  await page.getByRole("button", { name: "Save the pump" }).click();
  await expect(page.getByRole("heading", { name: "Own bench Rebuild 7" })).toBeVisible();
  await page.goto("/jobs/ennet-glasshouses-transfer?part=pump");
  await choosePump(page, "Own bench Rebuild 7");
  await expect(page.locator(duty)).not.toContainText("3.17");
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(page.locator(duty)).toContainText("3.17");
  await saved(page);
});

for (const path of [
  "/",
  "/new",
  "/new/sump-riser",
  "/new/well-to-tank",
  "/jobs/ennet-glasshouses-transfer/need",
  "/jobs/ennet-glasshouses-transfer/line?part=suction&view=curve",
  "/jobs/ennet-glasshouses-transfer/pump",
  "/jobs/ketterby-hurling-ground/line?part=outlet",
  "/jobs/ketterby-hurling-ground/measure",
  "/pumps",
  "/pumps/fenwicket-haycast-2",
  "/pumps/new/edit",
]) {
  test(`assistive technology finds no fault on ${path}, in light or dark`, async ({ page }) => {
    await page.goto(path);
    await expect(page.locator("main > *").first()).toBeVisible();
    await expect(page.getByText(/^Loading the /)).toHaveCount(0);
    await expectAccessible(page);
    // In the dark it is the same page in other colours.
    await page.getByRole("button", { name: "Dark" }).click();
    await expect(page.locator("html")).toHaveAttribute("data-theme", "dark");
    await expectAccessible(page, "body", ["color-contrast"]);
  });
}
