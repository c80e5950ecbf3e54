import type { Context, Finding } from "#core/finding/registry.ts";
import { CONTEXT_NAMES, findingWords } from "#words/findings.ts";
import type { FindingVoice } from "#words/findingWords.ts";
import type { Block } from "./blocks.ts";

/** What there is to stop for, each in a block of its own. */
export const stopBlocks = (findings: readonly Finding[], voice: FindingVoice): Block[] =>
  findings.flatMap((finding): Block[] => {
    if (finding.severity !== "stop") return [];
    const {
      title = CONTEXT_NAMES[finding.context],
      sentence,
      advice,
    } = findingWords(finding, voice);
    return [
      { kind: "finding", severity: "stop", title, text: sentence, ...(advice && { advice }) },
    ];
  });

/** What else was found in some contexts, in one line. */
export const alsoSaid = (
  findings: readonly Finding[],
  voice: FindingVoice,
  ...contexts: readonly Context[]
): string =>
  findings
    .filter(({ severity, context }) => severity !== "stop" && contexts.includes(context))
    .map((finding) => findingWords(finding, voice).sentence)
    .join(" ");
