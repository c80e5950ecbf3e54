import type { Key } from "../lib/keys.ts";

/** What answers on every page. */
export const FRAME_KEYS = {
  commands: { press: "mod+k", does: "Commands: any job, pump or action by name" },
  job: { press: "n", does: "A new job" },
  units: { press: "u", does: "US or metric" },
  keys: { press: "?", does: "This list" },
} satisfies Record<string, Key>;
