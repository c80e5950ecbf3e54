import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
// @ts-expect-error a plain script
import { notices } from "./notices.mjs";

const text = notices(process.cwd()) as string;

it("names every library the application is built with, and those they need", () => {
  const { dependencies } = JSON.parse(readFileSync("package.json", "utf8"));
  for (const [name, version] of Object.entries(dependencies)) {
    expect(text).toContain(`${name} ${version}`);
  }
  // React needs it, and nothing here names it.
  expect(Object.keys(dependencies)).not.toContain("scheduler");
  expect(text).toMatch(/^scheduler \d/m);
});

it("brings the fonts' licence in full, once for each", () => {
  const licence = readFileSync("node_modules/@fontsource/barlow/LICENSE", "utf8").trim();
  expect(licence).toContain("SIL OPEN FONT LICENSE");
  expect(text.split(licence).length - 1).toBeGreaterThanOrEqual(1);
  expect(text).toMatch(/^@fontsource\/barlow-condensed \d/m);
});
