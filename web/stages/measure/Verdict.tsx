import type { ReactNode } from "react";
import type { ReadingDocument } from "#contract/documents/fieldTest.ts";
import { formatUncertain } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import { COVERAGE } from "#core/measurement/acceptance.ts";
import { measuredFlow } from "#core/measurement/instruments.ts";
import { lineKnown } from "#model/job/assumed.ts";
import { electricOf } from "#model/measurement/fieldTests.ts";
import { type NotOfOne, pumpOfReading } from "#model/measurement/readings.ts";
import { diagnosticSentence } from "#words/diagnostics.ts";
import { electricWords } from "#words/fieldTests.ts";
import type { WholeProps } from "../../openJob/stage.ts";
import { useUnits } from "../../state/settings.ts";
import { Loading } from "../../ui/Notices.tsx";
import { ComparisonCard } from "./ComparisonCard.tsx";
import { PredictionCard } from "./PredictionCard.tsx";
import { SideBySideCard } from "./SideBySideCard.tsx";
import { TestCard } from "./TestCard.tsx";
import type { ReadingInHand } from "./useReadingInHand.ts";
import type { VisitsInHand } from "./useVisits.ts";

/** What the reading in hand says, or what it still lacks. */
export function Verdict({
  job,
  solved,
  inHand: { result, prediction, comparison, reach, ran },
  otherwise,
}: Pick<WholeProps, "job" | "solved"> & {
  inHand: ReadingInHand;
  /** stands under what it lacks */
  otherwise: ReactNode;
}) {
  const units = useUnits();
  if (result.kind === "lacks") {
    return (
      <div className="grid gap-3">
        <p className="plate text-2xl text-soft">{result.what}</p>
        {otherwise}
      </div>
    );
  }
  const electric = electricOf(result.reading, comparison, ran?.pump, ran?.speedRatio);
  const notOfOne =
    solved.kind === "solved" && result.reading.discharge
      ? pumpOfReading(solved, result.reading)
      : undefined;
  return (
    <div className="grid gap-3">
      {prediction ? (
        <PredictionCard {...{ prediction }} />
      ) : (
        <p className="plate text-3xl">{flowWords(result.reading.flow, units)}</p>
      )}
      {solved.kind !== "solved" && (
        <p className="text-soft">
          {lineKnown(job)
            ? "The flow can be filed. It can be held against what was promised once a pump is chosen and the line can be solved."
            : diagnosticSentence({ code: "line-unknown" })}
        </p>
      )}
      {comparison && <ComparisonCard {...{ comparison, reach }} reading={result.reading} />}
      {electric && (
        <div>
          {electricWords(electric.input, electric.efficiency, units, electric.published).map(
            (sentence) => (
              <p key={sentence} className="text-[14px]">
                {sentence}
              </p>
            ),
          )}
        </div>
      )}
      {typeof notOfOne === "string" && <p className="text-soft">{NOT_OF_ONE[notOfOne]}</p>}
    </div>
  );
}

/** What the readings of the visit in view say together; nothing where there are none to be judged. */
export function Together({
  job,
  solved,
  visits: { shown, readings, judged, compared },
}: Pick<WholeProps, "job" | "solved"> & { visits: VisitsInHand }) {
  if (solved.kind !== "solved" || !shown || readings.length === 0) return null;
  return (
    <div className="grid gap-3" aria-busy={judged.stale}>
      <h2 className="text-xl">
        {shown.document.takenOn}, {shown.document.title}: the readings together
      </h2>
      {judged.value?.map((own) => (
        <TestCard
          key={own.at}
          judged={own}
          readings={readings}
          solution={solved.solution}
          job={job}
        />
      ))}
      {compared.map((own) => (
        <SideBySideCard key={`${own.first} ${own.second}`} compared={own} />
      ))}
      {judged.kind === "failed" && <p className="text-signal">{judged.error}</p>}
      {!judged.value && judged.kind !== "failed" && <Loading what="the judgement" />}
    </div>
  );
}

const NOT_OF_ONE: Record<NotOfOne, string> = {
  "several-ran":
    "Several pumps ran, and one flow cannot tell them apart. Run one alone, and say under “Which pumps ran” which it was.",
  "several-outlets":
    "The water leaves by several outlets, and this is the flow of one, not what the pump moves. Shut the valves of the others, on the Line as well, and read again to hold the pump against its curve.",
  "runs-back":
    "Part of its water runs back through a pump that stands, which no check valve holds: what reaches the outlet is not all it moves. Shut the valve of the one that stands, or give it a check valve, and read again.",
};

/** A measured flow with its doubt, said as soon as there is one. */
export function flowWords(flow: ReadingDocument["flow"], units: UnitSystem): string {
  const { value, standardUncertainty } = measuredFlow(flow);
  return formatUncertain(value, COVERAGE * standardUncertainty, "flow", units);
}
