// Builds what is named, in a process of its own: what building takes of memory ends with it.
import { buildServer, buildWeb } from "./prepare.mjs";

const BUILDS = { server: buildServer, web: buildWeb };
const build = BUILDS[process.argv[2]];
try {
  await build();
} catch (error) {
  console.error(
    `Building the ${process.argv[2] === "web" ? "interface" : "server"} failed.`,
    error,
  );
  process.exitCode = 1;
}
