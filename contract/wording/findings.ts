import type { Finding, FindingCode } from "#core/line/finding.ts";

/** What stands in the way of a solution, and what to do about it. */
export function findingSentence({ code }: Finding): string {
  return SENTENCES[code];
}

const SENTENCES: Record<FindingCode, string> = {
  "no-pump": "There is no pump on the path. Add one where the pump stands.",
  "pump-not-chosen": "No pump is chosen yet. Pick one from the pump library.",
  "pump-unknown": "The pump named here is not kept with the job. Pick it from the library again.",
  "several-pumps":
    "There is a second pump on the path. Two pumps on one line are not solved yet: keep one.",
  "no-outlet": "The path has no outlet. Say where the water leaves.",
  "several-outlets": "The path has a second outlet. Several outlets are not solved yet: keep one.",
  "outlet-not-last": "Something comes after the outlet. The outlet must end the path.",
  "no-pipe": "There is no pipe between the pump and the outlet. Add the discharge line.",
  "pipe-unknown": "This size is not in stock. Choose another.",
  "pipe-without-length": "This run has no length. Type how long it is.",
  "rise-exceeds-length": "This run rises more than it is long. Check the rise or the length.",
  "fitting-unknown": "This fitting is not in stock. Choose another.",
  "fitting-without-pipe":
    "This fitting has no pipe beside it to take its size from. Add the pipe, or give it a size.",
  "split-not-solved":
    "The line splits here. Splits are kept with the job but not solved yet: take the split out to get a duty.",
  "hole-in-suction":
    "A hole before the pump lets air in, and the pump loses its prime. Take it out, or move it past the pump.",
  "not-balanced":
    "The flows of this line could not be balanced, so no duty is shown. Check the bores of its holes.",
  "levels-out-of-order": "The levels of the source must rise from low to normal to high.",
  "outlet-levels-out-of-order": "The levels at the outlet must rise from low to normal to high.",
  "nozzle-wider-than-pipe":
    "The nozzle is as wide as the pipe that feeds it, or wider. Check its bore.",
};
