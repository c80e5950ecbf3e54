import fs from "node:fs";
import http from "node:http";
import { join } from "node:path";
import fc from "fast-check";
import { afterAll, beforeAll, expect, it } from "vitest";
// @ts-expect-error: plain JavaScript without types
import { buildServer } from "../scripts/tasks/prepare.mjs";
import { dropFolder, freshFolder } from "./test/freshFolder.ts";
import { ended, type Launched, launch } from "./test/launch.ts";

/** Requests that no page of ours makes: each is refused in words, and nothing goes wrong on the server. */

let folder: string;
let server: Launched;
beforeAll(async () => {
  await buildServer();
  folder = await freshFolder();
  // As an earlier version left it, and whoever copied it.
  fs.mkdirSync(join(folder, "attachments"), { mode: 0o777 });
  fs.chmodSync(join(folder, "attachments"), 0o777);
  fs.writeFileSync(join(folder, "attachments", "old"), "x", { mode: 0o666 });
  fs.chmodSync(join(folder, "attachments", "old"), 0o666);
  server = await launch(folder, ["--demo"]);
});
afterAll(async () => {
  server.child.kill("SIGTERM");
  await ended(server.child);
  await dropFolder(folder);
});

/** As it stands on the wire: nothing tidies the address or the headers. */
function ask(
  method: string,
  path: string,
  headers: http.OutgoingHttpHeaders,
  body?: string,
  { address } = server,
) {
  const { hostname, port } = new URL(address);
  return new Promise<{ status: number; text: string; cookie: string | undefined }>(
    (resolve, reject) => {
      const request = http.request(
        { hostname, port, method, path, headers, agent: false },
        (response) => {
          let text = "";
          response.on("data", (chunk) => {
            text += chunk;
          });
          const [cookie] = response.headers["set-cookie"] ?? [];
          response.on("end", () =>
            resolve({ status: response.statusCode ?? 0, text, cookie: cookie?.split(";")[0] }),
          );
        },
      );
      request.on("error", (error) =>
        reject(
          new Error(
            `${method} ${path} ${headers["content-type"]} ${body?.slice(0, 40)}: ${error.message}`,
          ),
        ),
      );
      request.end(body);
    },
  );
}

const PLACES = [
  ...["jobs", "pumps", "units", "tests", "readings", "attachments", "firms"].flatMap((name) => [
    `/api/${name}/ID`,
    `/api/${name}/ID/restore`,
    `/api/${name}/ID/revisions`,
    `/api/${name}/ID/revisions/1`,
  ]),
  ...["/api/jobs/ID/tests", "/api/jobs/ID/streams", "/api/units/ID/tests", "/api/bin"],
  ...["/api/streams/ID", "/api/streams/ID/samples", "/api/streams/ID/whole", "/api/boxes/ID"],
  ...[
    "/api/attachments/ID/content",
    "/api/contents/ID",
    "/api/backups/ID",
    "/api/imports/ID",
    "/api/imports/ID/finish",
  ],
  ...["/jobs/ID", "/assets/ID", "/ID", "/api/ID"],
];
const NAMES = [
  "%00",
  "a%00b",
  "%0a",
  "%ff",
  "%ed%a0%80",
  "..%2f..%2fetc",
  "%",
  "x".repeat(300),
  "a",
];
const deep = (n: number) => `${'{"a":'.repeat(n)}1${"}".repeat(n)}`;
const BODIES = [
  ...["", "{", "null", "[]", "1e999", '"\\u0000"', "{}", deep(60), deep(20_000)],
  ...['{"name":"a\\u0000b","channels":[],"jobId":"ennet-glasshouses-transfer"}'],
  ...['{"name":"\\ud800","jobId":"ennet-glasshouses-transfer","channels":[{"reads":"flow"}]}'],
  ...['{"pumps":[{"id":"a","maker":"\\u0000"}]}', '{"revision":-1,"document":{}}'],
  ...[
    '{"revision":0,"document":{"name":"\\udc00"}}',
    '{"samples":[{"n":1e30,"at":"x","values":[]}]}',
  ],
];
const TYPES = ["application/json", "multipart/form-data; boundary=", "text/plain", ""];

