// npm run check: what a change is asked first. Types, lint, boundaries, and the unit tests of what was changed since the
// last commit, with those that rest on it.
import { execFileSync } from "node:child_process";
import { install, root, run } from "./tasks/prepare.mjs";
import { bin, reads } from "./tasks/reads.mjs";

await install();
const { failed } = await reads();
const changed = execFileSync("git", ["status", "--porcelain", "--untracked-files=all"], {
  cwd: root,
  encoding: "utf8",
})
  .split("\n")
  .map((line) => line.slice(3).split(" -> ").at(-1))
  .filter((file) => /\.tsx?$/.test(file));
const tests =
  changed.length === 0
    ? 0
    : await run(bin("vitest"), [
        "related",
        ...changed,
        "--run",
        "--project=pure",
        "--passWithNoTests",
      ]);
process.exit(failed > 0 || tests !== 0 ? 1 : 0);
