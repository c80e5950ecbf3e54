import { once } from "node:events";
import { readFileSync } from "node:fs";
import { createInterface } from "node:readline";
import { Writable } from "node:stream";
import { parseArgs } from "node:util";
import { FolderTaken } from "./database/claim.ts";
import { NoRoom } from "./database/database.ts";
import { FolderUnusable } from "./database/dataFolder.ts";
import { logIn } from "./log.ts";
import type { Identity } from "./network/certificate.ts";
import { PhraseRefused } from "./network/passPhrase.ts";
import { PhraseMissing, PortTaken, start } from "./start.ts";

// What is kept is this user's alone, whoever writes it: the database, its log, backups, pictures.
process.umask(0o077);

/** The server as a program. Options come from the command line; see scripts/. */
const { values } = parseArgs({
  options: {
    data: { type: "string" },
    port: { type: "string", default: "8417" },
    host: { type: "string", default: "127.0.0.1" },
    name: { type: "string", multiple: true, default: [] },
    cert: { type: "string" },
    key: { type: "string" },
    https: { type: "boolean", default: false },
    "new-pass-phrase": { type: "boolean", default: false },
    "behind-proxy": { type: "boolean", default: false },
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
  const { data: folder, host, name: names, https, demo, reset, version, web } = values;
  const identity = givenIdentity();
  const open = () =>
    start({
      ...{ folder, port, host, names, https, demo, reset, version },
      ...(web && { webFolder: web }),
      behindProxy: values["behind-proxy"],
      ...(identity && { identity }),
      ...(phrase !== undefined && { passPhrase: phrase }),
    });
  let phrase = process.env.UPRIGHT_GUSHER_PASS_PHRASE;
  if (values["new-pass-phrase"]) phrase = await askPhrase();
  const running = await open().catch(async (error: unknown) => {
    if (!(error instanceof PhraseMissing) || !process.stdin.isTTY) throw error;
    console.log(error.message);
    phrase = await askPhrase();
    return open();
  });
  // Before it says that it is ready: whoever reads that may stop it.
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
  const [address, ...others] = running.addresses;
  console.log(`Upright Gusher is ready: ${address}`);
  for (const other of others) console.log(`                    and at: ${other}`);
  console.log(`Data folder: ${folder}`);
  if (running.authority) {
    const { path, renewed } = running.authority;
    console.log(
      `Devices that do not know this installation warn before they open it, until they trust its authority${renewed ? ", which is new" : ""}: ${path}, also at ${address}/authority.crt. docs/network.md says how.`,
    );
  }
} catch (error) {
  if (error instanceof PortTaken) {
    console.error(`${error.message} Stop it, or choose another port: --port ${port + 1}`);
  } else if (error instanceof FolderTaken) {
    console.error(`${error.message} Stop it first, or choose another folder: --data FOLDER`);
  } else if (error instanceof PhraseMissing) {
    console.error(
      `${error.message} Start it once in a terminal, where it asks for one, or give one in UPRIGHT_GUSHER_PASS_PHRASE.`,
    );
  } else if (error instanceof PhraseRefused) {
    console.error(error.message);
  } else if (error instanceof FolderUnusable || error instanceof NoRoom) {
    console.error(error.message);
    if (error.cause !== undefined) console.error(`Details: ${logged(error)}`);
  } else {
    complain("The server could not start", error);
  }
  process.exit(1);
}

/** The certificate and key given by their files. */
function givenIdentity(): Identity | undefined {
  const { cert, key } = values;
  if (cert === undefined && key === undefined) return undefined;
  if (cert === undefined || key === undefined) {
    console.error("--cert and --key go together: the certificate's file and its key's.");
    process.exit(2);
  }
  try {
    return { cert: readFileSync(cert, "utf8"), key: readFileSync(key, "utf8") };
  } catch (error) {
    console.error(`The certificate could not be read: ${(error as Error).message}`);
    process.exit(2);
  }
}

/** Asks for a pass phrase in the terminal, without showing it. */
async function askPhrase(): Promise<string> {
  const asking = createInterface({
    input: process.stdin,
    output: new Writable({ write: mute }),
    terminal: true,
  });
  process.stdout.write("Pass phrase, at least 12 characters: ");
  const [phrase] = (await once(asking, "line")) as [string];
  asking.close();
  process.stdout.write("\n");
  return phrase;
}

function mute(_chunk: unknown, _encoding: string, done: () => void): void {
  done();
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
