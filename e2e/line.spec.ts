import {
  beginJob,
  choosePump,
  dutyAfterKey,
  expect,
  expectAccessible,
  saved,
  stage,
  test,
} from "./harness.ts";

const duty = "[data-testid=duty]";
const discharge = "/jobs/ennet-glasshouses-transfer?part=discharge";

test("a tee to a second outlet shares the water, and every fault on it is named in its place", async ({
  page,
}) => {
  await page.goto(discharge);
  const before = await page.locator(duty).textContent();
  await page.getByRole("button", { name: "Split or pump …" }).click();
  await page.getByRole("menuitem", { name: "Tee to a second outlet" }).click();
  await expect(page.locator(duty)).toContainText("Outlet 2");
  const branch = page.getByRole("region", { name: "Branch 1" });
  await expect(branch).toContainText("ends at its outlet");
  await expect(page.getByRole("table", { name: "Head ledger" })).toContainText("to outlet 2");

  // A branch that rises half a metre must come to the same height as the one it meets.
  await branch.getByRole("button", { name: "Remove" }).last().click();
  await branch.getByLabel("Rise").fill("0.5 m");
  await page.keyboard.press("Tab");
  await expect(page.getByRole("list", { name: "What is wrong" })).toContainText(
    "different heights",
  );
  await branch.getByLabel("Rise").fill("0 m");
  await expect(page.locator(duty)).toContainText("L/s");
  await expect(page.locator(duty)).not.toContainText("Outlet 2");
  await expectAccessible(page, "[aria-label='Part in hand']");

  while (await page.getByRole("button", { name: "Undo (Ctrl Z)" }).isEnabled()) {
    await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  }
  await expect(page.locator(duty)).toHaveText(before ?? "");
  await saved(page);
});

test("a shut valve and a check valve the wrong way round stop the job with a sentence, and lose nothing", async ({
  page,
}) => {
  await page.goto(discharge);
  const before = await page.locator(duty).textContent();
  await page.getByLabel("How far open").selectOption("0");
  await expect(page.getByRole("list", { name: "What is wrong" })).toContainText(
    "has nowhere to send",
  );
  // The section stays, with a mark at the valve.
  const section = page.getByRole("img", { name: /^Section of/ });
  await expect(section.locator("title", { hasText: "see what is wrong" })).toHaveCount(1);
  await page.getByLabel("How far open").selectOption("0.5");
  await expect(page.locator(duty)).toContainText("L/s");
  await expect(page.locator(duty)).not.toHaveText(before ?? "");
  await page.getByLabel("How far open").selectOption("1");
  await expect(page.locator(duty)).toHaveText(before ?? "");
  await page.getByRole("button", { name: "More for this row" }).first().click();
  await page.getByRole("menuitem", { name: "It is fitted backwards" }).click();
  await expect(page.getByRole("list", { name: "What is wrong" })).toContainText("wrong way round");
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(page.locator(duty)).toHaveText(before ?? "");
  await saved(page);
});

test("two pumps: side by side move more, one after the other lift more", async ({ page }) => {
  await page.goto("/jobs/ennet-glasshouses-transfer?part=pump");
  const flow = async () => {
    await expect(page.locator(duty)).toContainText("L/s");
    return Number.parseFloat((await page.locator(`${duty} dd`).first().textContent()) ?? "");
  };
  const alone = await flow();
  await page.getByRole("button", { name: "Second pump beside it" }).click();
  await expect(page.locator(duty)).toContainText("Pump 2");
  const beside = await flow();
  expect(beside).toBeGreaterThan(alone);
  expect(beside).toBeLessThan(2 * alone);
  await page.getByRole("button", { name: "Curve sheet" }).click();
  await page
    .getByRole("group", { name: "Curve of" })
    .getByRole("button", { name: "Pump 2" })
    .click();
  await expect(page.getByRole("img", { name: /^Curve sheet/ })).toBeVisible();
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await page.getByRole("button", { name: "Second pump after it" }).click();
  await expect(page.locator(duty)).toContainText("Pump 2");
  expect(await flow()).toBeGreaterThan(alone);
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect.poll(flow).toBe(alone);
  await saved(page);
});

