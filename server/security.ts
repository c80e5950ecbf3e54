import type { HttpBindings } from "@hono/node-server";
import type { MiddlewareHandler } from "hono";
import { bodyLimit } from "hono/body-limit";
import { NONCE, secureHeaders } from "hono/secure-headers";
import type { ApiError } from "#contract/api/api.ts";

/** Largest body taken, in bytes. A job of 2000 parts is about a quarter of this. */
export const LARGEST_BODY = 1024 * 1024;

/** Whether a Host header is a name of this server, for a request that came in at an address. */
export type OwnName = (header: string, arrivedAt: string | undefined) => boolean;

/**
 * Answers only to the names this server goes by, and only to pages it served itself: a page of another
 * site that resolves its own name to this machine gets nothing.
 */
export function ownNamesOnly(isOwn: OwnName): MiddlewareHandler<{
  Bindings: Partial<HttpBindings>;
}> {
  return async (c, next) => {
    const refuse = (message: string) => c.json<ApiError>({ error: "forbidden", message }, 403);
    const host = (c.req.header("host") ?? "").toLowerCase();
    if (!isOwn(host, c.env?.incoming?.socket.localAddress)) {
      return refuse(
        "This server does not go by that name. Start it with --name NAME where it should.",
      );
    }
    const origin = c.req.header("origin");
    // A form of our own says “null”, since no page tells where it was; who sent it the browser says beside.
    const isOwnForm = origin === "null" && c.req.header("sec-fetch-site") === "same-origin";
    const isOwnPage = origin?.toLowerCase().replace(/^https?:\/\//, "") === host;
    if (origin !== undefined && !isOwnPage && !isOwnForm) {
      return refuse("Requests from other sites are refused.");
    }
    if (c.req.header("sec-fetch-site") === "cross-site" && c.req.method !== "GET") {
      return refuse("Requests from other sites are refused.");
    }
    return next();
  };
}

/**
 * Nothing is asked for by an address that is not text: half an escape, a NUL, a line break. In front of every route, so
 * that none has to look.
 */
export const plainAddress: MiddlewareHandler = async (c, next) => {
  const { pathname, search } = new URL(c.req.url);
  return isText(pathname) && isText(search.replaceAll("+", " "))
    ? next()
    : c.json<ApiError>({ error: "bad-request", message: "That address is not text." }, 400);
};

function isText(escaped: string): boolean {
  try {
    return !/\p{Cc}/u.test(decodeURIComponent(escaped));
  } catch {
    return false;
  }
}

export const limitBody = limitedTo(LARGEST_BODY, "The document is larger than 1 MB.");

/** Refuses, with a sentence, what is larger than so many bytes. */
export function limitedTo(maxSize: number, message: string): MiddlewareHandler {
  return bodyLimit({
    maxSize,
    onError: (c) => c.json<ApiError>({ error: "too-large", message }, 413),
  });
}

/** What is empty: the chart library makes its style elements so, and fills them rule by rule. */
const EMPTY = "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='";

/**
 * No inline script, nothing from any other host. A style element is the page's own, or it bears the number that this
 * answer alone was given; single properties may stand at elements, where drawings have them.
 */
export const headers = secureHeaders({
  contentSecurityPolicy: {
    defaultSrc: ["'none'"],
    scriptSrc: ["'self'"],
    styleSrc: ["'self'"],
    styleSrcElem: ["'self'", NONCE, EMPTY],
    styleSrcAttr: ["'unsafe-inline'"],
    imgSrc: ["'self'", "data:", "blob:"],
    fontSrc: ["'self'"],
    connectSrc: ["'self'"],
    workerSrc: ["'self'"],
    manifestSrc: ["'self'"],
    baseUri: ["'none'"],
    formAction: ["'self'"],
    frameAncestors: ["'none'"],
  },
  crossOriginEmbedderPolicy: false,
  strictTransportSecurity: false,
  xFrameOptions: "DENY",
  referrerPolicy: "no-referrer",
});

/** s: as long as a session lasts */
const BY_HTTPS_FOR = 30 * 24 * 3600;

/**
 * A device that came to a name by HTTPS once never comes there without it. Of “localhost” that is not said: it would bind
 * everything else that runs on this machine. (Browsers take no such word for an address.)
 */
export const byHttpsAlone: MiddlewareHandler = async (c, next) => {
  await next();
  const name = (c.req.header("host") ?? "").replace(/:\d+$/, "").toLowerCase();
  if (name !== "localhost") c.header("strict-transport-security", `max-age=${BY_HTTPS_FOR}`);
};
