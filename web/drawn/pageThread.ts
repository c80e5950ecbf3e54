import "./browserless.ts";
import { parentPort } from "node:worker_threads";
import type { PageAsked } from "#contract/api/pages.ts";

/** Draws pages, away from the thread that answers: what it is asked one after the other. */
const port = parentPort;
// The interface asks its browser for things as soon as it is loaded.
const { drawPage } = await import("./drawPage.tsx");
const { FIRST } = await import("../app/routes.tsx");
if (!port) throw new Error("This runs as a worker thread.");

port.on("message", ({ id, asked }: { id: number; asked: PageAsked }) => {
  drawPage(asked).then(
    (answer) => port.postMessage({ id, answer }),
    (error: unknown) => port.postMessage({ id, failed: String((error as Error).stack ?? error) }),
  );
});

// Whoever opens a page first is not to wait for what draws it.
for (const [, load] of FIRST) void load();
