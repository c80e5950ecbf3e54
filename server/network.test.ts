import { X509Certificate } from "node:crypto";
import fs from "node:fs";
import type http from "node:http";
import https from "node:https";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { SignedIn } from "#contract/api/api.ts";
// @ts-expect-error: plain JavaScript without types
import { buildServer } from "../scripts/tasks/prepare.mjs";
import { ownIdentity } from "./network/certificate.ts";
import { addressesOf, isOwnName, ownNames } from "./network/ownNames.ts";
import { gateOf, tryLimiter } from "./network/passPhrase.ts";
import { sessionsIn } from "./network/sessions.ts";
import { dropFolder, freshFolder } from "./test/freshFolder.ts";
import { ended, type Launched, launch } from "./test/launch.ts";

const PHRASE = "gravel lantern otter ninety";

describe("the names a server has", () => {
  const interfaces = {
    lo: [{ address: "127.0.0.1" }],
    eth0: [{ address: "192.168.7.20" }, { address: "fe80::1%eth0" }],
  } as unknown as ReturnType<typeof import("node:os").networkInterfaces>;
  const asked = (host: string, header: string, arrivedAt: string, names: string[] = []) =>
    isOwnName(header, 8417, arrivedAt, { host, names }, () => interfaces);

  it.each<[string, string, string, boolean]>([
    ["127.0.0.1", "127.0.0.1:8417", "127.0.0.1", true],
    ["127.0.0.1", "localhost:8417", "127.0.0.1", true],
    ["127.0.0.1", "localhost", "127.0.0.1", true],
    ["127.0.0.1", "localhost:80", "127.0.0.1", false],
    ["127.0.0.1", "127.0.0.2:8417", "127.0.0.1", false],
    ["127.0.0.1", "made-up.test:8417", "127.0.0.1", false],
    ["127.0.0.5", "127.0.0.5:8417", "127.0.0.5", true],
    ["127.0.0.5", "localhost:8417", "127.0.0.5", false],
    ["::1", "[::1]:8417", "::1", true],
    ["0.0.0.0", "192.168.7.20:8417", "192.168.7.20", true],
    ["0.0.0.0", "192.168.7.21:8417", "192.168.7.20", false],
    ["0.0.0.0", "localhost:8417", "127.0.0.1", true],
    ["0.0.0.0", "localhost:8417", "192.168.7.20", false],
    ["::", "localhost:8417", "::ffff:192.168.7.20", false],
    ["0.0.0.0", "127.0.0.1:8417", "192.168.7.20", false],
    ["0.0.0.0", "", "192.168.7.20", false],
    ["0.0.0.0", "192.168.7.20:8417:1", "192.168.7.20", false],
  ])("bound to %s, asked for as “%s” at %s: %s", (host, header, at, own) => {
    expect(asked(host, header, at)).toBe(own);
    expect(asked(host, header.toUpperCase(), at)).toBe(own);
  });

  it("are those it was given too, and what a person is told are none of the loopback's", () => {
    expect(asked("127.0.0.1", "pumps.test", "127.0.0.1", ["pumps.test"])).toBe(true);
    const open = { host: "0.0.0.0", names: ["pumps.test"] };
    expect(ownNames(open, () => interfaces)).toContain("192.168.7.20");
    for (const address of addressesOf(open)) expect(address).not.toMatch(/^127\.|localhost/);
  });
});

it("tries of a pass phrase run out, each address's own and all together, and come back", () => {
  let time = 0;
  const limiter = tryLimiter(
    (address) => address === "the shop",
    () => time,
  );
  for (let i = 0; i < 5; i++) {
    expect(limiter.wait("a")).toBe(0);
    limiter.missed("a");
  }
  expect(limiter.wait("a")).toBe(15);
  expect(limiter.wait("b")).toBe(0);
  time += 14.5 * 60_000;
  expect(limiter.wait("a")).toBe(1);
  time += 60_000;
  expect(limiter.wait("a")).toBe(0);
  for (let i = 0; i < 50; i++) limiter.missed(`one of many ${i}`);
  expect(limiter.wait("another")).toBe(15);
  // Where somebody is signed in strangers lock nobody out; there too one's own tries run out.
  expect(limiter.wait("the shop")).toBe(0);
  for (let i = 0; i < 5; i++) limiter.missed("the shop");
  expect(limiter.wait("the shop")).toBe(15);
});

