import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { z } from "zod";
import { fieldTestSchema, readingSchema } from "#contract/documents/fieldTest.ts";
import { jobSchema } from "#contract/documents/job.ts";
import { pumpSchema } from "#contract/documents/pump.ts";
import { FITTING_STOCK } from "#core/catalogue/fittings.ts";
import { PIPE_STOCK } from "#core/catalogue/pipes.ts";
import { itemLists } from "./lists.ts";

/** npm run docs: writes the JSON Schemas and the lists of sizes and fittings from the definitions. */
const docs = join(process.cwd(), "docs");
const schemas = {
  job: jobSchema,
  pump: pumpSchema,
  "field-test": fieldTestSchema,
  reading: readingSchema,
};
mkdirSync(join(docs, "schema"), { recursive: true });
for (const [name, schema] of Object.entries(schemas)) {
  const json = { ...z.toJSONSchema(schema, { io: "input" }), title: `upright-gusher/${name}` };
  writeFileSync(join(docs, "schema", `${name}.json`), `${JSON.stringify(json, null, 2)}\n`);
}

const file = join(docs, "job-file.md");
const text = readFileSync(file, "utf8");
const start = text.indexOf("\n## Sizes");
const head = start < 0 ? text.trimEnd() : text.slice(0, start).trimEnd();
writeFileSync(file, `${head}\n\n${itemLists(PIPE_STOCK, FITTING_STOCK)}`);
