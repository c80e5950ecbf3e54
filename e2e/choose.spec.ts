import { expect, expectAccessible, saved, takeInPumps, test } from "./harness.ts";

const duty = "[data-testid=duty]";

for (const [name, id, wanted, best] of [
  ["a transfer", "ennet-glasshouses-transfer", "3", "one pump"],
  ["a field", "ketterby-hurling-ground", "4.8", "two in a row"],
] as const) {
  test(`${name} without a pump: three cards with reasons, then pump and pipe together`, async ({
    page,
  }) => {
    // The demo's job as it was before a pump was chosen, under an id of its own.
    const { document } = await (await page.request.get(`/api/jobs/${id}`)).json();
    const bare = {
      ...document,
      name: `${document.name}, to be chosen`,
      wantedFlow: `${wanted} L/s`,
      path: document.path.map((item: { kind: string }) =>
        item.kind === "pump" ? { ...item, pump: null } : item,
      ),
      pumps: [],
    };
    const own = `to-be-chosen-${id}`;
    await page.request.put(`/api/jobs/${own}`, { data: { revision: 0, document: bare } });
    await page.goto(`/jobs/${own}/pump`);
    const recommended = page.getByRole("list", { name: "Recommended" });
    await expect(recommended.getByRole("listitem").first()).toContainText(/Best here/);
    await expect(page.getByText(/ways to put them/)).toBeVisible();
    const flow = await recommended.getByRole("listitem").first().locator("strong").textContent();
    expect(Number.parseFloat(flow ?? "")).toBeGreaterThanOrEqual(Number(wanted));
    // Every one of the others has its line.
    const others = page.getByRole("list", { name: "The other pumps" });
    for (const reason of [/too weak by/, /Not here, and why/]) {
      await page
        .getByLabel("Find among the others")
        .fill(reason.source.startsWith("too") ? "Run" : "Pit");
      await expect(others).toContainText(reason);
    }
    await recommended.getByRole("button").first().click();
    await expect(page.locator(duty)).toContainText((flow ?? "none").replace(" ", ""));
    if (best === "one pump") {
      await expect(recommended.getByRole("button", { name: /^Chosen/ }).first()).toBeVisible();
    } else {
      await expect(page.getByRole("group", { name: "Choose for" }).getByRole("button")).toHaveText([
        "Pump 1",
        "Pump 2",
      ]);
    }

    // What it has to be good at changes what is best, and stays said: with the price counting most, no dearer.
    const price = async () => {
      const text = (await recommended.getByRole("listitem").first().textContent()) ?? "";
      return Number(/price (\d+)/.exec(text)?.[1] ?? 0);
    };
    const before = await price();
    await page.getByLabel("What it has to be good at").selectOption("runs-seldom");
    await expect(page.getByText(/price 46 %/)).toBeVisible();
    await expect(page.getByText(/ways to put them/)).toBeVisible();
    expect(await price()).toBeLessThanOrEqual(before);

    await page.getByRole("button", { name: "With pipe" }).click();
    const front = page.getByRole("list", { name: "What nothing beats" }).getByRole("listitem");
    await expect(front.first()).toBeVisible();
    const last = front.last();
    const text = ((await last.locator("strong").textContent()) ?? "").replace(" ", "");
    await last.getByRole("button").click();
    await expect(page.locator(duty)).toContainText(text);
    await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
    await expect(page.locator(duty)).not.toContainText(text);
    await page.getByRole("button", { name: /^Redo/ }).click();
    await expect(page.locator(duty)).toContainText(text);
    await saved(page);
    await expectAccessible(page);
    await page.request.delete(`/api/jobs/${own}`);
  });
}

