/** Arrows point one way: web → contract → core, server → contract → core. */
const only = (name, from, to, comment) => ({
  name,
  comment,
  severity: "error",
  from: { path: from, pathNot: "\\.test\\.ts$" },
  to: { pathNot: to },
});

module.exports = {
  forbidden: [
    only(
      "core-stands-alone",
      "^core/",
      "^core/",
      "core/ imports nothing but itself: no packages, no platform.",
    ),
    only(
      "contract-on-core",
      "^contract/",
      "^(contract|core)/|node_modules/zod",
      "contract/ imports core/ and Zod.",
    ),
    only("demo-on-contract", "^demo/", "^(demo|contract|core)/", "demo/ is data for the contract."),
    {
      name: "server-without-web",
      comment: "server/ never reaches into web/.",
      severity: "error",
      from: { path: "^server/" },
      to: { path: "^web/" },
    },
    {
      name: "web-without-server",
      comment: "web/ speaks to the server over HTTP only, and carries no demo data.",
      severity: "error",
      from: { path: "^web/" },
      to: { path: "^(server|demo|scripts)/" },
    },
    {
      name: "solve-without-server",
      comment: "The headless solver loads neither server nor interface.",
      severity: "error",
      from: { path: "^scripts/solve/", pathNot: "\\.test\\.ts$" },
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
      name: "nothing-missing",
      comment: "Every import is found.",
      severity: "error",
      from: {},
      to: { couldNotResolve: true, pathNot: "\\?url$" },
    },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "(^|/)(dist|node_modules)/" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.base.json" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["import", "default"],
      extensions: [".ts", ".tsx", ".mjs", ".js"],
    },
  },
};
