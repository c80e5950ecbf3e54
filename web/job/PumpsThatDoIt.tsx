import type { JobDocument } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { format } from "#contract/units/format.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { useUnits } from "../app/settings.ts";
import { Button } from "../ui/Button.tsx";
import { StatusMark } from "../ui/StatusMark.tsx";
import { useCandidates } from "./useCandidates.ts";

/** How many pumps are named beside the line; the others stand under Pump. */
const NAMED = 3;

/** The pumps that suit a place of the line best, each to be chosen. */
export function PumpsThatDoIt({
  job,
  itemId,
  onChoose,
}: {
  job: JobDocument;
  itemId: string;
  onChoose: (pump: PumpDocument) => void;
}) {
  const units = useUnits();
  const { library, documents, ranked, stale } = useCandidates(job, itemId);
  if (library.isError || documents.length === 0 || !ranked) return null;
  const three = ranked.filter(({ fit }) => fit?.kind === "ranked").slice(0, NAMED);
  return (
    <section
      aria-label="Pumps that do it"
      aria-busy={stale}
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
        {three.map(({ pump, flow, worst }) => {
          const document = documents.find(({ id }) => id === pump.id);
          return (
            document && (
              <li key={pump.id} className="flex items-center gap-2 py-1">
                <div className="min-w-0 flex-1">
                  <p className="plate text-[17px] leading-tight">
                    {document.maker} {document.model}
                  </p>
                  <p className="flex flex-wrap items-center gap-x-2 text-[14px]">
                    <StatusMark severity={worst} size={15} />
                    <strong className="font-semibold">{format(flow ?? 0, "flow", units)}</strong>
                    <span className="text-soft">{PUMP_KINDS[document.kind]}</span>
                  </p>
                </div>
                <Button
                  aria-label={`Choose ${document.maker} ${document.model}`}
                  onClick={() => onChoose(document)}
                >
                  Choose
                </Button>
              </li>
            )
          );
        })}
      </ul>
    </section>
  );
}
