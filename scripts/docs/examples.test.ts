import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";

/** "@example meanVelocity(0.005, 0.0525) // 2.31": what is called and what comes of it, on one line. */
const EXAMPLE =
  /@example\s+(.+?\))((?:\.\w+(?:\([^)]*\))?|\[\d+\])*)\s+\/\/\s+(.+?)(?:\s*\*\/)?$/gm;

const files = ["core", "contract", "model", "words"].flatMap((room) =>
  readdirSync(room, { recursive: true, encoding: "utf8" })
    .filter((file) => file.endsWith(".ts") && !file.endsWith(".test.ts"))
    .map((file) => `${room}/${file}`),
);
const examples = files.flatMap((file) =>
  [...readFileSync(file, "utf8").matchAll(EXAMPLE)].map(([, call, after, result]) => ({
    file,
    code: `${call}${after}`,
    result: result ?? "",
  })),
);

const evaluated = (code: string, names: Record<string, unknown>): unknown =>
  new Function(...Object.keys(names), `return (${code});`)(...Object.values(names));

/** A number is as the example has it to as many figures as that writes. */
function alike(found: unknown, told: unknown, figures: number): void {
  if (typeof found === "number" && typeof told === "number") {
    expect(Number(found.toPrecision(figures))).toBeCloseTo(told, 12);
  } else if (typeof told === "object" && told !== null) {
    for (const [name, value] of Object.entries(told)) {
      alike((found as Record<string, unknown>)[name], value, 6);
    }
  } else expect(found).toEqual(told);
}

const figuresOf = (result: string) =>
  Math.max(
    result
      .replace(/e.*$/, "")
      .replace(/^-?0\.0*/, "")
      .replace(/\D/g, "").length,
    1,
  );

describe("examples in docstrings", () => {
  it("are there to be run", () => expect(examples.length).toBeGreaterThan(40));

  it.each(examples)("$code in $file", async ({ file, code, result }) => {
    const names = (await import(`../../${file}`)) as Record<string, unknown>;
    alike(evaluated(code, names), evaluated(result, names), figuresOf(result));
  });
});
