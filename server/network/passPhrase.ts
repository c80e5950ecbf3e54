import { randomBytes, scrypt, timingSafeEqual } from "node:crypto";
import fs from "node:fs";
import { isIPv6 } from "node:net";
import { join } from "node:path";
import { writeWhole } from "../database/syncing.ts";
import { type Sessions, sessionsIn } from "./sessions.ts";

/** Why a pass phrase is not taken, in a sentence. */
export class PhraseRefused extends Error {}

/** characters: four or five words */
const SHORTEST = 12;
const FILE = "pass-phrase.json";
/** Cost of trying one phrase: about a tenth of a second and 32 MB (scrypt, RFC 7914). */
const COST = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 };

interface Kept {
  /** a new one with each phrase: the sessions of an earlier one are over */
  salt: string;
  hash: string;
}

/** Who may come in: those who know the pass phrase, and for a while the devices of those who did. */
export interface Gate {
  knows(phrase: string): Promise<boolean>;
  sessions: Sessions;
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
      const kept: Kept = { salt, hash };
      writeWhole(path, JSON.stringify(kept), 0o600);
    }
  }
  const kept = read(path);
  return (
    kept && {
      knows: oneByOne((phrase) => matches(phrase, kept)),
      sessions: sessionsIn(folder, kept.salt),
    }
  );
}

function read(path: string): Kept | undefined {
  return fs.existsSync(path) ? (JSON.parse(fs.readFileSync(path, "utf8")) as Kept) : undefined;
}

/** Each try costs its memory: many at once wait for one another. */
function oneByOne<A, B>(work: (of: A) => Promise<B>): (of: A) => Promise<B> {
  let last: Promise<unknown> = Promise.resolve();
  return (of) => {
    const mine = last.then(() => work(of));
    last = mine.catch(() => undefined);
    return mine;
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

/** Tries of one address, and of all strangers together, before one has to wait. */
const TRIES = { one: 5, all: 50 };
const WINDOW = 15 * 60 * 1000;

/**
 * Counts wrong pass phrases, so that nobody can go through many. Strangers share a count beside their own; an address
 * that a device signed in from (`known`) has its own alone, so that strangers cannot lock a shop out.
 */
export function tryLimiter(
  known: (address: string) => boolean = () => false,
  now: () => number = Date.now,
) {
  let wrong: { from: string; at: number }[] = [];
  return {
    /** minutes to wait; 0 where one may try */
    wait(address: string): number {
      const from = networkOf(address);
      wrong = wrong.filter(({ at }) => now() - at < WINDOW);
      const own = wrong.filter((each) => each.from === from);
      const all = known(address) ? [] : wrong;
      const held = own.length >= TRIES.one ? own : all.length >= TRIES.all ? all : [];
      const [oldest] = held;
      return oldest ? Math.max(1, Math.ceil((oldest.at + WINDOW - now()) / 60_000)) : 0;
    },
    missed(address: string): void {
      wrong.push({ from: networkOf(address), at: now() });
    },
    /** whoever knew it starts from nothing again */
    forget(address: string): void {
      wrong = wrong.filter((each) => each.from !== networkOf(address));
    },
  };
}

/** What one device can change its address within: of IPv6 the first half (RFC 4291). */
function networkOf(address: string): string {
  if (!isIPv6(address) || address.startsWith("::ffff:")) return address;
  const [head = "", tail] = address.split("::");
  const before = head === "" ? [] : head.split(":");
  const after = tail === undefined || tail === "" ? [] : tail.split(":");
  const zeros = new Array<string>(Math.max(8 - before.length - after.length, 0)).fill("0");
  return `${[...before, ...zeros, ...after].slice(0, 4).join(":")}::/64`;
}
