import { homedir } from "node:os";
import { join } from "node:path";

/** Where the user's own data is kept unless told otherwise. */
export function ownDataFolder() {
  const base =
    {
      win32: process.env.LOCALAPPDATA ?? join(homedir(), "AppData", "Local"),
      darwin: join(homedir(), "Library", "Application Support"),
    }[process.platform] ??
    process.env.XDG_DATA_HOME ??
    join(homedir(), ".local", "share");
  return join(base, "upright-gusher");
}
