import fs from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { Hono } from "hono";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { PageAsked } from "#contract/api/pages.ts";
import { type Draw, drawing } from "./drawing.ts";
import { serveInterface } from "./interface.ts";

const folders: string[] = [];
afterEach(() => {
  for (const folder of folders.splice(0)) fs.rmSync(folder, { recursive: true });
});
const emptyFolder = () => {
  const folder = fs.mkdtempSync(join(tmpdir(), "gusher-pages-"));
  folders.push(folder);
  return folder;
};

const NAME = "</script><img src=x onerror=alert(1)>";

/** What is built, in small, with a server of two jobs: one that is large. */
function served(draw: Draw): Hono {
  const folder = emptyFolder();
  fs.mkdirSync(join(folder, ".vite"));
  fs.writeFileSync(
    join(folder, "index.html"),
    '<!doctype html><html lang="en"><body><div id="root"></div></body></html>',
  );
  fs.writeFileSync(
    join(folder, ".vite", "manifest.json"),
    JSON.stringify({
      "index.html": { file: "a/start.js", assets: ["a/face.woff2", "a/face.woff"] },
      _react: { file: "a/react.js", name: "react" },
      _application: { file: "a/application.js", name: "application", imports: ["_react"] },
      _job: {
        ...{ file: "a/job.js", name: "JobPage", imports: ["_application", "_shared"] },
        dynamicImports: ["measure"],
      },
      _shared: { file: "a/shared.js" },
      measure: { file: "a/measure.js", imports: ["_shared"] },
    }),
  );
  const app = new Hono();
  app.get("/api/health", (c) => c.json({ ok: true }));
  app.get("/api/jobs/one", (c) => c.json({ name: NAME, asked: c.req.header("cookie") }));
  app.get("/api/jobs/large", (c) => c.json({ name: "x".repeat(200_000) }));
  app.all("/api/*", (c) => c.json({}, 404));
  serveInterface(app, folder, draw);
  return app;
}

const DRAWN = { html: "<p>Drawn</p>", settings: '{"units":"us"}', theme: "dark" };
const get = async (app: Hono, path: string, headers: Record<string, string> = {}) => {
  const answer = await app.request(path, { headers });
  return {
    status: answer.status,
    link: answer.headers.get("link") ?? "",
    html: await answer.text(),
  };
};

describe("a page", () => {
  it("is sent with its first view, by what this device prefers, and with what it begins with", async () => {
    const asked: PageAsked[] = [];
    const app = served(async (one) => {
      asked.push(one);
      return DRAWN;
    });
    const { html, link } = await get(app, "/jobs/one/line?view=sizes", {
      cookie: "settings=%7B%22units%22%3A%22us%22%7D; session=s",
      "accept-language": "en-GB,en",
    });
    expect(asked).toEqual([
      {
        address: "/jobs/one/line?view=sizes",
        settings: '{"units":"us"}',
        languages: "en-GB,en",
        answers: {
          "/api/health": '{"ok":true}',
          // Whoever asks for the page asks for what is in it.
          "/api/jobs/one": JSON.stringify({ name: NAME, asked: asked[0] && cookieOf(asked[0]) }),
        },
      },
    ]);
    expect(html).toContain('<html data-theme="dark" lang="en">');
    expect(html).toContain('<div id="root" data-drawn><p>Drawn</p></div>');
    const arrived = /id="arrived"[^>]*>(.*?)<\/script>/.exec(html)?.[1] ?? "";
    expect(arrived).not.toContain("<");
    expect(JSON.parse(arrived).settings).toBe('{"units":"us"}');
    expect(JSON.parse(arrived).answers["/api/jobs/one"].name).toBe(NAME);
    // Its scripts come after what is seen; faces before it.
    expect(html).toContain(
      'data-modules="a/react.js a/application.js a/job.js a/shared.js" data-later="a/measure.js a/shared.js"',
    );
    expect(link).toBe("</a/face.woff2>; rel=preload; as=font; crossorigin");
  });
  const cookieOf = ({ answers }: PageAsked) =>
    (JSON.parse(answers["/api/jobs/one"] ?? "{}") as { asked: string }).asked;

  it("that is not drawn in time is sent without, its scripts named before all else", async () => {
    const { html, link } = await get(
      served(async () => undefined),
      "/jobs/one",
    );
    expect(html).toContain('<div id="root"></div>');
    expect(html).toContain('"settings":"","answers":{"/api/health"');
    expect(html).toContain('data-modules=""');
    expect(link).toContain("</a/job.js>; rel=modulepreload, </a/shared.js>; rel=modulepreload");
  });

  it("holds no more than can be read at once: what is larger is asked for beside it", async () => {
    const { html, link } = await get(
      served(async () => DRAWN),
      "/jobs/large",
    );
    expect(html.length).toBeLessThan(2000);
    expect(link).toContain("</api/jobs/large>; rel=preload; as=fetch; crossorigin");
  });

  it("of what the server refuses, or of a device's own drafts, is not drawn", async () => {
    const draw = vi.fn<Draw>(async () => DRAWN);
    const app = served(draw);
    for (const path of ["/jobs/none", "/jobs/one/measure", "/jobs/one/sheet", "/hoses"]) {
      const { status, html } = await get(app, path);
      expect(status).toBe(200);
      expect(html).toContain('<div id="root"></div>');
    }
    expect(draw).not.toHaveBeenCalled();
    expect((await get(app, "/hoses")).link).not.toContain("woff>");
  });
});

