import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { DEMO_JOBS } from "#demo/jobs.ts";
import { fieldTestSchema, readingSchema } from "./fieldTest.ts";
import { jobSchema } from "./job.ts";
import { pumpSchema } from "./pump.ts";
import { sameDocument } from "./same.ts";

describe("documents", () => {
  it.each([
    ["job", jobSchema],
    ["pump", pumpSchema],
    ["field-test", fieldTestSchema],
    ["reading", readingSchema],
  ])("the JSON Schema of %s in docs/ is the one its definition gives", (name, schema) => {
    const written = JSON.parse(readFileSync(`docs/schema/${name}.json`, "utf8"));
    const { title, ...rest } = written;
    expect(title).toBe(`upright-gusher/${name}`);
    expect(rest).toEqual(JSON.parse(JSON.stringify(z.toJSONSchema(schema, { io: "input" }))));
  });

  it.each(DEMO_JOBS.map(({ id, job }) => [id, job] as const))(
    "%s reads back as it was written",
    (_id, input) => {
      const job = jobSchema.parse(input);
      expect(jobSchema.parse(JSON.parse(JSON.stringify(job)))).toEqual(job);
    },
  );

  it("compares documents whatever the order of their keys", () => {
    fc.assert(
      fc.property(fc.dictionary(fc.string(), fc.jsonValue()), (document) => {
        const turned = Object.fromEntries(Object.entries(document).reverse());
        expect(sameDocument(document, turned)).toBe(true);
        expect(sameDocument({ ...document, more: 1 }, { ...turned, more: 2 })).toBe(false);
      }),
    );
  });
});
