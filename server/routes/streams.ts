import { type Context, Hono } from "hono";
import { streamSSE } from "hono/streaming";
import type { ApiError } from "#contract/api/api.ts";
import { isId } from "#contract/documents/fields.ts";
import {
  boxChangeSchema,
  boxSchema,
  type Sample,
  type StreamLine,
  samplesSchema,
  streamSchema,
} from "#contract/streams/stream.ts";
import type { Database } from "../database/database.ts";
import { getDocument } from "../documents/store.ts";
import { limitedTo } from "../security.ts";
import { boxes, boxOf, channelsOf } from "../streams/boxes.ts";
import { live } from "../streams/live.ts";
import {
  addSamples,
  createStream,
  getStream,
  type KeptSample,
  listStreams,
  mayStream,
  samplesAfter,
  setStreamDeleted,
  wholeStream,
} from "../streams/store.ts";
import { readBody } from "./body.ts";

/** Samples of the past a page gets when it begins to listen: what its needles and its steadiness rest on. */
const PAST = 120;
/** ms between signs of life on a quiet connection */
const ALIVE_EVERY = 15_000;

/** Instruments that stream: loggers by HTTP with a token, and the simulated box. See docs/instruments.md. */
export function streamRoutes(db: Database): Hono {
  const routes = new Hono();
  const listeners = live();
  const keep = async (id: string, samples: readonly Sample[]): Promise<KeptSample[]> => {
    const added = await addSamples(db, id, samples);
    listeners.publish(id, added);
    return added;
  };
  const running = boxes(
    async (id, samples) => {
      await keep(id, samples);
    },
    (id) => listeners.listeners(id),
  );
  const withBox = (stream: StreamLine): StreamLine => {
    const box = running.state(stream.id);
    return box ? { ...stream, box } : stream;
  };
  const notFound = (c: Context) =>
    c.json<ApiError>({ error: "not-found", message: "There is no such stream." }, 404);

  routes.get("/jobs/:id/streams", async (c) => {
    const id = c.req.param("id");
    return c.json(isId(id) ? (await listStreams(db, id)).map(withBox) : []);
  });

  routes.put("/streams/:id", async (c) => {
    const id = c.req.param("id");
    if (!isId(id)) return notFound(c);
    const asked = await readBody(c, streamSchema);
    if (!asked.ok) return asked.refusal;
    const made = await createStream(db, id, asked.value);
    return typeof made === "string" ? refused(c, made) : c.json({ id, ...made });
  });

  routes.get("/streams/:id", async (c) => {
    const found = isId(c.req.param("id")) && (await getStream(db, c.req.param("id")));
    return found ? c.json(withBox(found)) : notFound(c);
  });

  const marked = async (c: Context, deleted: boolean) => {
    const id = c.req.param("id") ?? "";
    if (!isId(id) || !(await setStreamDeleted(db, id, deleted))) return notFound(c);
    if (deleted) running.stop(id);
    return c.body(null, 204);
  };
  routes.delete("/streams/:id", (c) => marked(c, true));
  routes.post("/streams/:id/restore", (c) => marked(c, false));

  routes.post("/streams/:id/samples", limit, async (c) => {
    const id = c.req.param("id");
    const token = /^Bearer (\S+)$/.exec(c.req.header("authorization") ?? "")?.[1];
    const channels = token !== undefined && isId(id) ? await mayStream(db, id, token) : undefined;
    if (channels === undefined) {
      const message = "Send the token of this stream: Authorization: Bearer TOKEN.";
      return c.json<ApiError>({ error: "sign-in", message }, 401);
    }
    const asked = await readBody(c, samplesSchema);
    if (!asked.ok) return asked.refusal;
    const { samples } = asked.value;
    const wrong = samples.findIndex(({ values }) => values.length !== channels);
    if (wrong >= 0) {
      const message = `A sample of this stream has ${channels} values, one for each channel.`;
      const issues = [{ path: `samples.${wrong}.values`, message }];
      return c.json<ApiError>({ error: "invalid", message, issues }, 422);
    }
    const added = await keep(id, samples);
    return c.json({ added: added.length, known: samples.length - added.length });
  });

  routes.get("/streams/:id/whole", async (c) => {
    const found = isId(c.req.param("id")) && (await getStream(db, c.req.param("id")));
    if (!found) return notFound(c);
    const whole = await wholeStream(db, found.id, found.channels.length);
    return c.body(whole.buffer, 200, { "content-type": "application/octet-stream" });
  });

  routes.get("/streams/:id/live", async (c) => {
    const id = c.req.param("id");
    const found = isId(id) && (await getStream(db, id));
    if (!found) return notFound(c);
    // What is no number of a sample is taken for a connection that is new.
    const after = /^\d{1,15}$/.exec(c.req.header("last-event-id") ?? "")?.[0];
    return streamSSE(c, async (sse) => {
      let told = after === undefined ? -1 : Number(after);
      let waiting: KeptSample[] = [];
      let wake: () => void = () => undefined;
      const stop = listeners.listen(id, (samples) => {
        waiting.push(...samples);
        wake();
      });
      sse.onAbort(() => {
        stop();
        wake();
      });
      const tell = async (samples: readonly KeptSample[]) => {
        for (const { arrival, n, at, values } of samples) {
          if (arrival <= told) continue;
          told = arrival;
          await sse.writeSSE({ id: String(arrival), data: JSON.stringify({ n, at, values }) });
        }
      };
      try {
        // What came meanwhile first, so that a connection that dropped misses nothing.
        await tell(await samplesAfter(db, id, told, PAST));
        while (!sse.aborted) {
          const now = waiting;
          waiting = [];
          await tell(now);
          if (waiting.length > 0) continue;
          const quiet = await new Promise<boolean>((done) => {
            const timer = setTimeout(() => done(true), ALIVE_EVERY);
            wake = () => {
              clearTimeout(timer);
              done(false);
            };
          });
          if (quiet && !sse.aborted) await sse.write(": still here\n\n");
        }
      } finally {
        // However it ends nobody listens any more: a box that nobody hears stops by itself.
        stop();
      }
    });
  });

  routes.put("/boxes/:id", async (c) => {
    const id = c.req.param("id");
    if (!isId(id)) return notFound(c);
    const asked = await readBody(c, boxSchema);
    if (!asked.ok) return asked.refusal;
    const job = await getDocument(db, "jobs", asked.value.jobId);
    if (!job) return noJob(c);
    const made = boxOf(job.document, asked.value);
    if (!made) {
      const message = "The box needs a line with a chosen pump that can be solved.";
      return c.json<ApiError>(
        { error: "invalid", message, issues: [{ path: "jobId", message }] },
        422,
      );
    }
    const stream = {
      name: "Simulated box",
      jobId: asked.value.jobId,
      channels: channelsOf(made.box),
    };
    const begun = await createStream(db, id, stream);
    if (typeof begun === "string") return refused(c, begun);
    running.start(id, made.box, asked.value, made.truth);
    return c.json({ id });
  });

  routes.patch("/boxes/:id", async (c) => {
    const asked = await readBody(c, boxChangeSchema);
    if (!asked.ok) return asked.refusal;
    const state = running.change(c.req.param("id"), asked.value);
    return state ? c.json(state) : notFound(c);
  });

  routes.delete("/boxes/:id", (c) => {
    const truth = running.stop(c.req.param("id"));
    return truth ? c.json(truth) : notFound(c);
  });
  return routes;
}

const limit = limitedTo(1024 * 1024, "Send fewer samples at once.");

function refused(c: Context, why: "no-job" | "taken"): Response {
  if (why === "no-job") return noJob(c);
  const message = "There is a stream under this id already; begin another.";
  return c.json<ApiError>({ error: "conflict", message, current: null }, 409);
}

const noJob = (c: Context) =>
  c.json<ApiError>(
    {
      error: "invalid",
      message: "There is no such job.",
      issues: [{ path: "jobId", message: "There is no such job." }],
    },
    422,
  );
