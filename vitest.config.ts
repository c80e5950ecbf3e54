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
    include: ["{core,contract,words,model,library,server,web,demo,scripts}/**/*.test.ts"],
    setupFiles: ["scripts/tasks/seed.ts"],
    testTimeout: 240_000,
    hookTimeout: 240_000,
  },
});
