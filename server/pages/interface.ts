import { readFileSync, statSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { serveStatic } from "@hono/node-server/serve-static";
import type { Context, Hono } from "hono";
import { compress } from "hono/compress";
import { getCookie } from "hono/cookie";
import { type PageDrawn, SETTINGS_COOKIE } from "#contract/api/pages.ts";
import type { Draw } from "./drawing.ts";

/**
 * Built files as they are, compressed where whoever asks takes that; every other address opens the application, which
 * knows its own routes. The first start builds while the database opens, so the page may come a moment after the server.
 */
export function serveInterface(app: Hono, folder: string, draw: Draw): void {
  const built = builtIn(folder);
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
  app.get("*", compress(), async (c) => {
    const page = PAGES.find(({ at }) => at.test(c.req.path));
    const html = await readFile(join(folder, "index.html"), "utf8").catch(() => undefined);
    if (html === undefined) {
      c.header("refresh", "1");
      return c.text("The interface is still being built. This page reloads by itself.", 503);
    }
    // It holds what this person may see, and is asked for again each time.
    c.header("cache-control", "private, no-cache");
    const answers = page && (await answersTo(c, app, dataOf(c.req.path)));
    const drawn = page?.drawn && answers ? await drawnFor(c, draw, answers) : undefined;
    const inside = Object.entries(answers ?? {}).filter(([, json]) => json.length <= MOST_INSIDE);
    const later = Object.keys(answers ?? {}).filter(
      (each) => !inside.some(([own]) => own === each),
    );
    // Asked for while the application itself is still being read.
    const modules = built.scripts(page?.script);
    const links = [
      ...later.map((path) => `<${path}>; rel=preload; as=fetch; crossorigin`),
      ...built.fonts().map((path) => `</${path}>; rel=preload; as=font; crossorigin`),
      ...(drawn ? [] : modules.map((path) => `</${path}>; rel=modulepreload`)),
    ];
    c.header("link", links.join(", "));
    const named = { modules: drawn ? modules : [], later: page ? built.later() : [] };
    return c.html(withinPage(html, drawn, inside, named, c.get("secureHeadersNonce") ?? ""));
  });
}

/** Bytes of an answer that may stand in the page itself; more keeps it from being read. */
const MOST_INSIDE = 150_000;

/** What the server answers to each, or nothing where it refuses one: the page will hear that itself. */
async function answersTo(
  c: Context,
  app: Hono,
  addresses: readonly string[],
): Promise<Record<string, string> | undefined> {
  const headers = new Headers(c.req.raw.headers);
  headers.delete("accept-encoding");
  const answers = await Promise.all(
    addresses.map(async (address) => {
      const answer = await app.request(new URL(address, c.req.url).href, { headers }, c.env);
      return answer.ok ? ([address, await answer.text()] as const) : undefined;
    }),
  );
  const had = answers.filter((each) => each !== undefined);
  return had.length === addresses.length ? Object.fromEntries(had) : undefined;
}

function drawnFor(
  c: Context,
  draw: Draw,
  answers: Record<string, string>,
): Promise<PageDrawn | undefined> {
  const { pathname, search } = new URL(c.req.url);
  return draw({
    address: `${pathname}${search}`,
    settings: getCookie(c, SETTINGS_COOKIE) ?? "",
    languages: c.req.header("accept-language") ?? "",
    answers,
  });
}

/**
 * The page with its first view in it and what it begins with, as far as they are there.
 * @param named modules: those asked for once the first view is painted, which each would keep waiting, and `later` ones
 */
function withinPage(
  html: string,
  drawn: PageDrawn | undefined,
  inside: readonly (readonly [string, string])[],
  named: Readonly<Record<string, readonly string[]>>,
  nonce: string,
): string {
  const answers = inside.map(([address, json]) => `${JSON.stringify(address)}:${json}`).join(",");
  // Nothing in it may end the element it stands in.
  const arrived =
    `{"settings":${JSON.stringify(drawn?.settings ?? "")},"answers":{${answers}}}`.replaceAll(
      "<",
      "\\u003c",
    );
  const data = Object.entries(named)
    .map(([name, files]) => ` data-${name}="${files.join(" ")}"`)
    .join("");
  return html
    .replace("<html ", () => (drawn ? `<html data-theme="${drawn.theme}" ` : "<html "))
    .replace(
      ROOT,
      () =>
        `<div id="root"${drawn ? " data-drawn" : ""}>${drawn?.html ?? ""}</div><script type="application/json" id="arrived" nonce="${nonce}"${data}>${arrived}</script>`,
    );
}

const ROOT = '<div id="root"></div>';

/** What a page asks the server for before anything else. */
function dataOf(path: string): string[] {
  if (path === "/") return ["/api/health", "/api/jobs"];
  const [, id] = /^\/jobs\/([^/]+)/.exec(path) ?? [];
  return ["/api/health", ...(id === undefined ? [] : [`/api/jobs/${id}`])];
}

/** Pages by their address, with the name of the file each begins in; `drawn` where its first view is sent with it. */
const PAGES: readonly { at: RegExp; script: string; drawn?: boolean }[] = [
  { at: /^\/$/, script: "JobsPage", drawn: true },
  {
    at: /^\/jobs\/[^/]+(?:\/(?:need|well|line|pump|ground))?$/,
    script: "JobPage",
    drawn: true,
  },
  // Its watch and its draft are this device's own.
  { at: /^\/jobs\/[^/]+\/measure$/, script: "JobPage" },
  { at: /^\/new\/[^/]+$/, script: "SketchPage", drawn: true },
  { at: /^\/new$/, script: "NewPage", drawn: true },
  { at: /^\/pumps$/, script: "PumpsPage" },
];

interface Chunk {
  file: string;
  name?: string;
  imports?: string[];
  dynamicImports?: string[];
  assets?: string[];
}

/** What of the built files a page has to have first: found in one another they would be asked for wave after wave. */
function builtIn(folder: string) {
  const file = join(folder, ".vite", "manifest.json");
  let read: { of: number; chunks: Record<string, Chunk> } | undefined;
  const chunks = () => {
    const of = statSync(file, { throwIfNoEntry: false })?.mtimeMs;
    if (of === undefined) return {};
    // It may be built anew while the server runs.
    if (read?.of !== of) read = { of, chunks: JSON.parse(readFileSync(file, "utf8")) };
    return read.chunks;
  };
  /** Files of some chunks and of all they need at once. */
  const filesOf = (isOne: (chunk: Chunk, key: string) => boolean): string[] => {
    const all = chunks();
    const begin = Object.entries(all).flatMap(([key, chunk]) => (isOne(chunk, key) ? [key] : []));
    const needed = new Set(begin.flatMap((key) => [...reached(all, key)]));
    return [...needed].flatMap((key) => all[key]?.file ?? []);
  };
  return {
    /** those of the application and of a page that begins in a module */
    scripts(page: string | undefined): string[] {
      return filesOf(
        ({ name }) => name !== undefined && ["react", "application", page].includes(name),
      );
    },
    /** what a job shows when it is asked for, and would not have where there is no network */
    later(): string[] {
      const panes = Object.values(chunks()).find(({ name }) => name === "JobPage")?.dynamicImports;
      return filesOf((_, key) => panes?.includes(key) ?? false);
    },
    /** what the first view is written in: it does not change its face, and with it its widths, once it is there */
    fonts: (): string[] =>
      (chunks()[START]?.assets ?? []).filter((each) => each.endsWith(".woff2")),
  };
}

const START = "index.html";

/** Names of the chunks that one needs at once, its own among them. */
function reached(chunks: Record<string, Chunk>, start: string): Set<string> {
  const seen = new Set([start]);
  for (const name of seen) for (const next of chunks[name]?.imports ?? []) seen.add(next);
  return seen;
}