test("what drives it: an engine's fuel and speed, a motor's cable, and what each of two moves alone", async ({
  page,
}) => {
  await page.goto("/jobs/ketterby-hurling-ground/pump?view=driving");
  const engine = page.getByRole("region", { name: "Engine" });
  await expect(engine).toContainText("Fuel an hour");
  await expect(engine).toContainText("its exhaust kills");
  const slow = page.getByRole("button", { name: "Run it at the slowest" });
  const before = await page.locator(duty).textContent();
  await slow.click();
  await expect(page.locator(duty)).not.toHaveText(before ?? "");
  await expect(slow).toBeDisabled();
  await page.getByRole("button", { name: "Undo (Ctrl Z)" }).click();
  await expect(page.locator(duty)).toHaveText(before ?? "");

  await page.goto("/jobs/bramble-rigg-yard/pump?view=driving");
  const motor = page.getByRole("region", { name: "Electricity" });
  await motor.getByLabel("Cord or cable").selectOption("awg-18");
  await motor.getByLabel("Its length").fill("150 m");
  await expect(motor).toContainText(/The cable takes .* would do/);
  await motor.getByLabel("Its length").fill("10 m");
  await expect(motor).not.toContainText("would do");
  await expect(motor).toContainText("licensed electrician");
  await saved(page);
  await expectAccessible(page);

  await page.goto("/jobs/tallow-mill-wheel-pit/pump?view=driving");
  await expect(
    page.getByRole("table", { name: "Alone and together" }).getByRole("row"),
  ).toHaveCount(4);

  // Measured one at a time: promised and held against the curve is the one that ran.
  await page.goto("/jobs/tallow-mill-wheel-pit/measure");
  await page.getByLabel("Measured by").selectOption("meter");
  await page.getByLabel("Meter reads").fill("52 gpm");
  const verdict = page.getByRole("region", { name: "Measured against rated" });
  await expect(verdict).toContainText("was promised, ");
  await page.getByLabel("Which pumps ran").selectOption("Pump 2 alone");
  await expect(verdict).toContainText("was promised with 1 of 2 pumps running");
  await page.getByRole("button", { name: "File this reading" }).click();
  await expect(verdict.getByText("Ran: Pump 2 alone.")).toBeVisible();
});

test("a table of twenty pumps with three bad rows: just those are refused, and nothing else changes", async ({
  page,
}) => {
  await page.goto("/pumps");
  await page.getByRole("button", { name: "Read in" }).click();
  const rows = Array.from({ length: 20 }, (_, i) => {
    if (i === 4) return `Bench,Row ${i + 1},sump,heavy,30,50`;
    if (i === 9) return `,Row ${i + 1},sump,10,30,50`;
    if (i === 15) return `Bench,Row ${i + 1},rocket,10,30,50`;
    return `Bench,Row ${i + 1},sump,${10 + i},${30 + i},50`;
  });
  const text = ["Maker,Model,Kind,Weight (lb),Max head (ft),Max flow (gpm)", ...rows].join("\n");
  await page.getByLabel("or pasted").fill(text);
  const refused = page.getByRole("alert", { name: "Refused rows" });
  await expect(refused.getByRole("listitem")).toHaveText([
    /Row 6, Bench Row 5: Weight \(lb\): .*heavy/,
    /Row 11, Row 10: Maker: Name the maker/,
    /Row 17, Bench Row 16: Kind: .*rocket/,
  ]);
  await expect(page.getByText("17 new, 0 changed, 0 as they are")).toBeVisible();
  await expectAccessible(page, "[role=dialog]");
  // A column may be said to hold something else, and back.
  const weight = page.getByLabel(/^Weight \(lb\)/);
  await weight.selectOption({ label: "not used" });
  await expect(refused.getByRole("listitem")).toHaveCount(2);
  await weight.selectOption({ label: "Weight" });
  await page.getByRole("button", { name: "Read in the other 17" }).click();
  await expect(page.getByText("17 added, 0 changed, 0 as they were.")).toBeVisible();
  await page.getByLabel("Find").fill("bench");
  await expect(page.getByText(/^17 of /)).toBeVisible();
  // Read in once more, what was written out changes nothing.
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Write as JSON" }).click();
  const path = await (await download).path();
  await page.getByRole("button", { name: "Read in" }).click();
  await page.getByLabel("CSV or JSON file").setInputFiles(path);
  await expect(page.getByText("0 new, 0 changed, 17 as they are")).toBeVisible();
});

test("thousands of pumps: only what is in sight is drawn, and finding leaves what is found", async ({
  page,
}) => {
  const { document } = await (await page.request.get("/api/pumps/tarnfold-pit-4")).json();
  const pumps = Array.from({ length: 5000 }, (_, i) => ({
    ...document,
    ...{ id: `many-${i}`, maker: "Many", model: `Number ${i}` },
  }));
  expect(await takeInPumps(page, pumps)).toEqual({ added: 5000, changed: 0, same: 0 });
  await page.goto("/pumps");
  const table = page.getByRole("table", { name: "Pumps" });
  await expect(table.getByRole("link").first()).toBeVisible();
  expect(await table.getByRole("row").count()).toBeLessThan(80);
  await page.mouse.move(640, 500);
  for (let i = 0; i < 20; i++) await page.mouse.wheel(0, 4000);
  await expect(table.getByRole("link", { name: /Number/ }).first()).toBeVisible();
  expect(await table.getByRole("row").count()).toBeLessThan(80);
  await page.getByLabel("Find").fill("number 4321");
  await expect(table.getByRole("link")).toHaveText(["Many Number 4321"]);
  // None of them is left behind for the tests after this one.
  expect((await page.request.post("/api/demo/reset")).ok()).toBe(true);
});

