import { type ChildProcess, spawn } from "node:child_process";
import { join } from "node:path";
// @ts-expect-error: plain JavaScript without types
import { root } from "../../scripts/tasks/prepare.mjs";

export interface Launched {
  child: ChildProcess;
  address: string;
  /** what it has printed so far */
  said: () => string;
}

/** The real server as a process, on a free port; resolves once it is ready, rejects with what it said otherwise. */
export function launch(
  folder: string,
  extra: readonly string[] = [],
  how: { env?: Record<string, string>; node?: readonly string[] } = {},
): Promise<Launched> {
  const child = spawn(
    process.execPath,
    [
      ...(how.node ?? []),
      join(root, "dist/server.mjs"),
      ...["--data", folder, "--port", "0", ...extra],
    ],
    { env: { ...process.env, ...how.env } },
  );
  return new Promise((resolve, reject) => {
    let said = "";
    const hear = (chunk: unknown) => {
      said += chunk;
      const address = /is ready: (https?:\/\/\S+)/.exec(said)?.[1];
      if (address) resolve({ child, address, said: () => said });
    };
    child.stdout.on("data", hear);
    child.stderr.on("data", hear);
    child.on("close", () => reject(new Error(said)));
  });
}

/** The exit code of a process, once it has ended. */
export const ended = (child: ChildProcess) =>
  child.exitCode !== null
    ? Promise.resolve(child.exitCode)
    : new Promise<number | null>((done) => child.on("exit", (code) => done(code)));
