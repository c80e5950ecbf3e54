import { parentPort, workerData } from "node:worker_threads";
import { openEngine } from "./engine.ts";
import type { Answer, Question } from "./threadedEngine.ts";

/** The engine in a thread of its own: it may block or break without the server stopping to answer. */
const port = parentPort;
if (!port) throw new Error("This runs as a worker thread.");
const say = (answer: Answer) => port.postMessage(answer);

try {
  const engine = await openEngine(workerData as string, (why) => say({ kind: "broke", why }));
  port.on("message", ({ id, ask, sql, parameters }: Question) => {
    const work = async () => {
      if (ask === "query") return engine.query(sql, parameters);
      if (ask === "execute") await engine.execute(sql);
      else await engine.close();
      return [];
    };
    work().then(
      (rows) => say({ kind: "rows", id, rows }),
      (error: Error & { code?: string }) =>
        say({ kind: "error", id, message: error.message, code: error.code }),
    );
  });
  say({ kind: "ready" });
} catch (error) {
  say({ kind: "unopened", why: (error as Error).message });
}
