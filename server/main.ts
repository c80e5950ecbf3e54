import { parseArgs } from "node:util";
import { FolderTaken } from "./database/claim.ts";
import { NoRoom } from "./database/database.ts";
import { FolderUnusable } from "./database/dataFolder.ts";
import { logIn } from "./log.ts";
import { PortTaken, start } from "./start.ts";

/** The server as a program. Options come from the command line; see scripts/. */
const { values } = parseArgs({
  options: {
    data: { type: "string" },
    port: { type: "string", default: "8417" },
    host: { type: "string", default: "127.0.0.1" },
    web: { type: "string" },
    version: { type: "string", default: "0.0.0" },
    demo: { type: "boolean", default: false },
    reset: { type: "boolean", default: false },
  },
});

const port = Number(values.port);
if (!values.data || !Number.isInteger(port) || port < 0 || port > 65_535) {
  console.error("Give a data folder with --data and a port from 0 to 65535 with --port.");
  process.exit(2);
}

/** ms that stopping may take in all; what was acknowledged is on the disk whenever it ends */
const LONGEST_STOP = 4500;

try {
  const { data: folder, host, demo, reset, version, web } = values;
  const running = await start({
    folder,
    port,
    host,
    demo,
    reset,
    version,
    ...(web && { webFolder: web }),
  });
  console.log(`Upright Gusher is ready: ${running.address}`);
  console.log(`Data folder: ${folder}`);
  let stopping = false;
  for (const signal of ["SIGINT", "SIGTERM"] as const) {
    process.on(signal, () => {
      if (stopping) return;
      stopping = true;
      setTimeout(() => process.exit(1), LONGEST_STOP).unref();
      running.stop().then(
        () => process.exit(0),
        (error: unknown) => {
          complain("The server did not stop cleanly", error);
          process.exit(1);
        },
      );
    });
  }
} catch (error) {
  if (error instanceof PortTaken) {
    console.error(`${error.message} Stop it, or choose another port: --port ${port + 1}`);
  } else if (error instanceof FolderTaken) {
    console.error(`${error.message} Stop it first, or choose another folder: --data FOLDER`);
  } else if (error instanceof FolderUnusable || error instanceof NoRoom) {
    console.error(error.message);
    if (error.cause !== undefined) console.error(`Details: ${logged(error)}`);
  } else {
    complain("The server could not start", error);
  }
  process.exit(1);
}

function complain(what: string, error: unknown): void {
  const reason = error instanceof Error ? error.message : String(error);
  console.error(`${what}: ${reason.split("\n")[0]}\nDetails: ${logged(error)}`);
}

/** Writes an error to the log and tells where that is. */
function logged(error: unknown): string {
  const log = logIn(values.data);
  log.write(error);
  return log.path;
}
