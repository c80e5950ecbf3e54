import { parentPort } from "node:worker_threads";
import type { JobLine } from "#contract/api/api.ts";
import { readStored } from "#contract/collections.ts";
import { summariseJob } from "#model/results/summaries.ts";
import type { Answered, Asked } from "../thread.ts";

/** Works out what lists show of a job, away from the thread that answers. */
const port = parentPort;
if (!port) throw new Error("This runs as a worker thread.");
const say = (answer: Answered<JobLine>) => port.postMessage(answer);

port.on("message", ({ id, asked }: Asked<unknown>) => {
  try {
    say({ id, answer: summariseJob(readStored("jobs", asked)) });
  } catch (error) {
    say({ id, failed: String((error as Error).stack ?? error) });
  }
});
