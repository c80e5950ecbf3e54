// npm start: the application on the user's own data folder.
import { homedir } from "node:os";
import { join } from "node:path";
import { serve } from "./tasks/serve.mjs";

const base =
  {
    win32: process.env.LOCALAPPDATA ?? join(homedir(), "AppData", "Local"),
    darwin: join(homedir(), "Library", "Application Support"),
  }[process.platform] ??
  process.env.XDG_DATA_HOME ??
  join(homedir(), ".local", "share");

await serve({ demo: false, folder: join(base, "upright-gusher"), port: 8417 });
