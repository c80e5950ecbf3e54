/**
 * Arrows point one way: web → report → words → model → contract → core, and server → model. Packages and
 * Node.js's own modules are seen too: what a folder may import is all it may import.
 */
const only = (from, to, comment) => ({
  name: `${from}-imports-only`,
  comment,
  severity: "error",
  from: { path: `^${from}/` },
  to: { pathNot: to },
});
/** What tests are made of may reach anywhere. */
const TESTS = "\\.(test|oracle)\\.ts$|(^|/)(test|fixtures)/";
const packages = (...names) => names.map((name) => `^node_modules/${name}/`).join("|");

module.exports = {
  forbidden: [
    only("core", "^core/", "core/ imports nothing but itself: no packages, no platform."),
    only("contract", `^(contract|core)/|${packages("zod")}`, "contract/ imports core/ and Zod."),
    only(
      "words",
      "^(words|model|contract|core)/",
      "words/ puts the codes of core/ and model/ into sentences.",
    ),
    only(
      "report",
      `^(report|words|model|contract|core)/|${packages("ics")}`,
      "report/ is what goes on paper or into a calendar; a calendar is written by ics.",
    ),
    only(
      "model",
      `^(model|contract|core)/|${packages("papaparse", "@types/papaparse")}`,
      "model/ holds pure services over documents; a table is read by Papa Parse.",
    ),
    only("library", "^(library|contract|core)/", "library/ is data for the contract."),
    only(
      "demo",
      "^(demo|library|model|words|contract|core)/",
      "demo/ is data for the contract, its readings judged as the application judges them.",
    ),
    {
      name: "server-without-interface",
      comment: "server/ never reaches into web/, report/ or words/.",
      severity: "error",
      from: { path: "^server/" },
      to: { path: "^(web|report|words)/" },
    },
    {
      name: "web-without-server",
      comment: "web/ speaks to the server over HTTP only, and carries no demo data.",
      severity: "error",
      from: { path: "^web/" },
      to: { path: "^(server|demo|library|scripts)/" },
    },
    {
      name: "solve-without-server",
      comment: "The headless solver loads neither server nor interface.",
      severity: "error",
      from: { path: "^scripts/solve/" },
      to: { path: "^(server|web)/" },
    },
    {
      name: "no-circles",
      comment: "No import circles.",
      severity: "error",
      from: {},
      to: { circular: true },
    },
    {
      name: "no-folder-circles",
      comment: "A folder stands above or below another, never both.",
      severity: "error",
      scope: "folder",
      from: { path: "^(core|model|web)/" },
      to: { circular: true },
    },
    {
      name: "nothing-missing",
      comment: "Every import is found.",
      severity: "error",
      from: {},
      // What begins with “virtual:” is made while the interface is built.
      to: { couldNotResolve: true, pathNot: "\\?url$|^virtual:" },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: `(^|/)dist/|${TESTS}` },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.base.json" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "default"],
      extensions: [".ts", ".tsx", ".mjs", ".js"],
    },
  },
};
