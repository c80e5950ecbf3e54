import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link } from "react-router";
import type { JobDocument } from "#contract/documents/job.ts";
import { PUMP_KINDS, type PumpDocument } from "#contract/documents/pump.ts";
import { format } from "#contract/units/format.ts";
import { verdictWords } from "#contract/wording/verdicts.ts";
import { type Candidate, rankPumps } from "#core/selection/rankPumps.ts";
import { api, newId } from "../api/client.ts";
import { useUnits } from "../app/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Plus } from "../ui/icons.ts";
import { Loading, Trouble } from "../ui/Notices.tsx";
import { StatusMark } from "../ui/StatusMark.tsx";
import { edit, insertItem, partsOf } from "./jobStore.ts";

/** Puts a copy of a pump into the job, so that the job stays whole whatever becomes of the library. */
function choosePump(pump: PumpDocument): void {
  edit((job) => ({
    ...job,
    path: job.path.map((item) => (item.kind === "pump" ? { ...item, pump: pump.id } : item)),
    pumps: [pump],
  }));
}

/** Every pump of the library tried on this line, the ones that suit first. */
export function PumpChooser({ job }: { job: JobDocument }) {
  const units = useUnits();
  const client = useQueryClient();
  const library = useQuery({ queryKey: ["pumps"], queryFn: api.pumps });
  const { pumpIndex } = partsOf(job.path);
  const pumpItem = job.path[pumpIndex];
  const chosen = pumpItem?.kind === "pump" ? pumpItem.pump : null;
  const { path, source, site, method, wantedFlow, pumps } = job;
  const candidates = useMemo(() => {
    const all = new Map(pumps.map((pump) => [pump.id, pump]));
    for (const { document } of library.data ?? [])
      if (!all.has(document.id)) all.set(document.id, document);
    const documents = [...all.values()];
    const ranked = rankPumps({ path, source, site, method }, documents, wantedFlow);
    return { ranked, documents };
  }, [library.data, path, source, site, method, wantedFlow, pumps]);

  if (pumpIndex < 0) {
    return (
      <div className="p-3">
        <p className="pb-2 text-soft">There is no pump on the path yet.</p>
        <Button onClick={() => insertItem(0, { kind: "pump", id: newId(), pump: null })}>
          <Plus size={16} aria-hidden /> Pump in the water
        </Button>
      </div>
    );
  }
  if (library.isPending) return <Loading what="the pump library" />;
  if (library.isError)
    return <Trouble error={library.error} onRetry={() => void library.refetch()} />;
  if (candidates.documents.length === 0) {
    return (
      <div className="grid justify-items-start gap-3 p-4">
        <p>The pump library is empty.</p>
        <Button
          look="strong"
          onClick={() =>
            void api.loadLibrary().then(() => client.invalidateQueries({ queryKey: ["pumps"] }))
          }
        >
          Load the pump library
        </Button>
      </div>
    );
  }
  const tried = new Set(candidates.ranked.map((c) => c.pump.id));
  return (
    <div>
      <p className="px-3 pt-2 text-[13px] text-soft">
        Every pump of the library on this line at normal water, the ones that suit first.
      </p>
      <ul aria-label="Pumps on this line">
        {candidates.ranked.map((candidate) => {
          const document = candidates.documents.find((p) => p.id === candidate.pump.id);
          return (
            document && (
              <PumpRow
                key={document.id}
                {...{ document, candidate, units, path: job.path }}
                chosen={document.id === chosen}
              />
            )
          );
        })}
        {candidates.documents
          .filter((pump) => !tried.has(pump.id))
          .map((document) => (
            <PumpRow
              key={document.id}
              document={document}
              units={units}
              path={job.path}
              chosen={document.id === chosen}
            />
          ))}
      </ul>
    </div>
  );
}

function PumpRow({
  document,
  candidate,
  chosen,
  units,
  path,
}: {
  document: PumpDocument;
  candidate?: Candidate;
  chosen: boolean;
  units: "us" | "metric";
  path: JobDocument["path"];
}) {
  const worst = candidate?.verdicts.find((v) => v.level === candidate.worst && v.level !== "good");
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
          {candidate && <StatusMark level={candidate.worst} size={15} />}
          {candidate?.flow !== undefined && (
            <strong className="font-semibold">{format(candidate.flow, "flow", units)}</strong>
          )}
          {candidate?.power !== undefined && candidate.flow !== undefined && (
            <span>{format(candidate.power, "power", units)}</span>
          )}
          {worst && (
            <span className="text-soft">
              {verdictWords(worst, path, units).title.toLowerCase()}
            </span>
          )}
        </p>
      </div>
      <Button
        look={chosen ? "quiet" : "plain"}
        aria-pressed={chosen}
        aria-label={`${chosen ? "Chosen" : "Choose"} ${document.maker} ${document.model}`}
        onClick={() => !chosen && choosePump(document)}
      >
        {chosen ? "Chosen" : "Choose"}
      </Button>
    </li>
  );
}