test("a second pump in the pit has a vent hole and a check valve of its own", async ({ page }) => {
  await beginJob(page, "sump-riser");
  await stage(page, "Pump").click();
  await choosePump(page, "Tarnfold Pit 9");
  await expect(page.locator(duty)).toContainText("Lost through holes");
  await page.getByRole("button", { name: "Second pump beside it" }).click();
  await expect(page.locator(duty)).toContainText("Pump 2");
  for (const name of ["Branch 1", "Branch 2"]) {
    const rows = page.getByRole("region", { name }).getByRole("listitem");
    await expect(rows).toHaveCount(3);
  }
  await expect(page.locator("[data-check=hole-misplaced]")).toHaveCount(0);
  await saved(page);
});

test("an engine is asked where it stands, and stopped where its exhaust would stay", async ({
  page,
}) => {
  await page.goto("/jobs/ketterby-hurling-ground?part=pump");
  const place = page.locator("[data-check=pump-placement]");
  const stands = page.getByLabel("The pump stands");
  await expect(stands).toHaveValue("bank");
  await expect(place).toHaveCount(0);
  await stands.selectOption("pit");
  await expect(place).toContainText("No engine in a pit");
  await expect(place).toContainText("Stop");
  await stands.selectOption("");
  await expect(place).toContainText("Not known");
  await stands.selectOption("bank");
  await expect(place).toHaveCount(0);
  await saved(page);
});

