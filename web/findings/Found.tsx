import type { Context, Finding, FindingCode } from "#core/finding/registry.ts";
import { CONTEXT_NAMES, findingWords } from "#words/findings.ts";
import { useUnits } from "../state/settings.ts";
import { Said } from "../ui/Said.tsx";
import { StatusMark } from "../ui/StatusMark.tsx";

interface Named {
  body?: (index: number) => string;
  keepOff?: (index: number) => string;
}

/** One thing that was found, as it is said where it belongs. */
export function Found({ finding, ...named }: { finding: Finding } & Named) {
  const system = useUnits();
  const { title, sentence, advice } = findingWords(finding, { system, ...named });
  return (
    <div>
      <Said
        severity={finding.severity}
        sentence={sentence}
        {...(title !== undefined && { title })}
      />
      {advice && <p className="font-medium">{advice}</p>}
    </div>
  );
}

/** The same under a headline. */
export function HeadedFinding({ finding, ...named }: { finding: Finding } & Named) {
  const system = useUnits();
  const { title, sentence, advice } = findingWords(finding, { system, ...named });
  return (
    <>
      <span className="flex items-center gap-2">
        <StatusMark severity={finding.severity} />
        <span className="plate text-[19px]">{title ?? CONTEXT_NAMES[finding.context]}</span>
      </span>
      <p>
        {sentence} {advice && <span className="font-medium">{advice}</span>}
      </p>
    </>
  );
}

/** Everything that was found in one context, or by one check. */
export function AllFound({
  of,
  among,
  ...named
}: { of: Context | FindingCode; among: readonly Finding[] } & Named) {
  return among.flatMap((finding, i) =>
    finding.context === of || finding.code === of
      ? [<Found key={i} finding={finding} {...named} />]
      : [],
  );
}
