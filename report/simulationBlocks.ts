import type { JobDocument } from "#contract/documents/job.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { RunResult } from "#model/simulation/result.ts";
import { findingWords } from "#words/findings.ts";
import { itemName } from "#words/items.ts";
import { answerLines } from "#words/simulation.ts";
import type { Block } from "./blocks.ts";
import { stopBlocks } from "./findingBlocks.ts";

/** What a run comes to, on the sheet: what stops it as findings, the rest in one paragraph, since a sheet is one page. */
export function simulationBlocks(
  job: Pick<JobDocument, "path" | "bodies">,
  { answers, pumps, bodies }: RunResult,
  system: UnitSystem,
): Block[] {
  const called = {
    pump: (k: number) => itemName(job.path, pumps[k] ?? "", system),
    body: (k: number) =>
      job.bodies?.find(({ id }) => id === bodies[k]?.id)?.name || `Water ${k + 1}`,
    system,
  };
  const figures = answerLines(answers, system).map(({ name, value }) => `${name}: ${value}`);
  return [
    ...stopBlocks(answers.findings, called),
    {
      kind: "paragraph",
      text: [
        `Over time: ${figures.join("; ")}.`,
        ...answers.findings.flatMap((finding) =>
          finding.severity === "watch" ? [`${findingWords(finding, called).title}.`] : [],
        ),
      ].join(" "),
    },
  ];
}

/** Who allowed the water to go where. */
export const permissionBlocks = ({ site }: Pick<JobDocument, "site">): Block[] =>
  (site.permissions ?? []).flatMap(({ who, what, on }) =>
    who || what
      ? [{ kind: "paragraph", text: `Allowed by ${who || "?"}${on ? ` on ${on}` : ""}: ${what}.` }]
      : [],
  );
