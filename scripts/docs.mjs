// npm run docs: writes the generated parts of docs/.
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { buildDocs, install, root } from "./tasks/prepare.mjs";

await install();
await buildDocs();
process.chdir(root);
await import(pathToFileURL(join(root, "dist", "docs.mjs")).href);
