import { X509Certificate } from "node:crypto";
import fs from "node:fs";
import type http from "node:http";
import https from "node:https";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
// @ts-expect-error: plain JavaScript without types
import { buildServer } from "../scripts/tasks/prepare.mjs";
import { ownIdentity } from "./network/certificate.ts";
import { addressesOf, isOwnName, ownNames } from "./network/ownNames.ts";
import { gateOf, tryLimiter } from "./network/passPhrase.ts";
import { dropFolder, freshFolder } from "./test/freshFolder.ts";
import { type Launched, launch } from "./test/launch.ts";

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
  const limiter = tryLimiter(() => time);
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
  const session = gate?.newSession() ?? "";
  expect((await gateOf(folder))?.isSession(session)).toBe(true);
  const [until = "", signature] = session.split(".");
  expect(gate?.isSession(`${Number(until) + 1}.${signature}`)).toBe(false);
  expect((await gateOf(folder, "another four words here"))?.isSession(session)).toBe(false);
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
    expect((await signIn(PHRASE, "//made-up.test")).headers.location).toBe("/");

    for (let i = 0; i < 5; i++) expect((await signIn(`guess number ${i}`)).status).toBe(401);
    const held = await signIn(PHRASE);
    expect(held.status).toBe(429);
    expect(held.text).toContain("Wait 15 minutes.");
    expect((await ask("/api/jobs", { headers })).status).toBe(200);
  });
});
