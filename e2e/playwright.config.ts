import { mkdtempSync } from "node:fs";
import { availableParallelism, tmpdir } from "node:os";
import { join } from "node:path";
import { defineConfig } from "@playwright/test";
import { serverOf } from "./servers.ts";

// The workers are given what the first process made.
process.env.GUSHER_E2E_DATA ??= mkdtempSync(join(tmpdir(), "gusher-e2e-"));
const workers = Number(process.env.GUSHER_E2E_WORKERS ?? (availableParallelism() > 1 ? 2 : 1));

export default defineConfig({
  testDir: ".",
  outputDir: "../test-results",
  // A spec has its tests on one worker, and each worker a server of its own: what one resets is no other's.
  workers,
  // Ceilings, far over what anything takes: on a slow or busy machine a test waits for what it must see.
  timeout: 120_000,
  expect: { timeout: 60_000 },
  reporter: [["list"], ["json"]],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    // What a test puts in the way of a request must not be answered by what the browser kept of an earlier one.
    serviceWorkers: "block",
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
      ],
    },
  },
  webServer: Array.from({ length: workers }, (_, worker) => {
    const { port, address } = serverOf(worker);
    return {
      command: `node ../dist/server.mjs --data ${process.env.GUSHER_E2E_DATA}/${worker} --port ${port} --web ../dist/web --demo`,
      url: `${address}/api/health`,
      reuseExistingServer: false,
      timeout: 60_000,
      gracefulShutdown: { signal: "SIGTERM" as const, timeout: 5000 },
    };
  }),
});
