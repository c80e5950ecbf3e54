// npm run dev: the demo server with the interface rebuilt in the browser as files change, and the server built and
// started again as its own do.
import { spawn } from "node:child_process";
import { once } from "node:events";
import { watch } from "node:fs";
import { join } from "node:path";
import { buildServer, install, root, run, SERVER_SOURCES, version } from "./tasks/prepare.mjs";

/** ms after the last change of a file before the server is built anew: an editor writes several at once */
const PAUSE = 300;

await install();
await buildServer();

let server = begin();
/** The server of before is being ended for another. */
let changing = false;
function begin() {
  const own = spawn(
    process.execPath,
    [
      join(root, "dist", "server.mjs"),
      ...["--data", join(root, ".data", "demo"), "--port", "8418", "--version", version, "--demo"],
    ],
    { stdio: "inherit" },
  );
  own.on("exit", (code) => {
    if (!changing) process.exit(code ?? 1);
  });
  return own;
}

async function rebuild() {
  if (
    (await run(process.execPath, [join(root, "scripts", "tasks", "build.mjs"), "server"])) !== 0
  ) {
    console.error("The server was not built; the one of before goes on.");
    return;
  }
  changing = true;
  const gone = once(server, "exit");
  server.kill("SIGTERM");
  await gone;
  server = begin();
  changing = false;
}

let timer;
let building = Promise.resolve();
for (const folder of SERVER_SOURCES) {
  watch(join(root, folder), { recursive: true }, (_event, file) => {
    if (file && /\.test\.|~$|\.swp$/.test(file)) return;
    clearTimeout(timer);
    timer = setTimeout(() => {
      building = building.then(rebuild);
    }, PAUSE);
  });
}

const { createServer } = await import("vite");
const vite = await createServer({
  root: join(root, "web"),
  configFile: join(root, "web", "vite.config.ts"),
});
await vite.listen();
vite.printUrls();
for (const signal of ["SIGINT", "SIGTERM"]) {
  process.on(signal, () => {
    server.kill(signal);
  });
}
