import { createHmac, randomBytes, scrypt, timingSafeEqual } from "node:crypto";
import fs from "node:fs";
import { join } from "node:path";
import { writeWhole } from "../database/syncing.ts";

/** Why a pass phrase is not taken, in a sentence. */
export class PhraseRefused extends Error {}

/** characters: four or five words */
const SHORTEST = 12;
/** ms a device stays signed in */
const SESSION = 30 * 24 * 3600 * 1000;
const FILE = "pass-phrase.json";
/** Cost of trying one phrase: about a tenth of a second and 32 MB (scrypt, RFC 7914). */
const COST = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };

interface Kept {
  salt: string;
  hash: string;
  /** what sessions are signed with; a new phrase ends all of them */
  key: string;
}

/** Who may come in: those who know the pass phrase, and for a while those who did. */
export interface Gate {
  knows(phrase: string): Promise<boolean>;
  newSession(): string;
  isSession(token: string): boolean;
  /** seconds a session lasts */
  lasts: number;
}

/**
 * The gate of a data folder; nothing where no pass phrase was ever set. A given phrase is kept from now on, as a
 * salted hash. Throws `PhraseRefused` for one that is too short.
 */
export async function gateOf(folder: string, given?: string): Promise<Gate | undefined> {
  const path = join(folder, FILE);
  if (given !== undefined) {
    if (given.length < SHORTEST) {
      throw new PhraseRefused(
        `A pass phrase has at least ${SHORTEST} characters: four or five words that do not belong together.`,
      );
    }
    const before = read(path);
    if (!before || !(await matches(given, before))) {
      const salt = randomBytes(16).toString("hex");
      const hash = (await hashed(given, salt)).toString("hex");
      const kept: Kept = { salt, hash, key: randomBytes(32).toString("hex") };
      writeWhole(path, JSON.stringify(kept), 0o600);
    }
  }
  const kept = read(path);
  return kept && gateFor(kept);
}

function read(path: string): Kept | undefined {
  return fs.existsSync(path) ? (JSON.parse(fs.readFileSync(path, "utf8")) as Kept) : undefined;
}

function gateFor(kept: Kept): Gate {
  const sign = (until: string) => createHmac("sha256", kept.key).update(until).digest("base64url");
  return {
    lasts: SESSION / 1000,
    knows: (phrase) => matches(phrase, kept),
    newSession: () => {
      const until = String(Date.now() + SESSION);
      return `${until}.${sign(until)}`;
    },
    isSession: (token) => {
      const [until = "", signature = ""] = token.split(".");
      return same(Buffer.from(signature), Buffer.from(sign(until))) && Number(until) > Date.now();
    },
  };
}

const matches = async (phrase: string, { salt, hash }: Kept) =>
  same(await hashed(phrase, salt), Buffer.from(hash, "hex"));

const same = (a: Buffer, b: Buffer) => a.length === b.length && timingSafeEqual(a, b);

function hashed(phrase: string, salt: string): Promise<Buffer> {
  return new Promise((resolve, reject) =>
    scrypt(phrase.normalize("NFC"), Buffer.from(salt, "hex"), 32, COST, (error, key) =>
      error ? reject(error) : resolve(key),
    ),
  );
}

/** Tries of one address, and of all of them together, before it has to wait. */
const TRIES = { one: 5, all: 50 };
const WINDOW = 15 * 60 * 1000;

/** Counts wrong pass phrases, so that nobody can go through many. */
export function tryLimiter(now: () => number = Date.now) {
  let wrong: { from: string; at: number }[] = [];
  return {
    /** minutes to wait; 0 where one may try */
    wait(from: string): number {
      wrong = wrong.filter(({ at }) => now() - at < WINDOW);
      const own = wrong.filter((each) => each.from === from);
      const held = own.length >= TRIES.one ? own : wrong.length >= TRIES.all ? wrong : [];
      const [oldest] = held;
      return oldest ? Math.max(1, Math.ceil((oldest.at + WINDOW - now()) / 60_000)) : 0;
    },
    missed(from: string): void {
      wrong.push({ from, at: now() });
    },
    /** whoever knew it starts from nothing again */
    forget(from: string): void {
      wrong = wrong.filter((each) => each.from !== from);
    },
  };
}
