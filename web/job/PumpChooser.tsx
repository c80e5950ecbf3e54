import { useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { format } from "#contract/units/format.ts";
import type { Candidate } from "#core/whatif/pumpRanking.ts";
import { checkWords } from "#words/checks.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { api } from "../api/client.ts";
import { allPumps } from "../api/queries.ts";
import { useUnits } from "../app/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { StatusMark } from "../ui/StatusMark.tsx";
import { choosePump } from "./jobStore.ts";
import { useCandidates } from "./useCandidates.ts";

/** Every pump of the library tried on this line, the ones that suit first. */
export function PumpChooser({
  job,
  item,
}: {
  job: JobDocument;
  item: Extract<JobPathItem, { kind: "pump" }>;
}) {
  const units = useUnits();
  const client = useQueryClient();
  const { id: itemId, pump: chosen } = item;
  const { library, documents, ranked = NONE, stale } = useCandidates(job, itemId);

  if (library.isPending) return <Loading what="the pump library" />;
  if (library.isError)
    return <Trouble error={library.error} onRetry={() => void library.refetch()} />;
  if (documents.length === 0) {
    return (
      <div className="grid justify-items-start gap-3 p-4">
        <p>The pump library is empty.</p>
        <Button
          look="strong"
          onClick={() =>
            void api
              .loadLibrary()
              .then(() => client.invalidateQueries({ queryKey: allPumps.queryKey }))
          }
        >
          Load the pump library
        </Button>
      </div>
    );
  }
  const tried = new Set(ranked.map((c) => c.pump.id));
  return (
    <div>
      <p className="px-3 pt-2 text-[13px] text-soft">
        Every pump of the library on this line at normal water, the ones that suit first.
      </p>
      <ul aria-label="Pumps on this line" aria-busy={stale} className={stale ? "opacity-60" : ""}>
        {ranked.map((candidate) => {
          const document = documents.find((p) => p.id === candidate.pump.id);
          return (
            document && (
              <PumpRow
                key={document.id}
                {...{ document, candidate, units, itemId, path: job.path }}
                chosen={document.id === chosen}
              />
            )
          );
        })}
        {documents
          .filter((pump) => !tried.has(pump.id))
          .map((document) => (
            <PumpRow
              key={document.id}
              document={document}
              units={units}
              itemId={itemId}
              path={job.path}
              chosen={document.id === chosen}
            />
          ))}
      </ul>
    </div>
  );
}

const NONE: readonly Candidate[] = [];

function PumpRow({
  document,
  candidate,
  chosen,
  units,
  itemId,
  path,
}: {
  document: PumpDocument;
  candidate?: Candidate;
  chosen: boolean;
  units: "us" | "metric";
  itemId: string;
  path: JobDocument["path"];
}) {
  const worst = candidate?.judgements.find(
    ({ severity }) => severity === candidate.worst && severity !== "good",
  );
  return (
    <li
      className={`grid grid-cols-[minmax(0,1fr)_auto] items-center gap-2 border-t border-rule px-3 py-1.5 ${chosen ? "bg-press" : ""}`}
    >
      <div className="min-w-0">
        <p className="flex flex-wrap items-baseline gap-x-2">
          <Link
            to={`/pumps/${document.id}`}
            className="plate text-[18px] leading-tight hover:underline"
          >
            {document.maker} {document.model}
          </Link>
          <span className="text-[13px] text-soft">{PUMP_KINDS[document.kind]}</span>
        </p>
        <p className="flex flex-wrap items-center gap-x-3 text-[14px]">
          {candidate && <StatusMark severity={candidate.worst} size={15} />}
          {candidate?.flow !== undefined && (
            <strong className="font-semibold">{format(candidate.flow, "flow", units)}</strong>
          )}
          {candidate?.power !== undefined && candidate.flow !== undefined && (
            <span>{format(candidate.power, "power", units)}</span>
          )}
          {worst && (
            <span className="text-soft">{checkWords(worst, path, units).title.toLowerCase()}</span>
          )}
        </p>
      </div>
      <Button
        look={chosen ? "quiet" : "plain"}
        aria-pressed={chosen}
        aria-label={`${chosen ? "Chosen" : "Choose"} ${document.maker} ${document.model}`}
        onClick={() => !chosen && choosePump(itemId, document)}
      >
        {chosen ? "Chosen" : "Choose"}
      </Button>
    </li>
  );
}
