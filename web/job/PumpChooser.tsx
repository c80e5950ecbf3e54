import { useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { CheckCode } from "#core/check/registry.ts";
import { type Candidate, type Fit, type Merit, WEIGHTS } from "#core/choose/rankPumps.ts";
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
import { useJobAfterPaint } from "./useJobAfterPaint.ts";

/** Every pump of the library tried on this line, the ones that suit first. */
export function PumpChooser({ item }: { item: Extract<JobPathItem, { kind: "pump" }> }) {
  // Trying a library takes its time: it follows the painted key.
  const job = useJobAfterPaint();
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
  const row = (document: PumpDocument, candidate?: Candidate) => (
    <PumpRow
      key={document.id}
      {...{ document, units, itemId, path: job.path }}
      {...(candidate && { candidate })}
      chosen={document.id === chosen}
    />
  );
  const known = new Map(documents.map((document) => [document.id, document]));
  const rows = (kind: Fit["kind"] | undefined) =>
    ranked.flatMap((candidate) => {
      const document = known.get(candidate.pump.id);
      return document && candidate.fit?.kind === kind ? [row(document, candidate)] : [];
    });
  const tried = new Set(ranked.map(({ pump }) => pump.id));
  const untried = documents.filter(({ id }) => !tried.has(id)).map((document) => row(document));
  const groups: [string, ReactNode[], string?][] =
    job.wantedFlow === undefined
      ? [["Not ranked: say how much water is wanted", [...rows(undefined), ...untried]]]
      : [
          ["They do it, the best first", rows("ranked"), WEIGHED],
          ["Too weak for the wanted flow", rows("too-weak")],
          ["Not here, and why", rows("apart")],
          ["Not tried: the line cannot be solved with them", untried],
        ];
  return (
    <div aria-busy={stale} className={stale ? "opacity-60" : ""}>
      {groups.map(
        ([title, list, note]) =>
          list.length > 0 && (
            <section key={title} className="pt-2">
              <h2 className="plate px-3 text-[18px]">{title}</h2>
              {note && <p className="px-3 pb-1 text-[13px] text-soft">{note}</p>}
              <ul aria-label={title}>{list}</ul>
            </section>
          ),
      )}
    </div>
  );
}

const MERITS: Record<Merit, string> = {
  flow: "flow in hand",
  efficiency: "nearness to best efficiency",
  energy: "energy for each volume",
  weight: "weight",
  price: "price",
};
const WEIGHED = `Weighed by ${(Object.keys(WEIGHTS) as Merit[])
  .map((merit) => `${MERITS[merit]} ${formatPercent(WEIGHTS[merit])}`)
  .join(", ")}. What a plate does not tell counts half.`;

const NONE: readonly Candidate[] = [];

/** Limits of the place that a silent plate, or a silent job, leaves open. */
const PLACING: ReadonlySet<CheckCode> = new Set<CheckCode>([
  ...(["pump-placement", "pump-width", "pump-passage"] as const),
  ...(["water-too-shallow", "water-too-deep", "water-too-warm"] as const),
]);

/** In one line what stands against a pump, or what to know of it. */
function whatOf(
  { fit, judgements, worst }: Candidate,
  path: JobDocument["path"],
  units: UnitSystem,
): string | undefined {
  if (fit?.kind === "apart") return checkWords(fit.why, path, units).title.toLowerCase();
  if (fit?.kind === "too-weak") {
    return fit.short === undefined ? "too weak" : `too weak by ${format(fit.short, "head", units)}`;
  }
  if (fit?.kind === "ranked" && fit.parts.flow === 0)
    return "too strong: throttle it, or a smaller one";
  // What cannot be judged is said too, beside what is worse.
  const worth = judgements.filter(
    ({ severity, code }) =>
      (severity === "unknown" && PLACING.has(code)) ||
      (severity === worst && severity !== "good" && code !== "wanted-flow"),
  );
  const titles = new Set(worth.map((each) => checkWords(each, path, units).title.toLowerCase()));
  return [...titles].slice(0, 3).join("; ") || undefined;
}

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
  const said = candidate && whatOf(candidate, path, units);
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
          {said && <span className="text-soft">{said}</span>}
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