it("of IPv6 a whole network counts as one, however its addresses are written", () => {
  const limiter = tryLimiter();
  for (const last of ["1", "2:3", "a:b:c:d", "ffff", "0:0:0:9"]) {
    expect(limiter.wait("2001:db8:7:8::1")).toBe(0);
    limiter.missed(`2001:db8:7:8:${last.includes("a") || last.startsWith("0:") ? "" : ":"}${last}`);
  }
  expect(limiter.wait("2001:db8:7:8::77")).toBeGreaterThan(0);
  expect(limiter.wait("2001:db8:7:9::77")).toBe(0);
});

it("a pass phrase is kept as a hash, and a new one ends the sessions of the old", async () => {
  const folder = fs.mkdtempSync(join(tmpdir(), "gusher-gate-"));
  expect(await gateOf(folder)).toBeUndefined();
  await expect(gateOf(folder, "short")).rejects.toThrow(/at least 12 characters/);
  const gate = await gateOf(folder, PHRASE);
  const kept = fs.readFileSync(join(folder, "pass-phrase.json"), "utf8");
  expect(kept).not.toContain("gravel");
  expect(fs.statSync(join(folder, "pass-phrase.json")).mode & 0o077).toBe(0);
  expect(await gate?.knows(PHRASE)).toBe(true);
  expect(await gate?.knows(`${PHRASE}.`)).toBe(false);
  const session = gate?.sessions.begin({ agent: "A browser", address: "192.168.7.20" }) ?? "";
  const [id = "", secret] = session.split(".");
  expect((await gateOf(folder))?.sessions.of(session)).toBe(id);
  expect(gate?.sessions.of(`${id}.${secret}x`)).toBeUndefined();
  expect(gate?.sessions.of(`${id}x.${secret}`)).toBeUndefined();
  expect(fs.readFileSync(join(folder, "devices.json"), "utf8")).not.toContain(secret);
  expect((await gateOf(folder, "another four words here"))?.sessions.of(session)).toBeUndefined();
  await dropFolder(folder);
});

it("each device's session ends by itself: after thirty days, or when somebody ends it", async () => {
  const folder = fs.mkdtempSync(join(tmpdir(), "gusher-devices-"));
  let time = Date.parse("2026-03-01T08:00:00Z");
  const open = () => sessionsIn(folder, "salt", () => time);
  const sessions = open();
  const van = sessions.begin({ agent: "The van’s phone", address: "10.0.0.7" });
  time += 3_600_001;
  const desk = sessions.begin({ agent: "The desk", address: "10.0.0.8" });
  expect(sessions.devices().map(({ agent }) => agent)).toEqual(["The desk", "The van’s phone"]);
  expect(sessions.knows("10.0.0.7")).toBe(true);
  // Seen again after an hour it is written down, and stands first.
  time += 1;
  expect(sessions.of(van)).toBeDefined();
  expect(open().devices()[0]).toMatchObject({ agent: "The van’s phone", seen: time });
  expect(sessions.end(sessions.devices()[1]?.id ?? "")).toBe(true);
  expect([sessions.of(desk), open().of(desk)]).toEqual([undefined, undefined]);
  expect(sessions.end("nobody")).toBe(false);
  time += 30 * 24 * 3_600_000 - 3_600_003;
  expect(sessions.of(van)).toBeDefined();
  time += 2;
  expect(sessions.of(van)).toBeUndefined();
  expect(sessions.devices()).toEqual([]);
  expect(sessions.knows("10.0.0.7")).toBe(false);
  await dropFolder(folder);
});

