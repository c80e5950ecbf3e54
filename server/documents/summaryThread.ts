import { parentPort } from "node:worker_threads";
import { readStored } from "#contract/collections.ts";
import { summariseJob } from "#model/summaries.ts";
import type { Answered, Asked } from "./summaries.ts";

/** Works out what lists show of a job, away from the thread that answers. */
const port = parentPort;
if (!port) throw new Error("This runs as a worker thread.");
const say = (answer: Answered) => port.postMessage(answer);

port.on("message", ({ id, document }: Asked) => {
  try {
    say({ id, summary: summariseJob(readStored("jobs", document)) });
  } catch (error) {
    say({ id, failed: String((error as Error).stack ?? error) });
  }
});
