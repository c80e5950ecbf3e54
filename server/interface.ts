import { readFileSync, statSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { serveStatic } from "@hono/node-server/serve-static";
import type { Hono } from "hono";

/**
 * Built files as they are, compressed where whoever asks takes that; every other address opens the application, which
 * knows its own routes. The first start builds while the database opens, so the page may come a moment after the server.
 */
export function serveInterface(app: Hono, folder: string): void {
  const scripts = scriptsOf(folder);
  app.use(
    "/assets/*",
    serveStatic({
      root: folder,
      precompressed: true,
      onFound: (_path, c) => c.header("cache-control", "public, max-age=31536000, immutable"),
    }),
  );
  app.get("/assets/*", (c) => c.text("Not found", 404));
  // The worker that keeps the application for later, what it loads, and what a home screen shows of it.
  app.get(
    "/:file{[\\w.-]+\\.(?:js|svg|txt|webmanifest)}",
    serveStatic({
      root: folder,
      precompressed: true,
      onFound: (_path, c) => c.header("cache-control", "no-cache"),
    }),
  );
  app.get("*", async (c) => {
    c.header("cache-control", "no-cache");
    // Asked for while the application itself is still being read.
    const links = [
      ...dataOf(c.req.path).map((path) => `<${path}>; rel=preload; as=fetch; crossorigin`),
      ...scripts(c.req.path).map((path) => `</${path}>; rel=modulepreload`),
    ];
    if (links.length > 0) c.header("link", links.join(", "));
    const page = await readFile(join(folder, "index.html"), "utf8").catch(() => undefined);
    if (page !== undefined) return c.html(page);
    c.header("refresh", "1");
    return c.text("The interface is still being built. This page reloads by itself.", 503);
  });
}

/** What a page asks the server for before anything else. */
function dataOf(path: string): string[] {
  if (path === "/") return ["/api/jobs"];
  const id = /^\/jobs\/([a-z0-9-]{1,64})(?:\/|$)/.exec(path)?.[1];
  return id ? [`/api/jobs/${id}`] : [];
}

/** Pages by their address, with the module each begins in. */
const PAGES: readonly [RegExp, string][] = [
  [/^\/$/, "jobs/JobsPage.tsx"],
  [/^\/jobs\/[^/]+(?:\/(?:need|well|line|pump|ground|measure))?$/, "job/JobPage.tsx"],
  [/^\/new\/[^/]+$/, "new/SketchPage.tsx"],
  [/^\/new$/, "new/NewPage.tsx"],
  [/^\/pumps$/, "pumps/PumpsPage.tsx"],
];

interface Chunk {
  file: string;
  imports?: string[];
}

/**
 * The scripts a page of an address is made of: found in one another they would be asked for wave after wave.
 */
function scriptsOf(folder: string): (path: string) => string[] {
  const file = join(folder, ".vite", "manifest.json");
  let read: { of: number; chunks: Record<string, Chunk> } | undefined;
  const chunks = () => {
    const of = statSync(file, { throwIfNoEntry: false })?.mtimeMs;
    if (of === undefined) return undefined;
    // It may be built anew while the server runs.
    if (read?.of !== of) read = { of, chunks: JSON.parse(readFileSync(file, "utf8")) };
    return read.chunks;
  };
  return (path) => {
    const all = chunks();
    if (!all) return [];
    const page = PAGES.find(([address]) => address.test(path))?.[1];
    const needed = new Set([...reached(all, MAIN), ...(page ? reached(all, page) : [])]);
    // The first of all stands in the page itself.
    needed.delete(MAIN);
    return [...needed].flatMap((name) => all[name]?.file ?? []);
  };
}

const MAIN = "index.html";

/** Names of the chunks that one needs at once, its own among them. */
function reached(chunks: Record<string, Chunk>, start: string): Set<string> {
  const seen = new Set([start]);
  for (const name of seen) for (const next of chunks[name]?.imports ?? []) seen.add(next);
  return seen;
}
