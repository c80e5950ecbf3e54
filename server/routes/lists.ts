import { promisify } from "node:util";
import { gzip } from "node:zlib";
import type { Context } from "hono";
import type { Queryable } from "../database/database.ts";

interface Made {
  plain: string;
  packed: Uint8Array<ArrayBuffer>;
}
interface Kept {
  count: string;
  made: Promise<Made>;
  /** still being made: whoever asks for something newer waits for the one after it, all for the same */
  next?: Promise<Made>;
  done: boolean;
}

const pack = promisify(gzip);

/**
 * Answers with lists, each made and compressed once however many ask, and again after something in it changed.
 * The database counts the changes of each list's table.
 */
export function keptLists(db: Queryable) {
  const kept = new Map<string, Kept>();

  /** for all who ask in the same moment */
  const counting = new Map<string, Promise<string>>();
  async function count(table: string): Promise<string> {
    await new Promise(setImmediate);
    counting.delete(table);
    const [row] = await db.query<{ count: string }>(
      "SELECT count::text FROM changes WHERE list = $1",
      [table],
    );
    return row?.count ?? "";
  }
  function counted(table: string): Promise<string> {
    const own = counting.get(table) ?? count(table);
    counting.set(table, own);
    return own;
  }
  /** @param count read before: a change in between makes the list anew for the next who asks, never the other way */
  function makeAt(count: string, table: string, make: () => Promise<string>): Promise<Made> {
    const made = make().then(async (plain) => ({
      plain,
      packed: new Uint8Array(await pack(plain)),
    }));
    const own: Kept = { count, made, done: false };
    kept.set(table, own);
    made.then(
      () => {
        own.done = true;
      },
      () => {
        if (kept.get(table) === own) kept.delete(table);
      },
    );
    return made;
  }
  async function listed(table: string, make: () => Promise<string>): Promise<Made> {
    const count = await counted(table);
    const own = kept.get(table);
    if (own?.count === count) return own.made;
    if (!own || own.done) return makeAt(count, table, make);
    own.next ??= own.made
      .catch(() => undefined)
      .then(async () => makeAt(await counted(table), table, make));
    return own.next;
  }

  return async (c: Context, table: string, make: () => Promise<string>): Promise<Response> => {
    const { plain, packed } = await listed(table, make);
    c.header("content-type", "application/json");
    c.header("vary", "accept-encoding");
    if (!/\bgzip\b/.test(c.req.header("accept-encoding") ?? "")) return c.body(plain);
    c.header("content-encoding", "gzip");
    return c.body(packed);
  };
}
