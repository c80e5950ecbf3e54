import { format, formatPercent, formatSize } from "#contract/units/format.ts";
import type { YARD_FINDINGS } from "#core/finding/yard.ts";
import type { FindingWords } from "./findingWords.ts";
import { amountOf } from "./simulation.ts";

export const YARD_WORDS: FindingWords<keyof typeof YARD_FINDINGS> = {
  "yard-pipe": ({ value, limit, severity, surcharge, storage }, { system }) => {
    const said = (si: number) => format(si, "flow", system);
    const carried =
      severity === "stop"
        ? `Carries ${said(limit)} just full, and ${said(value)} come: the water backs up ${formatSize(surcharge, system, "nearest")} over the pipe at its upper end. A larger pipe, or more fall.`
        : `Carries ${said(limit)} just full; ${said(value)} come: ${formatPercent(1 - value / limit)} in hand.`;
    return { sentence: `${carried} It holds ${amountOf(storage, system)}.` };
  },
  "yard-grate": ({ value, limit, severity, ponded, blocked }, { system }) => ({
    sentence: `Its grate lets in ${format(limit, "flow", system)} under ${formatSize(ponded, system, "nearest")} of water with ${formatPercent(blocked)} of its holes blocked, and ${format(value, "flow", system)} come to it${
      severity === "good"
        ? "."
        : ": the rest runs past it. A larger grate, a second one, or let the water stand deeper."
    } Clear it, and the silt under it, before each wet season.`,
  }),
};
