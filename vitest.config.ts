import { readFileSync } from "node:fs";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [
    {
      name: "sql-as-text",
      enforce: "pre",
      load: (id) =>
        id.endsWith(".sql")
          ? `export default ${JSON.stringify(readFileSync(id, "utf8"))};`
          : undefined,
    },
  ],
  test: {
    setupFiles: ["scripts/tasks/seed.ts"],
    testTimeout: 240_000,
    hookTimeout: 240_000,
    projects: [
      {
        extends: true,
        test: {
          name: "pure",
          include: [
            "{core,contract,model,words,report,library,web,demo}/**/*.test.ts",
            "scripts/docs/*.test.ts",
          ],
          // They change nothing outside themselves: what one loaded is there for the next.
          isolate: false,
        },
      },
      // With servers, engines and folders of their own.
      {
        extends: true,
        test: {
          name: "processes",
          include: ["{server,scripts}/**/*.test.ts"],
          exclude: ["scripts/docs/**"],
        },
      },
    ],
  },
});
