import { join } from "node:path";
import { ownDataFolder } from "./folders.mjs";
import { buildServer, install, root, run, version } from "./prepare.mjs";

/** Runs the program that makes or restores a backup; a relative path counts from where the command was given. */
export async function backUp(what) {
  await install();
  await buildServer();
  const given = process.argv.slice(2);
  const folder = given.includes("--data") || what === "restore" ? [] : ["--data", ownDataFolder()];
  process.exitCode = await run(
    process.execPath,
    [join(root, "dist", "backup.mjs"), what, ...given, ...folder, "--version", version],
    { cwd: process.env.INIT_CWD ?? process.cwd() },
  );
}
