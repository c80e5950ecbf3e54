import { checksIn } from "./finding.ts";

/** A gravity run in the hardest hour. m³/s, m, m³. */
export interface YardRunFacts {
  name?: string | undefined;
  flow: number;
  /** just full */
  capacity: number;
  /** the water stands so far over the pipe at its upper end */
  surcharge: number;
  storage: number;
  grate?: { capacity: number; comes: number; ponded: number; blocked: number };
}

/** Of what a pipe carries just full, from which it is told to be near. Common practice, no source. */
const NEARLY_FULL = 0.8;
const ofRun = checksIn<YardRunFacts>()("yard-run");

export const YARD_FINDINGS = {
  "yard-pipe": ofRun(({ name, flow, capacity, surcharge, storage }) => [
    {
      severity:
        flow > capacity
          ? ("stop" as const)
          : flow > NEARLY_FULL * capacity
            ? ("watch" as const)
            : ("good" as const),
      ...{ value: flow, limit: capacity, surcharge, storage, name },
    },
  ]),
  "yard-grate": ofRun(({ name, grate }) =>
    grate
      ? [
          {
            severity: grate.capacity >= grate.comes ? ("good" as const) : ("stop" as const),
            ...{ value: grate.comes, limit: grate.capacity, name },
            ...{ ponded: grate.ponded, blocked: grate.blocked },
          },
        ]
      : [],
  ),
};
