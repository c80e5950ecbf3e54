import { Worker } from "node:worker_threads";
import { type Engine, EngineLost, type Row } from "./database.ts";

/** What the thread is asked. */
export interface Question {
  id: number;
  ask: "query" | "execute" | "close";
  sql: string;
  parameters: unknown[];
}

/** What it answers. */
export type Answer =
  | { kind: "ready" }
  | { kind: "unopened"; why: string }
  | { kind: "broke"; why: string }
  | { kind: "rows"; id: number; rows: Row[] }
  | { kind: "error"; id: number; message: string; code: string | undefined };

/**
 * ms after which an engine that has not answered is taken for hung, counted from when it began; what upkeep asks goes
 * through whole tables.
 */
export interface Patience {
  asked: number;
  upkeep: number;
}
const PATIENCE: Patience = { asked: 20_000, upkeep: 600_000 };
/** ms given to an engine that said it broke */
const LONGEST_BROKEN = 300;
/** ms an engine may take to open: the log of a long day has to be gone through after a crash */
const LONGEST_OPENING = 180_000;
/** ms more for an answer that may be there and was not read yet, because this thread was busy or asleep */
const UNREAD = 500;
/** ms it may take to close: what was acknowledged is on the disk already */
const LONGEST_CLOSING = 3000;

/**
 * Opens an engine in a thread of its own. Rejects with `EngineLost`, the engine's own words in it, where the data
 * cannot be opened. One that breaks or hangs is ended, and everything asked of it rejects with `EngineLost`.
 * @param program the built thread
 */
export async function openThreadedEngine(
  folder: string,
  program: URL,
  patience = PATIENCE,
): Promise<Engine> {
  const worker = new Worker(program, { workerData: folder });
  interface Asked {
    question: Question;
    longest: number;
    resolve: (rows: Row[]) => void;
    reject: (e: Error) => void;
  }
  /** what waits behind the one that is being answered: its time is not counted yet */
  const queue: Asked[] = [];
  let current: (Asked & { timer: NodeJS.Timeout }) | undefined;
  let count = 0;
  let lost: EngineLost | undefined;

  function lose(why: string): void {
    lost ??= new EngineLost(why);
    void worker.terminate();
    clearTimeout(current?.timer);
    for (const { reject } of [...(current ? [current] : []), ...queue.splice(0)]) reject(lost);
    current = undefined;
  }
  function next(): void {
    if (current || lost) return;
    const asked = queue.shift();
    if (!asked) return;
    const { question, longest } = asked;
    const late = () => {
      const own = current;
      setTimeout(() => {
        if (own && current === own) lose(`The database did not answer for ${longest / 1000} s.`);
      }, UNREAD).unref();
    };
    current = { ...asked, timer: setTimeout(late, longest) };
    worker.postMessage(question);
  }
  function ask<T extends Row>(question: Omit<Question, "id">, longest: number): Promise<T[]> {
    if (lost) return Promise.reject(lost);
    return new Promise((resolve, reject) => {
      queue.push({
        question: { ...question, id: ++count },
        ...{ longest, resolve: resolve as (rows: Row[]) => void, reject },
      });
      next();
    });
  }

  await new Promise<void>((resolve, reject) => {
    const slow = setTimeout(() => {
      reject(new EngineLost("The database did not open."));
      void worker.terminate();
    }, LONGEST_OPENING);
    worker.on("message", (answer: Answer) => {
      switch (answer.kind) {
        case "ready":
          clearTimeout(slow);
          resolve();
          break;
        case "unopened":
          clearTimeout(slow);
          reject(new EngineLost(answer.why));
          void worker.terminate();
          break;
        case "broke":
          // Often the statement under way still ends with the reason; after that nothing does.
          setTimeout(() => lose(answer.why), LONGEST_BROKEN);
          break;
        default: {
          const asked = current;
          if (asked?.question.id !== answer.id) break;
          current = undefined;
          clearTimeout(asked.timer);
          next();
          if (answer.kind === "rows") asked.resolve(answer.rows);
          else asked.reject(Object.assign(new Error(answer.message), { code: answer.code }));
        }
      }
    });
    const ended = (why: string) => {
      clearTimeout(slow);
      reject(new EngineLost(why));
      lose(why);
    };
    worker.on("error", (error) => ended(String(error)));
    worker.on("exit", () => ended("The database's thread ended."));
  });

  return {
    query: (sql, parameters = []) => ask({ ask: "query", sql, parameters }, patience.asked),
    execute: async (sql) => {
      await ask({ ask: "execute", sql, parameters: [] }, patience.asked);
    },
    upkeep: async (sql) => {
      await ask({ ask: "execute", sql, parameters: [] }, patience.upkeep);
    },
    close: async () => {
      await ask({ ask: "close", sql: "", parameters: [] }, LONGEST_CLOSING).catch(() => undefined);
      await worker.terminate();
    },
  };
}

/**
 * An engine that is opened again after it was lost: by the next who asks, but not twice within a second.
 * What was under way is not repeated.
 */
export async function reopening(open: () => Promise<Engine>): Promise<Engine> {
  let engine: Engine | undefined = await open();
  let opening: Promise<Engine> | undefined;
  let failed: { at: number; error: unknown } | undefined;
  let closed = false;

  async function opened(): Promise<Engine> {
    if (engine) return engine;
    if (closed) throw new EngineLost("The database is closed.");
    if (failed && Date.now() - failed.at < 1000) throw failed.error;
    opening ??= open();
    try {
      engine = await opening;
      return engine;
    } catch (error) {
      failed = { at: Date.now(), error };
      throw error;
    } finally {
      opening = undefined;
    }
  }
  async function on<T>(work: (engine: Engine) => Promise<T>): Promise<T> {
    const mine = await opened();
    try {
      return await work(mine);
    } catch (error) {
      if (error instanceof EngineLost && engine === mine) engine = undefined;
      throw error;
    }
  }
  return {
    query: (sql, parameters) => on((own) => own.query(sql, parameters)),
    execute: (sql) => on((own) => own.execute(sql)),
    upkeep: (sql) => on((own) => own.upkeep(sql)),
    close: async () => {
      closed = true;
      await engine?.close();
      engine = undefined;
    },
  };
}
