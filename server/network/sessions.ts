import { createHash, randomBytes, timingSafeEqual } from "node:crypto";
import fs from "node:fs";
import { join } from "node:path";
import type { SignedIn } from "#contract/api/api.ts";
import { writeWhole } from "../database/syncing.ts";

/** ms a device stays signed in */
const SESSION = 30 * 24 * 3600 * 1000;
/** ms after which it is written down again that a device was seen */
const SEEN_AFTER = 3600 * 1000;
/** Devices signed in at once; the one seen longest ago makes room. */
const MOST = 200;
const FILE = "devices.json";

/** A device that is signed in, whoever asks. */
export type Device = Omit<SignedIn, "own">;

interface Kept extends Device {
  /** SHA-256 of its secret, which only the device has */
  hash: string;
}

/** The devices that are signed in, kept in the data folder so that each can be ended by itself. */
export interface Sessions {
  /** seconds a session lasts */
  lasts: number;
  /** a new session's token */
  begin(device: Pick<Device, "agent" | "address">): string;
  /** the id of the session a token is of, while it lasts */
  of(token: string): string | undefined;
  /** those that last, the one seen last first */
  devices(): Device[];
  /** whether there was such a session */
  end(id: string): boolean;
  /** whether somebody who is signed in came from an address */
  knows(address: string): boolean;
}

/** The sessions of a data folder under one pass phrase, named by `phrase`: those of an earlier one are over. */
export function sessionsIn(folder: string, phrase: string, now: () => number = Date.now): Sessions {
  const path = join(folder, FILE);
  let kept = read(path, phrase);
  const keep = () => writeWhole(path, JSON.stringify({ phrase, devices: kept }), 0o600);
  const lasting = () => kept.filter(({ until }) => until > now());
  return {
    lasts: SESSION / 1000,
    begin({ agent, address }) {
      const id = randomBytes(9).toString("base64url");
      const secret = randomBytes(32).toString("base64url");
      const at = now();
      const device: Kept = {
        ...{ id, agent: agent.slice(0, 300), address, since: at, seen: at },
        ...{ until: at + SESSION, hash: hashOf(secret) },
      };
      kept = [device, ...lasting().toSorted((a, b) => b.seen - a.seen)].slice(0, MOST);
      keep();
      return `${id}.${secret}`;
    },
    of(token) {
      const [id = "", secret = ""] = token.split(".");
      const found = kept.find((own) => own.id === id);
      const at = now();
      if (!found || found.until <= at || !same(found.hash, hashOf(secret))) return undefined;
      if (at - found.seen > SEEN_AFTER) {
        found.seen = at;
        keep();
      }
      return id;
    },
    devices: () =>
      lasting()
        .toSorted((a, b) => b.seen - a.seen)
        .map(({ hash: _, ...device }) => device),
    end(id) {
      const there = lasting().some((own) => own.id === id);
      kept = lasting().filter((own) => own.id !== id);
      if (there) keep();
      return there;
    },
    knows: (address) => lasting().some((own) => own.address === address),
  };
}

function read(path: string, phrase: string): Kept[] {
  if (!fs.existsSync(path)) return [];
  try {
    const found = JSON.parse(fs.readFileSync(path, "utf8")) as { phrase: string; devices: Kept[] };
    return found.phrase === phrase ? found.devices : [];
  } catch {
    // A file that cannot be read lets nobody in: everyone signs in once more.
    return [];
  }
}

const hashOf = (secret: string) => createHash("sha256").update(secret).digest("hex");

const same = (a: string, b: string) =>
  a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));