test("pumps side by side, a copy that is changed, and one that is archived", async ({ page }) => {
  await page.goto("/pumps");
  for (const name of ["Brackle Run 35", "Brackle Run 28", "Ennetside Draw 10"]) {
    await page.getByLabel("Find").fill(name);
    await page.getByLabel(`Compare ${name}`, { exact: true }).check();
  }
  await page.getByRole("link", { name: "Compare 3" }).click();
  const sheet = page.getByRole("table", { name: "Side by side" });
  await expect(sheet.getByRole("columnheader")).toHaveCount(4);
  await expect(sheet.getByRole("row", { name: /^Best flow/ })).toContainText("L/s");
  await expectAccessible(page);
  await page.goto("/pumps/brackle-run-28");
  await page.getByRole("link", { name: "Duplicate" }).click();
  await expect(page.getByLabel("Model")).toHaveValue("Run 28, copy");
  await page.getByLabel("Model").fill("Run 28 rebuilt");
  await page.locator("summary", { hasText: "In the firm" }).click();
  await page.getByLabel("How many you own").fill("1.5");
  await expect(page.getByText("How many you own must be a whole number.")).toBeVisible();
  await page.getByLabel("How many you own").fill("1");
  await page.getByRole("button", { name: "Save the pump" }).click();
  await expect(page.getByRole("heading", { name: "Brackle Run 28 rebuilt" })).toBeVisible();
  await page.getByRole("button", { name: "Archive" }).click();
  await expect(page.getByText("Archived: not offered any more.")).toBeVisible();
  await page.goto("/jobs/ennet-glasshouses-transfer/pump");
  await page.getByLabel("Find among the others").fill("rebuilt");
  const others = page.getByRole("list", { name: "The other pumps" });
  await expect(others.getByRole("button")).toHaveCount(0);
  await page.goto("/pumps?which=archived");
  await page.getByRole("link", { name: "Brackle Run 28 rebuilt" }).click();
  await page.getByRole("button", { name: "Delete" }).click();
});

test("a curve of a sticker says how doubtful it is, one of ranges as doubtful as they are wide", async ({
  page,
}) => {
  await page.goto("/pumps/new/edit");
  await page.getByLabel("How its curve is known").selectOption("sticker");
  await page.getByLabel("Most flow").fill("158 gpm");
  await page.getByLabel("Most head").fill("92 ft");
  await page.getByRole("button", { name: "Draw the curve of the sticker" }).click();
  const points = page.getByRole("list", { name: "Points" }).getByRole("listitem");
  await expect(points).toHaveCount(9);
  await page.getByLabel("How its curve is known").selectOption("chart-rows");
  await page
    .getByLabel(/^A row a line/)
    .fill("10 ft   40–50 gpm\n15 ft   nonsense\n20 ft   12–16 gpm");
  await expect(page.getByText(/^Row 2, flow:/)).toBeVisible();
  await page
    .getByLabel(/^A row a line/)
    .fill("10 ft   40–50 gpm\n15 ft   28–34 gpm\n20 ft   12–16 gpm");
  await page.getByRole("button", { name: "Draw the curve through their middles" }).click();
  await expect(points).toHaveCount(3);
  await page.getByLabel("Maker").fill("Bench");
  await page.getByLabel("Model").fill("Of ranges");
  await page.getByRole("button", { name: "Save the pump" }).click();
  await expect(page.getByText("±14 %")).toBeVisible();
  await expect(page.getByText("rows of a printed chart, with ranges")).toBeVisible();
});

