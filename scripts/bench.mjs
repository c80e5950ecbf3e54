// npm run bench: what the computation costs, as ratios within one run.
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { buildBench, install, root } from "./tasks/prepare.mjs";

await install();
await buildBench();
await import(pathToFileURL(join(root, "dist", "bench.mjs")).href);