it("an authority vouches for local names and those it was made for, and for no others", async () => {
  const folder = fs.mkdtempSync(join(tmpdir(), "gusher-authority-"));
  const first = await ownIdentity(folder, ["pumps.test", "192.168.7.20"]);
  expect(first.renewed).toBe(true);
  const certificate = new X509Certificate(first.cert);
  expect(certificate.verify(new X509Certificate(first.authority).publicKey)).toBe(true);
  expect(certificate.checkHost("pumps.test")).toBe("pumps.test");
  expect(certificate.checkIP("192.168.7.20")).toBe("192.168.7.20");
  // The same names: the same certificate. Another address: a new one of the same authority. A new name: a new authority.
  expect((await ownIdentity(folder, ["pumps.test", "192.168.7.20"])).cert).toBe(first.cert);
  const moved = await ownIdentity(folder, ["pumps.test", "192.168.7.30"]);
  expect(moved.authority).toBe(first.authority);
  expect(moved.cert).not.toBe(first.cert);
  expect((await ownIdentity(folder, ["shop.test"])).authority).not.toBe(first.authority);
  await dropFolder(folder);
});

describe("a server under a name of its own, on HTTPS", () => {
  let folder: string;
  let server: Launched;
  let port: number;
  let authority: string;
  beforeAll(async () => {
    await buildServer();
    folder = await freshFolder();
    const flags = ["--host", "127.0.0.5", "--name", "gusher.test", "--https"];
    await expect(launch(folder, flags)).rejects.toThrow(/no pass phrase yet.*in a terminal/s);
    server = await launch(folder, flags, { env: { UPRIGHT_GUSHER_PASS_PHRASE: PHRASE } });
    port = Number(new URL(server.address).port);
    authority = fs.readFileSync(join(folder, "authority/authority.crt"), "utf8");
  });
  afterAll(async () => {
    server.child.kill("SIGKILL");
    await dropFolder(folder);
  });

  interface Asked {
    headers?: http.OutgoingHttpHeaders;
    body?: string;
    method?: string;
    ca?: string;
  }
  /** A request as a device on the network makes it: by the name, its certificate looked at. */
  function ask(path: string, { headers = {}, body, method = "GET", ca = authority }: Asked = {}) {
    return new Promise<{ status: number; headers: http.IncomingHttpHeaders; text: string }>(
      (resolve, reject) => {
        const request = https.request(
          {
            ...{ host: "127.0.0.5", port, path, method, ca, servername: "gusher.test" },
            headers: { host: `gusher.test:${port}`, ...headers },
          },
          (response) => {
            let text = "";
            response.on("data", (chunk) => {
              text += chunk;
            });
            response.on("end", () =>
              resolve({ status: response.statusCode ?? 0, headers: response.headers, text }),
            );
          },
        );
        request.on("error", reject);
        request.end(body);
      },
    );
  }
  const signIn = (phrase: string, to = "/") =>
    ask("/sign-in", {
      method: "POST",
      headers: { "content-type": "application/x-www-form-urlencoded" },
      body: new URLSearchParams({ phrase, to }).toString(),
    });

  it("is trusted by whoever trusts its authority, and by nobody else", async () => {
    expect((await ask("/authority.crt")).text).toBe(authority);
    const stranger = fs.mkdtempSync(join(tmpdir(), "gusher-stranger-"));
    const { authority: other } = await ownIdentity(stranger, ["gusher.test"]);
    await expect(ask("/sign-in", { ca: other })).rejects.toThrow(/certificate|signature/);
    await dropFolder(stranger);
  });

  it.each([
    ["localhost", 403],
    ["127.0.0.1", 403],
    ["127.0.0.6", 403],
    ["made-up.test", 403],
    ["gusher.test", 401],
    ["127.0.0.5", 401],
  ])("asked for as %s answers %i to who has no session", async (name, status) => {
    for (const host of [`${name}:${port}`, name]) {
      expect((await ask("/api/jobs", { headers: { host } })).status).toBe(status);
      const put = { method: "PUT", headers: { host }, body: "{}" };
      expect((await ask("/api/jobs/x", put)).status).toBe(status);
    }
  });

  it("lets in who gives the pass phrase, for a while, and keeps out who guesses", async () => {
    const page = await ask("/jobs/one?part=pump", { headers: { "sec-fetch-dest": "document" } });
    expect(page.status).toBe(303);
    expect(page.headers.location).toBe("/sign-in?to=%2Fjobs%2Fone%3Fpart%3Dpump");
    const right = await signIn(PHRASE, "/jobs/one?part=pump");
    expect(right.headers.location).toBe("/jobs/one?part=pump");
    const [cookie = ""] = right.headers["set-cookie"] ?? [];
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/Secure/);
    expect(cookie).toMatch(/SameSite=Strict/);
    const headers = { cookie: cookie.split(";")[0] };
    expect((await ask("/api/jobs", { headers })).status).toBe(200);
    const foreign = { ...headers, origin: "https://made-up.test" };
    expect((await ask("/api/jobs", { headers: foreign })).status).toBe(403);
    for (const to of [
      "//made-up.test",
      "/\\made-up.test",
      "/\n//made-up.test",
      "/ü",
      "made-up.test",
    ]) {
      expect((await signIn(PHRASE, to)).headers.location, to).toBe("/");
    }
    expect(right.headers["cache-control"]).toBe("no-store");
    expect(right.headers["strict-transport-security"]).toMatch(/^max-age=\d{6,}/);
    // Of this machine's own name that would bind everything else that runs here.
    const here = await ask("/sign-in", { headers: { host: `localhost:${port}` } });
    expect(here.headers["strict-transport-security"]).toBeUndefined();
    expect(cookie).toMatch(/^__Host-/);
    expect((await ask("/api/jobs")).headers["cache-control"]).toBe("no-store");

    for (let i = 0; i < 5; i++) expect((await signIn(`guess number ${i}`)).status).toBe(401);
    const held = await signIn(PHRASE);
    expect(held.status).toBe(429);
    expect(held.text).toContain("Wait 15 minutes.");
    // Nothing of what it sends is read any more, however long it is.
    expect((await signIn("x".repeat(100_000))).status).toBe(429);
    const log = fs.readFileSync(join(folder, "server.log"), "utf8");
    expect(log).toMatch(/sign-in from \S+: came in/);
    expect(log).toMatch(/sign-in from \S+: wrong pass phrase/);
    expect(log).not.toContain("guess number");
    expect((await ask("/api/jobs", { headers })).status).toBe(200);
  });

  it("shows the devices that are signed in, ends one, and signs out", async () => {
    // From an address of its own: the one above has to wait.
    const gate = await gateOf(folder);
    expect(gate?.sessions.devices().length).toBeGreaterThan(0);
    server.child.kill("SIGTERM");
    await ended(server.child);
    server = await launch(folder, ["--host", "127.0.0.5", "--name", "gusher.test", "--https"]);
    port = Number(new URL(server.address).port);
    const come = async (agent: string) => {
      const answer = await ask("/sign-in", {
        method: "POST",
        headers: { "content-type": "application/x-www-form-urlencoded", "user-agent": agent },
        body: new URLSearchParams({ phrase: PHRASE, to: "/" }).toString(),
      });
      return { cookie: (answer.headers["set-cookie"]?.[0] ?? "").split(";")[0] };
    };
    const [van, desk] = [await come("The van"), await come("The desk")];
    const devices = async () =>
      JSON.parse((await ask("/api/devices", { headers: desk })).text) as SignedIn[];
    const own = (await devices()).filter(({ own: mine }) => mine);
    expect(own.map(({ agent }) => agent)).toEqual(["The desk"]);
    const other = (await devices()).find(({ agent }) => agent === "The van")?.id;
    const end = { method: "DELETE", headers: desk };
    expect((await ask(`/api/devices/${other}`, end)).status).toBe(204);
    expect((await ask(`/api/devices/${other}`, end)).status).toBe(404);
    expect((await ask("/api/jobs", { headers: van })).status).toBe(401);
    const out = await ask("/sign-out", { method: "POST", headers: desk });
    expect(out.headers.location).toBe("/sign-in");
    expect((await ask("/api/jobs", { headers: desk })).status).toBe(401);
  });

  it("refuses forms that are none in words, before any pass phrase", async () => {
    const post = (type: string, body: string) =>
      ask("/sign-in", { method: "POST", headers: { "content-type": type }, body });
    expect((await post("multipart/form-data; boundary=", "--\r\n\r\n")).status).toBe(415);
    expect((await post("multipart/form-data", "x")).status).toBe(415);
    expect((await post("application/x-www-form-urlencoded", "x".repeat(5000))).status).toBe(413);
    expect((await ask("/sign-in?to=/%0Ax")).status).toBe(400);
    expect((await ask("/sign-in?to=/%ff")).status).toBe(400);
  });
});
