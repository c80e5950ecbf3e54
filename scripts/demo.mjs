// npm run demo: the application on invented data in a folder of its own. --reset starts it afresh.
import { join } from "node:path";
import { root } from "./tasks/prepare.mjs";
import { serve } from "./tasks/serve.mjs";

await serve({ demo: true, folder: join(root, ".data", "demo"), port: 8418 });
