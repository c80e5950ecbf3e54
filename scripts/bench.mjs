// npm run bench: what the computation costs, as ratios within one run.
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { chromium } from "./tasks/chromium.mjs";
import { buildBench, buildServer, buildWeb, install, root } from "./tasks/prepare.mjs";

await install();
await buildBench();
await buildServer();
await buildWeb();
process.env.CHROMIUM = await chromium();
await import(pathToFileURL(join(root, "dist", "bench.mjs")).href);