test("a curve is traced on a picture, over which it is drawn, and both are kept", async ({
  page,
}) => {
  await page.goto("/pumps/new/edit");
  // A chart drawn in the page: flow 0 to 60 gpm over 600 px, head 0 to 40 ft over 400 px; H = 36 − 0.01 Q².
  const bytes = await page.evaluate(async () => {
    const canvas = document.createElement("canvas");
    canvas.width = 720;
    canvas.height = 500;
    const context = canvas.getContext("2d");
    if (!context) throw new Error("no canvas");
    context.fillStyle = "#fff";
    context.fillRect(0, 0, 720, 500);
    context.strokeStyle = "#bbb";
    for (let i = 0; i <= 6; i++) {
      context.strokeRect(60, 440 - (400 * i) / 6, 600, 0.5);
      context.strokeRect(60 + 100 * i, 40, 0.5, 400);
    }
    context.strokeStyle = "#222";
    context.lineWidth = 3;
    context.beginPath();
    for (let q = 0; q <= 50; q++) context.lineTo(60 + 10 * q, 440 - 10 * (36 - 0.01 * q * q));
    context.stroke();
    context.beginPath();
    for (let q = 0; q <= 38; q++) context.lineTo(60 + 10 * q, 440 - 10 * (24 - 0.012 * q * q));
    context.stroke();
    const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/png"));
    return [...new Uint8Array((await blob?.arrayBuffer()) ?? new ArrayBuffer(0))];
  });
  await page.getByLabel("How its curve is known").selectOption("traced");
  await page.getByLabel(/^A photo of the curve/).setInputFiles({
    ...{ name: "chart.png", mimeType: "image/png" },
    buffer: Buffer.from(bytes),
  });
  const sheet = page.getByRole("dialog", { name: "Trace the curve" });
  const picture = sheet.getByRole("button", { name: /^The picture/ });
  await expect(picture).toBeVisible();
  const click = async (x: number, y: number) => {
    const box = await picture.boundingBox();
    if (!box) throw new Error("no picture");
    await picture.click({ position: { x: (x / 720) * box.width, y: (y / 500) * box.height } });
  };
  await sheet.getByLabel("Flow in").selectOption("gpm");
  await sheet.getByLabel("Head in").selectOption("ft");
  await click(60, 440);
  await sheet.getByLabel("Flow at place 2").fill("60");
  await sheet.getByRole("button", { name: "Click place 2" }).first().click();
  await click(660, 440);
  await sheet.getByLabel("Head at place 2").fill("40");
  await sheet.getByRole("button", { name: "Click place 1" }).last().click();
  await click(60, 440);
  await sheet.getByRole("button", { name: "Click place 2" }).last().click();
  await click(60, 40);
  await sheet
    .getByRole("button", { name: /^Click along it/ })
    .first()
    .click();
  const use = sheet.getByRole("button", { name: "Use this curve" });
  await expect(use).toBeDisabled();
  const flows = [1, 10, 20, 30, 40, 49];
  for (const q of flows) {
    // A hand is a few pixels off; the click is drawn to the line.
    await click(60 + 10 * q + 2, 440 - 10 * (36 - 0.01 * q * q) + 3);
  }
  await expect(sheet.getByRole("list", { name: "What is said of the trace" })).toContainText(
    "6 points",
  );
  await expectAccessible(page, "[role=dialog]");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("ArrowDown");
  // The line of a smaller impeller on the same sheet: what is said, is said of it as well.
  await sheet.getByRole("button", { name: /^Another speed or impeller/ }).click();
  await sheet.getByLabel("Name", { exact: true }).fill("Small impeller");
  for (const q of [1, 12, 20, 28]) await click(60 + 10 * q, 440 - 10 * (24 - 0.012 * q * q));
  await expect(use).toBeEnabled();
  await click(60 + 370, 440 - 150);
  const said = sheet.getByRole("list", { name: "What is said of the trace" });
  await expect(said).toContainText(/Small impeller: The head rises towards 37/);
  await sheet.getByRole("button", { name: "Take this click out" }).click();
  await expect(said).not.toContainText("rises");
  await expect(said).toContainText("Small impeller: 4 points");
  await use.click();
  const points = page.getByRole("list", { name: "Points" }).getByRole("listitem");
  await expect(points).toHaveCount(6);
  await page.getByLabel("Maker").fill("Bench");
  await page.getByLabel("Model").fill("Traced");
  await page.getByRole("button", { name: "Save the pump" }).click();
  await expect(page.getByRole("heading", { name: "Bench Traced" })).toBeVisible();
  const id = page.url().split("/").at(-1) ?? "";
  const { document } = await (await page.request.get(`/api/pumps/${id}`)).json();
  for (const { flow, head } of document.points) {
    const q = flow / (3.785411784e-3 / 60);
    expect(Math.abs(head / 0.3048 - (36 - 0.01 * q * q)) / 40).toBeLessThan(0.005);
  }
  expect(document.curve.from).toBe("traced");
  const lines = page.getByRole("region", { name: "Other lines of its sheet" });
  await expect(lines).toContainText("Small impeller");
  await expect(page.getByRole("img", { name: "Its curve as it was traced" })).toBeVisible();
  expect(
    (await page.request.get(`/api/attachments/${document.curve.picture}/content`)).status(),
  ).toBe(200);
  await lines.getByRole("link", { name: "Add as a pump" }).click();
  await expect(page.getByLabel("Model")).toHaveValue("Traced, Small impeller");
  await expect(points).toHaveCount(4);
});