it("whatever is asked for, in whatever form, is refused in words", async () => {
  const wrong: string[] = [];
  let asked = 0;
  const told = async (method: string, path: string, type: string, body?: string) => {
    asked++;
    const headers = { ...(type && { "content-type": type }), authorization: "Bearer x" };
    const { status, text } = await ask(method, path, headers, body);
    if (status >= 500) wrong.push(`${method} ${path} ${type} ${body?.slice(0, 40)}: ${status}`);
    if (status >= 400 && path.startsWith("/api") && !text.includes('"message"')) {
      wrong.push(`${method} ${path}: ${status} without a word`);
    }
  };
  for (const place of PLACES) {
    for (const name of NAMES) {
      for (const method of ["GET", "POST", "DELETE", "PATCH"]) {
        await told(
          method,
          place.replace("ID", name),
          TYPES[0] as string,
          method === "GET" || method === "DELETE" ? undefined : "{}",
        );
      }
    }
    for (const body of BODIES) {
      for (const type of TYPES) await told("PUT", place.replace("ID", "fuzz"), type, body);
      await told("POST", place.replace("ID", "fuzz"), TYPES[0] as string, body);
    }
  }
  expect(wrong).toEqual([]);
  expect(asked).toBeGreaterThan(4000);
  expect(fs.existsSync(join(folder, "server.log"))).toBe(false);
});

/** Requests put together at random: some here, many where endurance is asked for. */
const MALFORMED = Number(process.env.MALFORMED ?? 200);
const PHRASE = "a phrase nobody guesses";

it(
  `an open server refuses ${MALFORMED} put together at random in words too, of whoever is signed in and whoever is not`,
  async () => {
    const own = await freshFolder();
    const open = await launch(own, ["--demo", "--host", "127.0.0.6", "--name", "gusher.test"], {
      env: { UPRIGHT_GUSHER_PASS_PHRASE: PHRASE },
    });
    try {
      const form = { "content-type": "application/x-www-form-urlencoded" };
      const phrase = new URLSearchParams({ phrase: PHRASE }).toString();
      const { cookie } = await ask("POST", "/sign-in", form, phrase, open);
      expect(cookie).toBeTruthy();
      const signedIn = await ask("GET", "/api/jobs", { cookie }, undefined, open);
      expect(signedIn.status).toBe(200);
      const methods = ["GET", "HEAD", "PUT", "POST", "PATCH", "DELETE", "OPTIONS"];
      const places = [...PLACES, "/api/jobs", "/api/room", "/api/devices", "/api/devices/ID", "/"];
      const request = fc.record({
        method: fc.constantFrom(...methods),
        path: fc
          .tuple(fc.constantFrom(...places), fc.constantFrom(...NAMES, "fuzz"))
          .map(([place, name]) => place.replace("ID", name)),
        type: fc.constantFrom(...TYPES),
        body: fc.oneof(fc.constantFrom(...BODIES), fc.json(), fc.string()),
        isIn: fc.boolean(),
      });
      await fc.assert(
        fc.asyncProperty(request, async ({ method, path, type, body, isIn }) => {
          const headers = {
            ...(type && { "content-type": type }),
            ...(isIn && cookie && { cookie }),
          };
          const sent = ["GET", "HEAD", "OPTIONS"].includes(method) ? undefined : body;
          const length = sent !== undefined && { "content-length": Buffer.byteLength(sent) };
          const { status, text } = await ask(method, path, { ...headers, ...length }, sent, open);
          expect(status).toBeLessThan(500);
          // Whoever is not signed in gets nothing but being told so, and to where one signs in.
          if (!isIn) expect([400, 401, 403, 302, 303]).toContain(status);
          if (status >= 400 && path.startsWith("/api") && method !== "HEAD") {
            expect(text).toContain('"message"');
          }
        }),
        { numRuns: MALFORMED },
      );
      const after = await ask("GET", "/api/jobs", { cookie }, undefined, open);
      expect(after.status).toBe(200);
    } finally {
      open.child.kill("SIGTERM");
      await ended(open.child);
      await dropFolder(own);
    }
  },
  120_000 + MALFORMED * 20,
);

it("what is kept is nobody else's, also what lay open before", () => {
  const open: string[] = [];
  const look = (place: string) => {
    for (const entry of fs.readdirSync(place, { withFileTypes: true })) {
      const path = join(place, entry.name);
      if (entry.isDirectory()) look(path);
      if (!entry.isSocket() && (fs.statSync(path).mode & 0o077) !== 0) open.push(path);
    }
  };
  look(folder);
  expect(open).toEqual([]);
  expect(fs.statSync(folder).mode & 0o777).toBe(0o700);
});
