import { mkdtempSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { defineConfig } from "@playwright/test";

const port = 8611;
process.env.GUSHER_E2E_DATA ??= mkdtempSync(join(tmpdir(), "gusher-e2e-"));

export default defineConfig({
  testDir: ".",
  outputDir: "/tmp/tr-b",
  workers: 1,
  // Ceilings, far over what anything takes: on a slow or busy machine a test waits for what it must see.
  timeout: 120_000,
  expect: { timeout: 60_000 },
  reporter: [["list"], ["json"]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
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
  webServer: {
    command: `node ../dist/server.mjs --data ${process.env.GUSHER_E2E_DATA} --port ${port} --web ../dist/web --demo`,
    url: `http://127.0.0.1:${port}/api/health`,
    reuseExistingServer: false,
    timeout: 60_000,
    gracefulShutdown: { signal: "SIGTERM", timeout: 5000 },
  },
});
