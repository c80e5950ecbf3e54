import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["{core,contract,server,web,demo,scripts}/**/*.test.ts"],
    testTimeout: 60_000,
    hookTimeout: 120_000,
  },
});
