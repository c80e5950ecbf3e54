import { execFile } from "node:child_process";
import { chmodSync, cpSync, mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, it } from "vitest";
// @ts-expect-error: plain JavaScript without types
import { root } from "./prepare.mjs";

/** A user without rights, where this is root: root may write anywhere. */
const nobody = process.getuid?.() === 0 ? { uid: 65_534, gid: 65_534 } : {};

it.runIf(process.platform !== "win32").each([
  ["npm’s cache", "cache", /npm’s cache, .*cache, may not be written to.*npm_config_cache=FOLDER/],
  ["the application", "app", /this folder, .*app, may not be written to.*a folder of yours/],
])(
  "the first start says so where %s may not be written to, and npm's own words are in a file",
  async (_what, closed, sentence) => {
    const place = mkdtempSync(join(tmpdir(), "gusher-install-"));
    try {
      for (const name of ["app", "cache", "home", "temporary"]) {
        mkdirSync(join(place, name));
        chmodSync(join(place, name), name === closed ? 0o555 : 0o777);
      }
      chmodSync(place, 0o755);
      const app = join(place, "app");
      chmodSync(app, 0o755);
      for (const file of ["package.json", "package-lock.json", "scripts"]) {
        cpSync(join(root, file), join(app, file), { recursive: true });
      }
      chmodSync(app, closed === "app" ? 0o555 : 0o777);
      const said = await new Promise<string>((done) => {
        execFile(
          process.execPath,
          ["scripts/start.mjs"],
          {
            cwd: app,
            ...nobody,
            env: {
              ...{ PATH: process.env.PATH, HOME: join(place, "home") },
              ...{ TMPDIR: join(place, "temporary"), npm_config_cache: join(place, "cache") },
            },
          },
          (_error, _output, errors) => done(errors),
        );
      });
      expect(said).toMatch(sentence);
      expect(said).not.toMatch(/\n\s+at |npm error/);
    } finally {
      rmSync(place, { recursive: true, force: true });
    }
  },
);
