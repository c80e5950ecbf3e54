import type { Diagnostic, DiagnosticCode } from "#core/line/diagnostic.ts";

/** What stands in the way of a solution, and what to do about it. */
export function diagnosticSentence({ code }: Diagnostic): string {
  return SENTENCES[code];
}

const SENTENCES: Record<DiagnosticCode, string> = {
  "line-unknown":
    "What was measured is kept and filed as it was read. Type the runs of the line, and it is worked out and held against the pump’s curve.",
  "no-pump": "There is no pump on the path. Add one where the pump stands.",
  "pump-not-chosen": "No pump is chosen yet. Pick one from the pump library.",
  "pump-unknown": "The pump named here is not kept with the job. Pick it from the library again.",
  "no-outlet": "The path has no outlet. Say where the water leaves.",
  "loop-without-outlet":
    "The branches meet again and the path ends there: the water goes round and leaves nowhere. Add an outlet.",
  "branch-without-outlet":
    "One branch has no outlet and nothing follows where it ends. Give it an outlet, or let the path go on.",
  "branches-meet-apart":
    "The branches that meet here end at different heights. Check their rises: they must come to the same.",
  "pump-faces-shut-valve":
    "A pump runs against this shut valve and has nowhere to send its water: it heats up and burns out. Open the valve.",
  "suction-shut": "This shut valve keeps the water from the pump: it runs dry. Open the valve.",
  "check-valve-reversed":
    "This check valve is fitted the wrong way round: nothing passes. Turn it, arrow with the water.",
  "pump-droops":
    "Beside the other pump this one would run where its curve rises with flow: the two hunt, and no duty holds. Choose a pump whose curve falls all the way.",
  "outlet-not-last": "Something comes after the outlet. The outlet must end its path or branch.",
  "no-pipe": "There is no pipe between the pump and the outlet. Add the discharge line.",
  "pipe-unknown": "This size is not in stock. Choose another.",
  "pipe-without-length": "This run has no length. Type how long it is.",
  "rise-exceeds-length": "This run rises more than it is long. Check the rise or the length.",
  "fitting-unknown": "This fitting is not in stock. Choose another.",
  "fitting-without-pipe":
    "This fitting has no pipe beside it to take its size from. Add the pipe, or give it a size.",
  "hole-in-suction":
    "A hole before the pump lets air in, and the pump loses its prime. Take it out, or move it past the pump.",
  "not-balanced":
    "The flows of this line could not be balanced, so no duty is shown. Check the bores, lengths and openings along it.",
  "levels-out-of-order": "The levels of the source must rise from low to normal to high.",
  "outlet-levels-out-of-order": "The levels at the outlet must rise from low to normal to high.",
  "nozzle-wider-than-pipe":
    "The nozzle is as wide as the pipe that feeds it, or wider. Check its bore.",
};
