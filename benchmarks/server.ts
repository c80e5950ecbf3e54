import { spawn } from "node:child_process";
import fs from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** The server as it is run, on an empty folder of its own; with the built interface and the demo where asked. */
export async function startServer(...options: string[]) {
  const folder = fs.mkdtempSync(join(tmpdir(), "gusher-bench-"));
  const server = spawn(process.execPath, [
    join(import.meta.dirname, "server.mjs"),
    ...["--data", folder, "--port", "0"],
    ...options,
  ]);
  const address = await new Promise<string>((resolve, reject) => {
    let said = "";
    server.stdout.on("data", (chunk) => {
      said += chunk;
      const found = /is ready: (\S+)/.exec(said)?.[1];
      if (found) resolve(found);
    });
    server.on("exit", () => reject(new Error(`The server ended: ${said}`)));
  });
  async function stop(): Promise<void> {
    server.removeAllListeners("exit");
    server.kill("SIGTERM");
    await new Promise((done) => server.on("exit", done));
    fs.rmSync(folder, { recursive: true, force: true });
  }
  return { address, pid: server.pid, stop };
}
