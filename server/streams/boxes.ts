import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import type {
  BoxChange,
  BoxOptions,
  BoxState,
  BoxTruth,
  Channel,
  Sample,
} from "#contract/streams/stream.ts";
import { uniform } from "#core/numeric/latinHypercube.ts";
import {
  type BoxValues,
  type InstrumentBox,
  instrumentBox,
  truthOf,
} from "#model/measurement/instrumentBox.ts";

/** What a box reads, in the order of its channels, with how good its instruments say they are. */
export const BOX_CHANNELS = ["flow", "discharge", "suction", "current", "power", "speed"] as const;
const TOLERANCE: Record<(typeof BOX_CHANNELS)[number], number> = {
  flow: 0.02,
  discharge: 0.01,
  suction: 0.01,
  current: 0.02,
  power: 0.03,
  speed: 0.002,
};

/** s in which a reading goes most of the way to where the valve was turned */
const LAG = 1.5;
/** ms after which a box that nobody listens to stops */
const UNHEARD = 30 * 60_000;

interface Running {
  state: BoxState;
  truth: BoxTruth;
  /** the valve was turned, or the pump switched */
  moved: () => void;
  stop: () => void;
}

/** Simulated installations that run on this server. They end with it; what they sent is kept. */
export interface Boxes {
  start: (id: string, box: InstrumentBox, options: BoxOptions, truth: BoxTruth) => void;
  change: (id: string, change: BoxChange) => BoxState | undefined;
  state: (id: string) => BoxState | undefined;
  /** stops it and tells what was hidden */
  stop: (id: string) => BoxTruth | undefined;
}

/** The installation a job and a fault stand for; undefined where its line cannot be solved. */
export function boxOf(
  job: unknown,
  options: BoxOptions,
): { box: InstrumentBox; truth: BoxTruth } | undefined {
  const parsed = jobSchema.safeParse(job);
  if (!parsed.success) return undefined;
  const truth = truthOf(options.fault, options.seed ?? randomSeed());
  const box = instrumentBox(parsed.data as JobDocument, truth);
  return box && { box, truth };
}

const randomSeed = () => 1 + Math.floor(Math.random() * 2_000_000_000);

export function channelsOf({ gauges }: InstrumentBox): Channel[] {
  return BOX_CHANNELS.map((reads) => ({
    reads,
    tolerance: TOLERANCE[reads],
    ...((reads === "discharge" || reads === "suction") && {
      elevation: gauges.elevation,
      ...(reads === "discharge" && { afterItemId: gauges.itemId }),
    }),
  }));
}

/** @param send keeps samples of a stream and tells who listens; `heard` how many do */
export function boxes(
  send: (id: string, samples: Sample[]) => Promise<void>,
  heard: (id: string) => number,
): Boxes {
  const running = new Map<string, Running>();

  function start(id: string, box: InstrumentBox, options: BoxOptions, truth: BoxTruth): void {
    const state: BoxState = { valve: 1, running: true };
    const random = uniform(options.seed ?? randomSeed());
    const normal = () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
    let target = box.valuesAt(state);
    let shown: BoxValues = { ...target };
    const wander = Object.fromEntries(BOX_CHANNELS.map((name) => [name, 0]));
    let [n, last, unheard] = [0, Date.now(), Date.now()];
    /** samples that the database has not taken yet go again with the next */
    let waiting: Sample[] = [];
    let sending = false;
    const tick = () => {
      const now = Date.now();
      const seconds = (now - last) / 1000;
      last = now;
      if (heard(id) > 0) unheard = now;
      if (now - unheard > UNHEARD) return stop(id);
      const near = 1 - Math.exp(-seconds / LAG);
      shown = Object.fromEntries(
        BOX_CHANNELS.map((name) => [name, shown[name] + near * (target[name] - shown[name])]),
      ) as unknown as BoxValues;
      const values = BOX_CHANNELS.map((name) => {
        const far = options.drift * Math.sqrt(seconds / 3600) * normal();
        wander[name] = (wander[name] ?? 0) + far;
        return shown[name] * (1 + (wander[name] ?? 0) + options.noise * normal());
      });
      waiting.push({ n: n++, at: new Date(now).toISOString(), values });
      if (sending) return undefined;
      sending = true;
      const going = waiting;
      waiting = [];
      send(id, going)
        .catch(() => {
          waiting = [...going, ...waiting].slice(-MOST_WAITING);
        })
        .finally(() => {
          sending = false;
        });
      return undefined;
    };
    const timer = setInterval(tick, options.every);
    timer.unref();
    running.set(id, {
      state,
      truth,
      moved: () => {
        target = box.valuesAt(state);
      },
      stop: () => clearInterval(timer),
    });
  }

  function stop(id: string): BoxTruth | undefined {
    const own = running.get(id);
    own?.stop();
    running.delete(id);
    return own?.truth;
  }

  return {
    start,
    stop,
    change: (id, change) => {
      const own = running.get(id);
      if (!own) return undefined;
      Object.assign(own.state, change);
      own.moved();
      return { ...own.state };
    },
    state: (id) => {
      const own = running.get(id);
      return own && { ...own.state };
    },
  };
}

/** Samples a box holds while the database takes none. */
const MOST_WAITING = 2000;
