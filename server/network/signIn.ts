import type { HttpBindings } from "@hono/node-server";
import { Hono, type MiddlewareHandler } from "hono";
import { getCookie, setCookie } from "hono/cookie";
import { html } from "hono/html";
import type { ApiError } from "#contract/api/api.ts";
import { type Gate, tryLimiter } from "./passPhrase.ts";

const COOKIE = "upright-gusher-session";
type Env = { Bindings: Partial<HttpBindings> };

/** Lets nobody further who has not given the pass phrase, and shows a page where it is given. */
export function signIn(gate: Gate, secure: boolean): Hono<Env> {
  const app = new Hono<Env>();
  const limiter = tryLimiter();

  app.get("/sign-in", (c) => c.html(page(c.req.query("to") ?? "/", "")));
  app.post("/sign-in", async (c) => {
    const { phrase, to } = await c.req.parseBody();
    const back = String(to ?? "/");
    const from = c.env.incoming?.socket.remoteAddress ?? "";
    const minutes = limiter.wait(from);
    if (minutes > 0) {
      const wait = minutes === 1 ? "a minute" : `${minutes} minutes`;
      return c.html(page(back, `Too many wrong tries. Wait ${wait}.`), 429);
    }
    // Counted before it is looked at, so that many at once count too.
    limiter.missed(from);
    if (!(await gate.knows(String(phrase ?? "")))) {
      return c.html(page(back, "That is not the pass phrase."), 401);
    }
    limiter.forget(from);
    setCookie(c, COOKIE, gate.newSession(), {
      ...{ httpOnly: true, secure, sameSite: "Strict", path: "/", maxAge: gate.lasts },
    });
    return c.redirect(isPath(back) ? back : "/", 303);
  });
  app.use(onlySignedIn(gate));
  return app;
}

function onlySignedIn(gate: Gate): MiddlewareHandler {
  return async (c, next) => {
    if (gate.isSession(getCookie(c, COOKIE) ?? "")) return next();
    const { path, url } = c.req;
    if (c.req.method === "GET" && c.req.header("sec-fetch-dest") === "document") {
      const to = encodeURIComponent(url.slice(new URL(url).origin.length));
      return c.redirect(`/sign-in?to=${to}`, 303);
    }
    if (path === "/icon.svg") return next();
    // A logger has no page to sign in on: the token of its stream is asked for where it sends.
    if (c.req.method === "POST" && /^\/api\/streams\/[a-z0-9-]+\/samples$/.test(path))
      return next();
    return c.json<ApiError>({ error: "sign-in", message: "Give the pass phrase first." }, 401);
  };
}

/** A path of this server, and nothing that leads elsewhere. */
const isPath = (to: string) => /^\/(?![/\\])/.test(to);

/** No script: it works before anything else does. */
const page = (to: string, complaint: string) => html`<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width, initial-scale=1" />
    <title>Upright Gusher: pass phrase</title>
    <link rel="icon" href="/icon.svg" />
    <style>
      body { margin: 0; background: #f1ebdd; color: #1e1b15; font: 17px/1.4 system-ui, sans-serif; }
      form { max-width: 24rem; margin: 12vh auto 0; padding: 0 1rem; }
      h1 { font-size: 1.6rem; margin: 0 0 1rem; }
      label { display: block; }
      input, button { font: inherit; min-height: 44px; box-sizing: border-box; width: 100%; margin-top: 0.5rem; border-radius: 4px; }
      input { border: 2px solid #1e1b15; background: #faf6ec; padding: 0 0.6rem; }
      button { border: 0; background: #1e1b15; color: #f1ebdd; font-weight: 600; }
      [role="alert"] { color: #a9340d; font-weight: 600; margin: 0.75rem 0 0; min-height: 1.4em; }
      :focus-visible { outline: 3px solid #0f5a7d; outline-offset: 2px; }
    </style>
  </head>
  <body>
    <main>
      <form method="post" action="/sign-in">
        <h1>Upright Gusher</h1>
        <label for="phrase">Pass phrase of this installation</label>
        <input id="phrase" name="phrase" type="password" autocomplete="current-password" required autofocus />
        <input type="hidden" name="to" value="${to}" />
        <button>Come in</button>
        <p role="alert">${complaint}</p>
      </form>
    </main>
  </body>
</html>`;
