import { createHash } from "node:crypto";
import { existsSync, statSync } from "node:fs";
import type { PageAsked, PageDrawn } from "#contract/api/pages.ts";
import { inThread } from "../thread.ts";

/** A page as HTML, where that is there in time. */
export type Draw = (asked: PageAsked) => Promise<PageDrawn | undefined>;

/** What a page may take, and how long the thread that draws is kept. */
const LIMITS = { longest: 20_000, kept: 600_000, memory: 256 };
/** ms a page waits for its drawing: one that takes longer is sent without, and is there for the next who asks */
const PATIENCE = 600;
/** Drawings that may wait for one another; whoever comes later is sent his page without. */
const MOST_WAITING = 6;
/** Drawings kept, the longest unasked going first. */
const KEPT = 40;

/**
 * Draws pages in a thread of their own, each once for the same address, preferences and answers.
 * @param program the built thread; nothing is drawn while it is not there
 * @param complain told of what could not be drawn
 */
export function drawing(
  program: URL,
  complain: (error: unknown) => void,
  { patience = PATIENCE }: { patience?: number } = {},
): Draw {
  const kept = new Map<string, Promise<PageDrawn | undefined>>();
  let builtAt = 0;
  let waiting = 0;
  let ask: ReturnType<typeof inThread<PageAsked, PageDrawn>> | undefined;

  /** Of the program as it is built now. */
  function asking() {
    const { mtimeMs } = statSync(program);
    if (!ask || mtimeMs !== builtAt) {
      ask = inThread<PageAsked, PageDrawn>(program, LIMITS);
      builtAt = mtimeMs;
      kept.clear();
    }
    return ask;
  }
  function drawn(asked: PageAsked): Promise<PageDrawn | undefined> | undefined {
    const draw = asking();
    const key = createHash("sha256").update(JSON.stringify(asked)).digest("base64");
    const own = kept.get(key);
    if (own) {
      kept.delete(key);
      kept.set(key, own);
      return own;
    }
    if (waiting >= MOST_WAITING) return undefined;
    waiting++;
    const made = draw(asked)
      .catch((error: unknown) => {
        complain(error);
        return undefined;
      })
      .finally(() => {
        waiting--;
      });
    kept.set(key, made);
    for (const oldest of kept.keys()) {
      if (kept.size <= KEPT) break;
      kept.delete(oldest);
    }
    return made;
  }

  // It is there before somebody waits for it.
  if (existsSync(program))
    void drawn({ address: "/new", settings: "", languages: "", answers: {} });
  return async (asked) => {
    if (!existsSync(program)) return undefined;
    const made = drawn(asked);
    if (!made) return undefined;
    let timer: NodeJS.Timeout | undefined;
    const late = new Promise<undefined>((done) => {
      timer = setTimeout(() => done(undefined), patience);
    });
    return Promise.race([made, late]).finally(() => clearTimeout(timer));
  };
}
