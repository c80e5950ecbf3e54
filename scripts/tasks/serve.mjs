import { join, resolve } from "node:path";
import { parseArgs } from "node:util";
import {
  buildServer,
  buildWeb,
  fail,
  install,
  passSignalsOn,
  root,
  run,
  version,
} from "./prepare.mjs";

/**
 * Installs and builds what is missing, then runs the server in this terminal until it is stopped.
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
  passSignalsOn();
  await install();
  await buildServer();
  const server = run(process.execPath, [
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
  ]);
  buildWeb().catch((error) => {
    console.error("Building the interface failed.", error);
    process.exitCode = 1;
  });
  // Once the server has ended nothing waits for a build that is still under way.
  const code = await server;
  process.exit(process.exitCode || code);
}
