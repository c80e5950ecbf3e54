import type { Browser } from "@playwright/test";

/** Eight hours of four instruments, one sample a second. */
const SAMPLES = 8 * 3600;
const READS = ["flow", "discharge", "current", "speed"];
const AT_ONCE = 2000;
/** steps of the hand that moves the view */
const STEPS = 120;

/**
 * What a long record costs to look through: from asking for it until its strips are there, the frames painted a
 * second while a hand moves it, and the longest the page was busy meanwhile.
 */
export async function benchStreams(
  browser: Browser,
  address: string,
  row: (name: string, value: string, note?: string) => void,
): Promise<void> {
  const json = { "content-type": "application/json" };
  const made = await fetch(`${address}/api/streams/long-day`, {
    method: "PUT",
    headers: json,
    body: JSON.stringify({ name: "A long day", channels: READS.map((reads) => ({ reads })) }),
  });
  const { token } = (await made.json()) as { token: string };
  const start = Date.parse("2026-11-20T08:00:00Z");
  const begun = performance.now();
  for (let from = 0; from < SAMPLES; from += AT_ONCE) {
    const samples = Array.from({ length: Math.min(AT_ONCE, SAMPLES - from) }, (_, i) => {
      const n = from + i;
      const wave = Math.sin(n / 600) + 0.02 * Math.sin(n * 12.9898);
      const values = [
        0.003 + 0.0005 * wave,
        150_000 - 20_000 * wave,
        5 + 0.5 * wave,
        2900 - 20 * wave,
      ];
      return { n, at: new Date(start + 1000 * n).toISOString(), values };
    });
    await fetch(`${address}/api/streams/long-day/samples`, {
      method: "POST",
      headers: { ...json, authorization: `Bearer ${token}` },
      body: JSON.stringify({ samples }),
    });
  }
  const values = SAMPLES * READS.length;
  row(
    `${values.toLocaleString("en")} values sent and kept`,
    `${((performance.now() - begun) / 1000).toFixed(1)} s`,
    `${AT_ONCE} samples at once`,
  );

  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const strips = () =>
    page
      .locator("[data-testid=strips] canvas")
      .nth(READS.length - 1)
      .waitFor();
  const begins = performance.now();
  await page.goto(`${address}/streams/long-day`);
  await strips();
  const first = performance.now() - begins;
  await page.goto(`${address}/`);
  await page.getByRole("link", { name: "Pumps", exact: true }).waitFor();
  await page.waitForTimeout(1500);
  const from = performance.now();
  // As a link of the application opens it.
  await page.evaluate(
    `history.pushState({}, "", "/streams/long-day"); dispatchEvent(new PopStateEvent("popstate"));`,
  );
  await strips();
  const opened = performance.now() - from;
  await page.getByRole("button", { name: "Closer" }).click();
  await page.getByRole("button", { name: "Closer" }).click();
  await page.waitForTimeout(1000);
  await page.evaluate(WATCHING);
  const seconds = await page.evaluate<number>(MOVING);
  const seen = await page.evaluate<{ frames: number; longest: number }>("seen");
  row(
    "a record of eight hours: until its strips are there",
    `${opened.toFixed(0)} ms`,
    `with the application itself ${first.toFixed(0)} ms; moved by hand: ${(seen.frames / seconds).toFixed(0)} frames a second, the longest task ${seen.longest.toFixed(0)} ms (0: none of 50 ms)`,
  );
  await page.close();
}

/** Runs in the page: counts the frames in which the first strip is drawn anew, and keeps the longest task. */
const WATCHING = `
  window.seen = { frames: 0, longest: 0 };
  new PerformanceObserver((list) => {
    for (const { duration } of list.getEntries()) seen.longest = Math.max(seen.longest, duration);
  }).observe({ type: "longtask" });
  const context = document.querySelector("[data-testid=strips] canvas").getContext("2d");
  const draw = context.stroke.bind(context);
  let drawn = false;
  context.stroke = (...path) => {
    drawn = true;
    draw(...path);
  };
  const frame = () => {
    if (drawn) seen.frames++;
    drawn = false;
    requestAnimationFrame(frame);
  };
  requestAnimationFrame(frame);
`;

/** Runs in the page: a hand that moves the view once a frame, there and back; s it took. What is timed is the page. */
const MOVING = `(async () => {
  const strips = document.querySelector("[data-testid=strips]");
  const point = (type, x) =>
    strips.dispatchEvent(new PointerEvent(type, { bubbles: true, pointerId: 1, clientX: x, clientY: 200 }));
  strips.setPointerCapture = () => undefined;
  const begins = performance.now();
  point("pointerdown", 300);
  for (let step = 0; step < ${STEPS}; step++) {
    point("pointermove", 300 + 5 * (step < ${STEPS} / 2 ? step : ${STEPS} - step));
    await new Promise((done) => requestAnimationFrame(done));
  }
  point("pointerup", 300);
  return (performance.now() - begins) / 1000;
})()`;
