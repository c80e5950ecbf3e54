import { join, resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { parseArgs } from "node:util";
import {
  fail,
  install,
  passSignalsOn,
  root,
  run,
  serverIsDue,
  version,
  webIsDue,
} from "./prepare.mjs";

const builder = join(root, "scripts", "tasks", "build.mjs");

/**
 * Installs and builds what is missing, then is the server in this terminal until it is stopped.
 * The interface is built while the database opens: the server answers as soon as both are there.
 */
export async function serve({ demo, folder, port }) {
  let values;
  try {
    ({ values } = parseArgs({
      options: {
        data: { type: "string", default: folder },
        port: { type: "string", default: process.env.PORT ?? String(port) },
        host: { type: "string", default: "127.0.0.1" },
        name: { type: "string", multiple: true, default: [] },
        cert: { type: "string" },
        key: { type: "string" },
        https: { type: "boolean", default: false },
        "new-pass-phrase": { type: "boolean", default: false },
        "behind-proxy": { type: "boolean", default: false },
        reset: { type: "boolean", default: false },
      },
    }));
  } catch (error) {
    fail(
      `${error.message}\nOptions: --port NUMBER  --data FOLDER  --host ADDRESS  --name NAME  --cert FILE --key FILE  --https  --new-pass-phrase  --behind-proxy${demo ? "  --reset" : ""}`,
    );
  }
  const workMyself = passSignalsOn();
  await install();
  if (serverIsDue() && (await run(process.execPath, [builder, "server"])) !== 0) process.exit(1);
  if (webIsDue()) {
    // While the database opens. Once the server has ended nothing waits for a build that is still under way.
    void run(process.execPath, [builder, "web"]);
  }
  process.argv = [
    process.execPath,
    join(root, "dist", "server.mjs"),
    ...["--data", values.data, "--port", values.port, "--host", values.host, "--version", version],
    ...["--web", join(root, "dist", "web")],
    ...(demo ? ["--demo"] : []),
    ...values.name.flatMap((name) => ["--name", name]),
    ...["cert", "key"].flatMap((file) =>
      values[file] ? [`--${file}`, resolve(values[file])] : [],
    ),
    ...["reset", "https", "new-pass-phrase", "behind-proxy"].flatMap((flag) =>
      values[flag] ? [`--${flag}`] : [],
    ),
  ];
  workMyself();
  // This process is the server from here on: none stands beside it that only waits.
  await import(pathToFileURL(process.argv[1]).href);
}
