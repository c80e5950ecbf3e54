// npm run bench: what the computation costs, as ratios within one run.
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { buildBench, buildServer, install, root } from "./tasks/prepare.mjs";

await install();
await buildBench();
await buildServer();
await import(pathToFileURL(join(root, "dist", "bench.mjs")).href);
