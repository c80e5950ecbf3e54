import { readFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { CHECKS } from "#core/check/registry.ts";
import { FINDINGS } from "#core/finding/registry.ts";
import { catalogue } from "./catalogue.ts";

describe("the catalogue", () => {
  const text = catalogue();

  it("is what the code says: `npm run docs` writes it anew", () => {
    const file = join(import.meta.dirname, "..", "..", "docs", "catalogue.md");
    expect(readFileSync(file, "utf8")).toBe(text);
  });

  it("names every check and every finding, in tables whose rows are of one length", () => {
    for (const name of [...Object.keys(CHECKS), ...Object.keys(FINDINGS)]) {
      expect(text).toContain(`| \`${name}\` |`);
    }
    for (const part of text.split("\n## ").slice(1)) {
      const rows = part.split("\n").filter((line) => line.startsWith("|"));
      expect(rows.length).toBeGreaterThan(8);
      expect(new Set(rows.map((row) => row.split(" | ").length)).size).toBe(1);
    }
    expect(text).not.toMatch(/undefined|\[object/);
  });
});