test("rows are dragged, doubled and cut, and heights typed as levels", async ({ page }) => {
  await page.goto("/jobs/ketterby-hurling-ground?part=discharge");
  const rows = page.getByRole("list", { name: "Discharge line" }).getByRole("listitem");
  await expect(rows).toHaveCount(5);
  const before = await page.locator(duty).textContent();

  // By keyboard: the handle is lifted with space, moved with arrows, set down with space.
  await rows.nth(1).getByRole("button", { name: "Drag this row" }).focus();
  const said = page.locator("[id^=DndLiveRegion]");
  await page.keyboard.press("Space");
  await expect(said).toContainText(/Picked up|was moved over/);
  await page.keyboard.press("ArrowDown");
  await expect(said).toContainText(/item (\S+) was moved over droppable area (?!\1\.)/);
  await page.keyboard.press("Space");
  await expect(rows.nth(2).getByLabel("Length")).toHaveValue("26");
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(rows.nth(1).getByLabel("Length")).toHaveValue("26");

  // By pointer.
  const from = await rows.nth(2).getByRole("button", { name: "Drag this row" }).boundingBox();
  const to = await rows.nth(1).getByRole("button", { name: "Drag this row" }).boundingBox();
  if (!from || !to) throw new Error("no handles");
  await page.mouse.move(from.x + 8, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(to.x + 8, to.y + 2, { steps: 8 });
  await page.mouse.up();
  await expect(rows.nth(1).getByLabel("Length")).toHaveValue("104");
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();

  await rows.nth(2).getByRole("button", { name: "More for this row" }).click();
  await page.getByRole("menuitem", { name: "Cut in two" }).click();
  await expect(rows).toHaveCount(6);
  await expect(rows.nth(2).getByLabel("Length")).toHaveValue("52");
  // Twice half a run is the run.
  await expect(page.locator(duty)).toHaveText(before ?? "");
  await rows.nth(2).getByRole("button", { name: "More for this row" }).click();
  await page.getByRole("menuitem", { name: "Duplicate" }).click();
  await expect(rows).toHaveCount(7);
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(rows).toHaveCount(5);

  await page.getByRole("button", { name: "Heights as rises" }).click();
  const ends = rows.getByLabel("Ends at level");
  await expect(ends.first()).toHaveValue("4.8");
  await ends.first().fill("5.8 m");
  await page.keyboard.press("Tab");
  // The next run still ends where it did: the outlet has not moved.
  await expect(ends.nth(1)).toHaveValue("6.3");
  await page.getByRole("button", { name: "Heights as levels" }).click();
  await expect(rows.nth(1).getByLabel("Rise")).toHaveValue("5.5");
  await expect(rows.nth(2).getByLabel("Rise")).toHaveValue("0.5");
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(page.locator(duty)).toHaveText(before ?? "");
  await saved(page);
});

test("a surveyed profile is pasted, its faults named, its columns mapped", async ({ page }) => {
  await page.goto("/jobs/ketterby-hurling-ground?part=discharge");
  const rows = page.getByRole("list", { name: "Discharge line" }).getByRole("listitem");
  await page.getByRole("button", { name: "Paste or import" }).click();
  const sheet = page.getByRole("dialog");
  const text = sheet.getByLabel("or pasted");
  await text.fill("Peg\tDistance (m)\tLevel (m)\n1\t0\t0.3\n2\tforty\t4\n3\t30\t5");
  await expect(sheet.getByRole("alert")).toContainText("Row 3, Distance (m)");
  await expect(sheet.getByRole("button", { name: "Put them on the line" })).toBeDisabled();
  await text.fill("Peg\tDistance (m)\tLevel (m)\n1\t0\t0.3\n2\t40\t4\n3\t75\t5");
  await expect(sheet.getByRole("status")).toContainText("2 runs, 75.2 m long, rising 4.70 m");
  await sheet.getByLabel(/^Level \(m\)/).selectOption("");
  await expect(sheet.getByRole("alert")).toContainText("Say which columns");
  await sheet.getByLabel(/^Level \(m\)/).selectOption("height");
  await expectAccessible(page, "[role=dialog]");
  await sheet.getByLabel("They go").selectOption("replace");
  await sheet.getByRole("button", { name: "Put them on the line" }).click();
  await expect(rows).toHaveCount(5);
  await expect(rows.getByLabel("Length").first()).toHaveValue(/^40\.17/);
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(rows.getByLabel("Length").first()).toHaveValue("26");

  // The same out of a file.
  await page.getByRole("button", { name: "Paste or import" }).click();
  await sheet.getByLabel("CSV file").setInputFiles({
    name: "profile.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("distance,height\n0 m,0.3 m\n40 m,4 m\n"),
  });
  await expect(sheet.getByRole("status")).toContainText("1 run");
  await page.keyboard.press("Escape");
  await saved(page);
});

test("a survey of 2 000 points is thinned with consent, laid, and worked on", async ({ page }) => {
  test.slow();
  const points = Array.from(
    { length: 2000 },
    (_, i) => `${i * 0.05}\t${(0.3 + i * 0.002 + 0.01 * Math.sin(i / 7)).toFixed(4)}`,
  );
  await page.goto("/jobs/ketterby-hurling-ground?part=discharge");
  const list = page.getByRole("list", { name: "Discharge line" });
  await page.getByRole("button", { name: "Paste or import" }).click();
  const sheet = page.getByRole("dialog");
  await sheet.getByLabel("or pasted").fill(`Distance (m)\tLevel (m)\n${points.join("\n")}`);
  await sheet.getByLabel("They go").selectOption("replace");
  await expect(sheet.getByRole("status")).toContainText("1999 runs");
  const put = sheet.getByRole("button", { name: "Put them on the line" });
  await expect(sheet.getByRole("alert")).toContainText("at most 2000 parts");
  await expect(put).toBeDisabled();
  const choice = sheet.getByLabel("Points of the survey");
  const [, fine] = await choice.getByRole("option").allTextContents();
  const runs = Number(/: (\d+) runs?$/.exec(fine ?? "")?.[1]);
  expect(runs).toBeGreaterThan(0);
  expect(runs).toBeLessThan(1000);
  await choice.selectOption({ index: 1 });
  await expect(sheet.getByRole("status")).toContainText(`${runs} run`);
  await expect(put).toBeEnabled();
  await choice.selectOption({ index: 0 });

  // With room for all of them all are laid: the rows in sight are there, and the last can be reached.
  await sheet
    .getByLabel("or pasted")
    .fill(`Distance (m)\tLevel (m)\n${points.slice(0, 1001).join("\n")}`);
  await expect(sheet.getByRole("status")).toContainText("1000 runs");
  await put.click();
  await expect(page.locator(duty)).toContainText("L/s");
  expect(await list.getByRole("listitem").count()).toBeLessThan(120);
  await list.getByLabel("Length").first().fill("7 m");
  await expect(page.getByRole("table", { name: "Head ledger" })).toContainText("7.00 m of");
  await saved(page);
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(list.getByRole("listitem")).toHaveCount(5);
  await saved(page);
});

test("any number opens its working, and the address opens it again", async ({ page }) => {
  await page.goto("/jobs/ketterby-hurling-ground");
  await page.locator(`${duty} button`).first().click();
  const sheet = page.getByRole("dialog");
  await expect(sheet).toContainText("Flow at the outlets, normal water: 3.67 L/s");
  await expect(sheet.locator(".katex").first()).toBeVisible();
  await expect(sheet).toContainText("Where pump and line meet");
  await expect(page).toHaveURL(/working=delivered\.normal/);
  await expectAccessible(page, "[role=dialog]");
  await page.keyboard.press("Escape");
  await expect(page).not.toHaveURL(/working/);

  const ledger = page.getByRole("table", { name: "Head ledger" });
  await ledger
    .getByRole("row", { name: /104\.0 m of 2 in lay-flat/ })
    .getByRole("button")
    .nth(1)
    .click();
  await expect(sheet).toContainText("Friction factor");
  await page.reload();
  await expect(sheet).toContainText("Darcy–Weisbach");
  await page.keyboard.press("Escape");
  await page
    .locator("[data-check=suction-velocity]")
    .getByRole("button", { name: "Working" })
    .click();
  await expect(sheet).toContainText("Velocity");
});

test("hoses are compared for a tap and for a pump, and the address keeps the question", async ({
  page,
}) => {
  await page.goto("/hoses");
  const table = page.getByRole("table", { name: "Hoses compared" });
  await expect(table.getByRole("row")).toHaveCount(9);
  await page.getByLabel("Length").fill("18 m");
  await expect(table).toContainText("3 pieces, 2 couplings, 5 clamps");
  const tap = await table.textContent();
  await page.getByLabel("Water comes from").selectOption({ label: "Quillbeck Puddle 1" });
  await expect(table).not.toHaveText(tap ?? "");
  await page.getByLabel("Water to move").fill("4000 L");
  await expect(table).toContainText(/\d+ (h|min)/);
  await expectAccessible(page);
  const shown = await table.textContent();
  await page.reload();
  await expect(table).toHaveText(shown ?? "");

  // Two of them timed with one bucket: their ratio with its doubt, beside the one worked out.
  const timed = page.getByRole("region", { name: "Two of them timed" });
  await timed.getByLabel("First hose").selectOption({ label: "5/8 in garden hose" });
  await timed.getByLabel("Second hose").selectOption({ label: "3/4 in garden hose" });
  await timed.getByLabel("It filled in").fill("43");
  await timed.getByLabel("And it in").fill("0:27");
  await expect(timed).toContainText(/3\/4 in garden hose has 1\.593 ± 0\.0\d\d times as much\./);
  await expect(timed).toContainText(/The model says \d\.\d\d times/);
  await timed.getByLabel("And it in").fill("27 paces");
  await expect(timed).not.toContainText("times as much");
  await timed.getByLabel("And it in").fill("1.2");
  await expect(timed).toContainText("nobody can time it");
});

test("a line says what it takes before there is a pump: typed key by key, sized, then one chosen", async ({
  page,
}) => {
  await beginJob(page, "tank-to-tank");
  const panel = page.getByRole("region", { name: "Duty and checks" });
  await expect(panel).toContainText("Say how much water is wanted");
  await expect(page.locator('svg path[fill="var(--signal)"]')).toHaveCount(0);
  await panel.getByLabel("How much water is wanted").focus();
  await page.keyboard.type("120 L/min");
  await expect(panel.getByLabel("How much water is wanted")).toHaveValue("120 L/min");
  await expect(panel).toContainText("Head it takes");
  const head = () => panel.getByTestId("duty").locator("dd").first().textContent();
  await dutyAfterKey(page);
  const before = Number.parseFloat((await head()) ?? "");
  const ledger = page.getByRole("table", { name: "Head ledger" });
  await expect(ledger.getByRole("row").last()).toContainText(`${before} m`);
  // A size larger is laid from the ledger, and takes less head.
  await ledger
    .getByRole("button", { name: /^2 in: −/ })
    .first()
    .click();
  await expect.poll(async () => Number.parseFloat((await head()) ?? "")).toBeLessThan(before);
  await page.getByRole("button", { name: "Curve sheet" }).click();
  await expect(page.locator(".js-plotly-plot")).toBeVisible();
  await expectAccessible(page);
  await panel.getByRole("region", { name: "Pumps that do it" }).getByRole("button").first().click();
  await expect(panel).toContainText("Total head");
  const flow = Number.parseFloat(
    (await panel.getByTestId("duty").locator("dd").first().textContent()) ?? "",
  );
  expect(flow).toBeGreaterThanOrEqual(2);
  await saved(page);
});

test("what the seller says is held against the line, and the cheapest change is made", async ({
  page,
}) => {
  await page.goto("/jobs/ennet-glasshouses-transfer?view=changes");
  const claim = page.getByRole("region", { name: "Claim check" });
  await claim.getByLabel("What the box or the seller says").fill("lots");
  await expect(page.getByRole("alert")).toContainText("Type a flow, a pressure");
  await claim.getByLabel("What the box or the seller says").fill("70 gpm");
  await expect(claim).toContainText("Not on this line");
  await expect(claim).toContainText("3.17 L/s arrive, not 4.42 L/s.");
  await expect(claim).toContainText(/True with this|No single change/);
  const next = page.getByRole("region", { name: "Cheapest next change" });
  await expect(next.getByRole("listitem").first()).toContainText("costs nothing");
  await expectAccessible(page);
  const gain = await next.getByRole("listitem").first().locator("strong").textContent();
  const flow = page.locator(duty).locator("dd").first();
  const before = Number.parseFloat((await flow.textContent()) ?? "");
  await next
    .getByRole("button", { name: /^Do it/ })
    .first()
    .click();
  await expect
    .poll(async () => Number.parseFloat((await flow.textContent()) ?? "") - before)
    .toBeCloseTo(Number.parseFloat(gain?.replace("+", "") ?? ""), 1);
  await saved(page);
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(flow).toContainText("3.17");
  await saved(page);
});

test("what is said of the place decides which pumps may stand there, and stays said", async ({
  page,
}) => {
  await page.goto("/jobs/ennet-glasshouses-transfer?part=pump");
  const recommended = page.getByRole("list", { name: "Recommended" });
  const others = page.getByRole("list", { name: "The other pumps" });
  await expect(recommended).toContainText("Brackle Run 35");
  await page.getByLabel("Power there").selectOption({ label: "none" });
  await page.getByLabel("Find among the others").fill("Run 35");
  await expect(others).toContainText("no supply here runs it");
  await expect(recommended).not.toContainText("Brackle Run 35");
  await page.getByLabel("grit or sand").check();
  await expect(page.getByLabel("Power there")).toHaveValue("0");
  await page.getByLabel("Find among the others").fill("Haycast");
  await expect(others).toContainText("it will clog");
  await page.getByLabel("grit or sand").uncheck();
  await page.getByLabel("Power there").selectOption({ label: "not said" });
  await expect(recommended).toContainText("Brackle Run 35");
  await saved(page);
});
