import { existsSync } from "node:fs";
import { fail, run } from "./prepare.mjs";

const PLACES = [process.env.CHROMIUM, "/usr/bin/chromium", "/usr/bin/chromium-browser"];

/** Path of Debian's Chromium; installs it where that is allowed, otherwise says how. */
export async function chromium() {
  const find = () => PLACES.find((path) => path && existsSync(path));
  const found = find();
  if (found) return found;
  const root = process.getuid?.() === 0 && existsSync("/usr/bin/apt-get");
  if (root) {
    console.error("Installing Chromium from Debian's packages (once) …");
    const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
    await run("apt-get", ["update", "-q"], { env, stdio: ["ignore", 2, 2] });
    await run("apt-get", ["install", "-y", "-q", "--no-install-recommends", "chromium"], {
      env,
      stdio: ["ignore", 2, 2],
    });
  }
  return (
    find() ??
    fail(
      "The browser tests need Chromium. On Debian: sudo apt-get install chromium. Elsewhere set CHROMIUM to the path of one.",
    )
  );
}
