// npm run --silent solve -- FILE: the core on a job file. See docs/job-file.md.
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { buildSolve, install, root } from "./tasks/prepare.mjs";

await install();
await buildSolve();
await import(pathToFileURL(join(root, "dist", "solve.mjs")).href);
