import type { HttpBindings } from "@hono/node-server";
import { type Context, Hono, type MiddlewareHandler } from "hono";
import { bodyLimit } from "hono/body-limit";
import { deleteCookie, getCookie, setCookie } from "hono/cookie";
import { html } from "hono/html";
import type { ApiError, SignedIn } from "#contract/api/api.ts";
import { type Gate, tryLimiter } from "./passPhrase.ts";

type Env = { Bindings: Partial<HttpBindings>; Variables: { session: string } };

/** bytes: a pass phrase, and the path that was asked for */
const LARGEST_FORM = 4096;

export interface SignInOptions {
  gate: Gate;
  /** it is reached by HTTPS alone */
  secure: boolean;
  /** a proxy of the firm's own stands in front and says whom it asks for */
  behindProxy?: boolean;
  /** where who came in, and who did not, is written down */
  note: (what: string) => void;
}

/** Lets nobody further who has not given the pass phrase, and shows a page where it is given. */
export function signIn(options: SignInOptions): Hono<Env> {
  const { gate, secure, behindProxy = false, note } = options;
  const { sessions } = gate;
  const app = new Hono<Env>();
  const limiter = tryLimiter(sessions.knows);
  const cookie = cookieOf(secure);
  const from = (c: Context<Env>) => addressOf(c, behindProxy);

  app.get("/sign-in.css", (c) => c.body(STYLE, 200, { "content-type": "text/css" }));
  app.use("/sign-in", notKept);
  app.use("/sign-out", notKept);
  app.get("/sign-in", (c) => c.html(page(c.req.query("to") ?? "/", "")));
  app.post(
    "/sign-in",
    // Before a byte of it is read.
    async (c, next) => {
      const minutes = limiter.wait(from(c));
      if (minutes === 0) return next();
      const wait = minutes === 1 ? "a minute" : `${minutes} minutes`;
      note(`sign-in from ${from(c)}: has to wait`);
      return c.html(page("/", `Too many wrong tries. Wait ${wait}.`), 429);
    },
    bodyLimit({
      maxSize: LARGEST_FORM,
      onError: (c) => c.html(page("/", "That is longer than any pass phrase."), 413),
    }),
    async (c) => {
      const type = c.req.header("content-type") ?? "";
      if (!/^application\/x-www-form-urlencoded\b/i.test(type)) {
        return c.html(page("/", "Give the pass phrase in the form."), 415);
      }
      const form = new URLSearchParams(await c.req.text());
      const back = form.get("to") ?? "/";
      // Counted before it is looked at, so that many at once count too.
      limiter.missed(from(c));
      if (!(await gate.knows(form.get("phrase") ?? ""))) {
        note(`sign-in from ${from(c)}: wrong pass phrase`);
        return c.html(page(back, "That is not the pass phrase."), 401);
      }
      limiter.forget(from(c));
      note(`sign-in from ${from(c)}: came in`);
      const device = { agent: c.req.header("user-agent") ?? "", address: from(c) };
      setCookie(c, cookie, sessions.begin(device), {
        ...{ httpOnly: true, secure, sameSite: "Strict", path: "/", maxAge: sessions.lasts },
      });
      return c.redirect(isPath(back) ? back : "/", 303);
    },
  );
  app.use(onlySignedIn(gate, cookie));
  app.post("/sign-out", (c) => {
    sessions.end(c.get("session"));
    note(`${from(c)}: signed out`);
    deleteCookie(c, cookie, { path: "/", secure });
    return c.redirect("/sign-in", 303);
  });
  app.get("/api/devices", (c) => {
    const own = c.get("session");
    return c.json<SignedIn[]>(
      sessions
        .devices()
        .map(({ id, ...device }) => ({ id, ...device, ...(id === own && { own: true as const }) })),
    );
  });
  app.delete("/api/devices/:id", (c) => {
    const id = c.req.param("id");
    if (sessions.end(id)) {
      note(`${from(c)}: ended the session of a device`);
      return c.body(null, 204);
    }
    const message = "That device is not signed in.";
    return c.json<ApiError>({ error: "not-found", message }, 404);
  });
  return app;
}

/** Under a name that no other host and no plain connection can set, where it is reached by HTTPS. */
const cookieOf = (secure: boolean) =>
  secure ? "__Host-upright-gusher-session" : "upright-gusher-session";

const notKept: MiddlewareHandler = async (c, next) => {
  await next();
  c.header("cache-control", "no-store");
};

/** Whom a request is of: what the connection says, or the last whom a proxy of the firm's own says it asks for. */
function addressOf(c: Context<Env>, behindProxy: boolean): string {
  const said = behindProxy ? c.req.header("x-forwarded-for")?.split(",").at(-1)?.trim() : undefined;
  return said || (c.env?.incoming?.socket.remoteAddress ?? "");
}

function onlySignedIn({ sessions }: Gate, cookie: string): MiddlewareHandler<Env> {
  return async (c, next) => {
    const session = sessions.of(getCookie(c, cookie) ?? "");
    if (session !== undefined) {
      c.set("session", session);
      return next();
    }
    c.header("cache-control", "no-store");
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

/** A path of this server, in characters that may stand in a header, and nothing that leads elsewhere. */
const isPath = (to: string) => /^\/(?![/\\])[\x21-\x5b\x5d-\x7e]*$/.test(to);

const STYLE = `
body { margin: 0; background: #f1ebdd; color: #1e1b15; font: 17px/1.4 system-ui, sans-serif; }
form { max-width: 24rem; margin: 12vh auto 0; padding: 0 1rem; }
h1 { font-size: 1.6rem; margin: 0 0 1rem; }
label { display: block; }
input, button { font: inherit; min-height: 44px; box-sizing: border-box; width: 100%; margin-top: 0.5rem; border-radius: 4px; }
input { border: 2px solid #1e1b15; background: #faf6ec; padding: 0 0.6rem; }
button { border: 0; background: #1e1b15; color: #f1ebdd; font-weight: 600; }
[role="alert"] { color: #a9340d; font-weight: 600; margin: 0.75rem 0 0; min-height: 1.4em; }
:focus-visible { outline: 3px solid #0f5a7d; outline-offset: 2px; }
`;

/** No script: it works before anything else does. */
const page = (to: string, complaint: string) => html`<!doctype html>
<html lang="en">
  <head>
    <meta charset="utf-8" />
    <meta name="viewport" content="width=device-width, initial-scale=1" />
    <title>Upright Gusher: pass phrase</title>
    <link rel="icon" href="/icon.svg" />
    <link rel="stylesheet" href="/sign-in.css" />
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
