import fs from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** bytes after which a log is put aside as `.old` and begun anew */
const LARGEST = 1_000_000;

/** Where what went wrong is written for whoever has to mend it. */
export interface Log {
  path: string;
  write(error: unknown): void;
}

/**
 * The log of a data folder, or of the machine's temporary folder where that one cannot be written.
 * Writing never fails: a log that cannot be kept is no reason to stop.
 */
export function logIn(folder: string | undefined): Log {
  const own = folder !== undefined && mayWrite(folder) ? join(folder, "server.log") : undefined;
  const path = own ?? join(tmpdir(), `upright-gusher-${process.getuid?.() ?? ""}.log`);
  return {
    path,
    write: (error) => {
      try {
        if ((fs.statSync(path, { throwIfNoEntry: false })?.size ?? 0) > LARGEST) {
          fs.renameSync(path, `${path}.old`);
        }
        fs.appendFileSync(path, `${new Date().toISOString()} ${told(error)}\n`);
      } catch {
        // Nothing can be said where nothing can be written.
      }
    },
  };
}

function mayWrite(folder: string): boolean {
  try {
    fs.accessSync(folder, fs.constants.W_OK);
    return true;
  } catch {
    return false;
  }
}

/** An error with what caused it. */
function told(error: unknown): string {
  if (!(error instanceof Error)) return String(error);
  const own = error.stack ?? error.message;
  return error.cause === undefined ? own : `${own}\nbecause of ${told(error.cause)}`;
}