describe("what draws pages", () => {
  const asked = (address: string): PageAsked => ({
    ...{ address, settings: "", languages: "", answers: {} },
  });
  /** A program that counts what it draws; it says `first`, and takes so long over a page called slow. */
  function program(file: string, first: string): URL {
    fs.writeFileSync(
      file,
      `import { parentPort } from "node:worker_threads";
      let drawn = 0;
      parentPort.on("message", ({ id, asked: { address } }) => {
        if (address === "/broken") return parentPort.postMessage({ id, failed: "It broke." });
        setTimeout(
          () => parentPort.postMessage({ id, answer: { html: "${first} " + ++drawn + address, settings: "", theme: "light" } }),
          address.startsWith("/slow") ? 300 : 0,
        );
      });`,
    );
    return pathToFileURL(file);
  }
  const quiet = () => undefined;
  /** As long as it takes. */
  const always = { patience: 60_000 };

  it("draws each once for the same, and again for anything else", async () => {
    const draw = drawing(program(join(emptyFolder(), "a.mjs"), "first"), quiet, always);
    const one = await draw(asked("/one"));
    expect(await draw(asked("/one"))).toEqual(one);
    expect((await draw({ ...asked("/one"), settings: "x" }))?.html).not.toBe(one?.html);
    expect((await draw({ ...asked("/one"), answers: { a: "1" } }))?.html).not.toBe(one?.html);
  });

  it("keeps nobody waiting: a page that takes long is there for the next who asks", async () => {
    const draw = drawing(program(join(emptyFolder(), "a.mjs"), "first"), quiet, { patience: 20 });
    expect(await draw(asked("/slow"))).toBeUndefined();
    await vi.waitFor(async () => expect((await draw(asked("/slow")))?.html).toMatch(/\/slow$/), {
      timeout: 60_000,
    });
    // Nor does one who comes when many wait.
    const many = Array.from({ length: 12 }, (_, n) => draw(asked(`/slow/${n}`)));
    expect(await Promise.all(many)).toEqual(many.map(() => undefined));
  });

  it("says what it could not draw, draws on, and goes by the program as it is built now", async () => {
    const file = join(emptyFolder(), "a.mjs");
    const complain = vi.fn();
    const draw = drawing(pathToFileURL(file), complain, always);
    expect(await draw(asked("/one"))).toBeUndefined();
    program(file, "first");
    expect(await draw(asked("/broken"))).toBeUndefined();
    expect(complain).toHaveBeenCalledTimes(1);
    expect((await draw(asked("/one")))?.html).toBe("first 1/one");
    program(file, "second");
    fs.utimesSync(file, new Date(), new Date(Date.now() + 5000));
    expect((await draw(asked("/one")))?.html).toBe("second 1/one");
  });
});
