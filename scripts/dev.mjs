// npm run dev: the demo server with the interface rebuilt in the browser as files change.
import { join } from "node:path";
import { buildServer, install, root, run, version } from "./tasks/prepare.mjs";

await install();
await buildServer();
const api = run(process.execPath, [
  join(root, "dist", "server.mjs"),
  ...["--data", join(root, ".data", "demo"), "--port", "8418", "--version", version, "--demo"],
]);
const { createServer } = await import("vite");
const vite = await createServer({
  root: join(root, "web"),
  configFile: join(root, "web", "vite.config.ts"),
});
await vite.listen();
vite.printUrls();
process.exit(await api);
