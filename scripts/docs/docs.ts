import { mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import * as z from "zod";
import { COLLECTION_NAMES, COLLECTIONS } from "#contract/collections.ts";
import { FITTING_STOCK } from "#core/catalogue/fittings.ts";
import { PIPE_STOCK } from "#core/catalogue/pipes.ts";
import { catalogue } from "./catalogue.ts";
import { itemLists } from "./lists.ts";

/** npm run docs: writes the JSON Schemas, the lists of sizes and fittings, and the catalogue, from the definitions. */
const docs = join(process.cwd(), "docs");
mkdirSync(join(docs, "schema"), { recursive: true });
for (const name of COLLECTION_NAMES) {
  const { shape, versions } = COLLECTIONS[name];
  const title = versions.format;
  const json = { ...z.toJSONSchema(shape, { io: "input" }), title };
  const file = join(docs, "schema", `${title.split("/")[1]}.json`);
  writeFileSync(file, `${JSON.stringify(json, null, 2)}\n`);
}

const file = join(docs, "job-file.md");
const text = readFileSync(file, "utf8");
const start = text.indexOf("\n## Sizes");
const head = start < 0 ? text.trimEnd() : text.slice(0, start).trimEnd();
writeFileSync(file, `${head}\n\n${itemLists(PIPE_STOCK, FITTING_STOCK)}`);
writeFileSync(join(docs, "catalogue.md"), catalogue());
