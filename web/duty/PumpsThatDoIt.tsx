import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import { type ArrangementOfDocuments, arrangementOf } from "#model/selection/arrangement.ts";
import type { Chosen } from "#model/selection/choose.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { arrangementName } from "#words/selection.ts";
import { useChoice } from "../openJob/useChoice.ts";
import { useSettings, useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { StatusMark } from "../ui/StatusMark.tsx";

/** How many are named beside the line; the others stand under Pump. */
const NAMED = 3;

/** The pumps that suit a place of the line best, each to be chosen. */
export function PumpsThatDoIt({
  job,
  itemId,
  onChoose,
}: {
  job: JobDocument;
  itemId: string;
  onChoose: (arrangement: ArrangementOfDocuments) => void;
}) {
  const units = useUnits();
  const weighing = useSettings(({ weighing: own }) => own);
  const { library, documents, value: chosen, stale, kind } = useChoice(job, itemId, weighing);
  const working = kind === "working";
  if (library.isError || documents.size === 0 || !chosen) return null;
  const three = chosen
    .filter(({ fit, looked }) => looked && fit?.kind === "ranked")
    .slice(0, NAMED);
  // What is still being looked at may yet bring one.
  if (three.length === 0 && working) return null;
  return (
    <section
      aria-label="Pumps that do it"
      aria-busy={stale || working}
      className={`border-t border-rule px-3 py-2 ${stale ? "opacity-60" : ""}`}
    >
      <h2 className="plate text-[19px]">
        {three.length === 0 ? "No pump of the library does it" : "Pumps that do it"}
      </h2>
      {three.length === 0 && (
        <p className="text-[14px] text-soft">
          None delivers the wanted flow on this line without something to stop for. Under Pump each
          says why.
        </p>
      )}
      <ul>
        {three.map((own) => (
          <Named key={own.key} {...{ own, documents, units }} onChoose={onChoose} />
        ))}
      </ul>
    </section>
  );
}

function Named({
  own,
  documents,
  units,
  onChoose,
}: {
  own: Chosen;
  documents: ReturnType<typeof useChoice>["documents"];
  units: "us" | "metric";
  onChoose: (arrangement: ArrangementOfDocuments) => void;
}) {
  const pumps = own.ids.flatMap((id) => documents.get(id) ?? []);
  const [first] = pumps;
  if (!first) return null;
  const name = arrangementName(own, pumps);
  return (
    <li className="flex items-center gap-2 py-1">
      <div className="min-w-0 flex-1">
        <p className="plate text-[17px] leading-tight">{name}</p>
        <p className="flex flex-wrap items-center gap-x-2 text-[14px]">
          <StatusMark severity={own.worst} size={15} />
          <strong className="font-semibold">{format(own.flow ?? 0, "flow", units)}</strong>
          <span className="text-soft">{PUMP_KINDS[first.kind]}</span>
        </p>
      </div>
      <Button
        aria-label={`Choose ${name}`}
        onClick={() => {
          const arrangement = arrangementOf(own, documents);
          if (arrangement) onChoose(arrangement);
        }}
      >
        Choose
      </Button>
    </li>
  );
}
