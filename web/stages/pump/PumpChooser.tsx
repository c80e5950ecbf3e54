import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useDeferredValue, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import type { Stored } from "#contract/api/api.ts";
import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { CheckCode } from "#core/check/registry.ts";
import { cardsOf, OF_THE_PLACE } from "#core/selection/rankPumps.ts";
import { MERITS, WEIGHINGS, type Weighing } from "#core/selection/weights.ts";
import { otherwise } from "#model/import/pumpPlate.ts";
import { arrangementOf, withArrangement } from "#model/selection/arrangement.ts";
import type { Chosen } from "#model/selection/choose.ts";
import { checkWords } from "#words/checks.ts";
import { PUMP_KINDS } from "#words/items.ts";
import { arrangementName, MERIT_WORDS, reasonOf, WEIGHING_WORDS } from "#words/selection.ts";
import { formatDuration } from "#words/simulation.ts";
import { api } from "../../api/client.ts";
import { allPumps } from "../../api/queries.ts";
import { edit } from "../../openJob/jobStore.ts";
import { type Choice, useChoice } from "../../openJob/useChoice.ts";
import { useJobAfterPaint } from "../../openJob/useJobAfterPaint.ts";
import { useSettings, useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { SelectField, TextField } from "../../ui/Fields.tsx";
import { Loading, Trouble } from "../../ui/Notices.tsx";
import { StatusMark } from "../../ui/StatusMark.tsx";
import { useLongList } from "../../ui/useLongList.ts";

type Item = Extract<JobPathItem, { kind: "pump" }>;

/** Three pumps to choose between, and a line for each of the others: why it is not one of them. */
export function PumpChooser({
  item,
  children,
}: {
  item: Item;
  /** stands between what is recommended and the rest */
  children: ReactNode;
}) {
  // Trying a library takes its time: it follows the painted key.
  const job = useJobAfterPaint();
  const weighing = useSettings(({ weighing: own }) => own);
  const choice = useChoice(job, item.id, weighing);
  const client = useQueryClient();
  const { library, documents, value: chosen, kind, stale, error } = choice;
  const working = kind === "working";
  const cards = useMemo(() => cardsOf(chosen ?? []), [chosen]);

  if (library.isPending) return <Loading what="the pump library" />;
  if (library.isError)
    return <Trouble error={library.error} onRetry={() => void library.refetch()} />;
  if (documents.size === 0) {
    return (
      <>
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
        {children}
      </>
    );
  }
  return (
    <div aria-busy={stale || working}>
      <Newer {...{ job, item }} library={library.data} />
      <Weighed />
      <p className="flex min-h-9 items-center gap-2 px-3 text-[14px] text-soft">
        {error !== undefined ? (
          <>
            It could not be worked out: {error}
            <Button look="quiet" onClick={choice.again}>
              Try again
            </Button>
          </>
        ) : working ? (
          <>
            Trying {documents.size} pumps …
            <Button look="quiet" onClick={choice.cancel}>
              Cancel
            </Button>
          </>
        ) : kind === "cancelled" ? (
          <>
            Cancelled.
            <Button look="quiet" onClick={choice.again}>
              Try them
            </Button>
          </>
        ) : (
          job.wantedFlow !== undefined &&
          `${documents.size} pumps tried, ${chosen?.length ?? 0} ways to put them.`
        )}
      </p>
      {chosen ? (
        <Cards {...{ cards, documents, job, item, weighing, stale }} />
      ) : (
        // The room of a card: what stands under it does not move when one comes.
        job.wantedFlow !== undefined && <div className="h-30" />
      )}
      {children}
      {chosen && <Rest {...{ chosen, cards, documents, job, item, weighing, stale }} />}
    </div>
  );
}

/** The job keeps its pump as it was chosen: when the library has it otherwise since, that is said, and can be taken over. */
function Newer({
  job,
  item,
  library,
}: {
  job: JobDocument;
  item: Item;
  library: readonly Stored<PumpDocument>[];
}) {
  const own = job.pumps.find(({ id }) => id === item.pump);
  const theirs = library.find(({ id }) => id === item.pump)?.document;
  const what = own && theirs && otherwise(own, theirs);
  if (!what) return null;
  return (
    <p role="status" className="flex flex-wrap items-center gap-2 px-3 pt-2 text-[15px]">
      <StatusMark severity="watch" />
      <span>
        The library has another {what} for the {own.maker} {own.model} than this job, whose figures
        are older.
      </span>
      <Button
        onClick={() =>
          edit((j) => ({
            ...j,
            pumps: j.pumps.map((pump) => (pump.id === own.id ? theirs : pump)),
          }))
        }
      >
        Take over the library’s
      </Button>
    </p>
  );
}

/** What counts, by what somebody is after, and how much. */
function Weighed() {
  const { weighing, setWeighing } = useSettings();
  const weights = WEIGHINGS[weighing];
  return (
    <div className="px-3 pt-2">
      <SelectField
        label="What it has to be good at"
        visibleLabel
        value={weighing}
        onChange={(value) => setWeighing(value as Weighing)}
      >
        {Object.entries(WEIGHING_WORDS).map(([value, { name, says }]) => (
          <option key={value} value={value}>
            {name}: {says}
          </option>
        ))}
      </SelectField>
      <p className="pt-1 text-[13px] text-soft">
        Weighed:{" "}
        {MERITS.map((merit) => `${MERIT_WORDS[merit]} ${formatPercent(weights[merit])}`).join(", ")}
        . What a plate does not tell counts half.
      </p>
    </div>
  );
}

interface Shown {
  cards: ReturnType<typeof cardsOf<Chosen>>;
  documents: Choice["documents"];
  job: JobDocument;
  item: Item;
  weighing: Weighing;
  stale: boolean;
}

const CARD_NAMES = { best: "Best here", cheapest: "Cheapest", owned: "What you own" } as const;

function Cards({ cards, documents, job, item, weighing, stale }: Shown) {
  const named = new Map<Chosen, string[]>();
  for (const [which, name] of Object.entries(CARD_NAMES)) {
    const card = cards[which as keyof typeof CARD_NAMES];
    if (card) named.set(card, [...(named.get(card) ?? []), name]);
  }
  if (job.wantedFlow === undefined) {
    return (
      <p className="px-3 py-2">
        Not ranked: say under Need how much water is wanted, and the pumps that move it stand here.
      </p>
    );
  }
  if (named.size === 0) {
    return (
      <p className="px-3 py-2">
        Nothing here moves what is wanted without something to stop for. Each says why below.
      </p>
    );
  }
  return (
    <ul aria-label="Recommended" className={`grid gap-2 px-3 pb-3 ${stale ? "opacity-60" : ""}`}>
      {[...named].map(([card, names]) => (
        <li key={card.key} className="rounded border-2 border-water bg-sheet p-2">
          <p className="text-[14px] text-soft">{inOne(names)}</p>
          <Way {...{ documents, job, item, weighing }} own={card} best={cards.best} large />
        </li>
      ))}
    </ul>
  );
}

const GROUPS: [string, (own: Chosen) => boolean][] = [
  ["They do it too", ({ fit }) => fit?.kind === "ranked"],
  ["Over time they do not", ({ fit }) => fit?.kind === "fails"],
  ["Too weak for the wanted flow", ({ fit }) => fit?.kind === "too-weak"],
  ["Not here, and why", ({ fit }) => fit?.kind === "apart" || fit?.kind === "too-strong"],
  ["Not ranked", ({ fit }) => fit === undefined],
];

/** "Best here and cheapest". */
const inOne = ([first, ...others]: readonly string[]) =>
  [first, ...others.map((name) => name.charAt(0).toLowerCase() + name.slice(1))].join(" and ");

type Row = { heading: string; count: number } | { own: Chosen };

/** All the others under what became of them, as one list that may be long. */
function Rest({
  chosen,
  cards,
  documents,
  job,
  item,
  weighing,
  stale,
}: Shown & { chosen: readonly Chosen[] }) {
  const list = useRef<HTMLUListElement>(null);
  const [typed, setTyped] = useState("");
  // Finding follows the painted key.
  const find = useDeferredValue(typed);
  const rows = useMemo(() => {
    const words = find.toLowerCase().split(/\s+/);
    const isFound = ({ ids }: Chosen) => {
      const text = ids
        .map((id) => documents.get(id))
        .map((pump) => `${pump?.maker} ${pump?.model} ${PUMP_KINDS[pump?.kind ?? "sump"]}`)
        .join(" ")
        .toLowerCase();
      return words.every((word) => text.includes(word));
    };
    const shown = new Set(Object.values(cards).map(({ key }) => key));
    return GROUPS.flatMap(([heading, belongs]): Row[] => {
      // A pair or another speed is worth a line where it does it; a hundred that do not are not.
      const own = chosen.filter(
        (each) =>
          belongs(each) &&
          !shown.has(each.key) &&
          isFound(each) &&
          (each.fit?.kind === "ranked" || (each.kind === "one" && each.speedRatio === undefined)),
      );
      return own.length > 0
        ? [{ heading, count: own.length }, ...own.map((each) => ({ own: each }))]
        : [];
    });
  }, [chosen, cards, documents, find]);
  const { indexes, before, after, measure } = useLongList(list, rows.length, 62);
  return (
    <>
      <TextField
        label="Find among the others"
        className="px-3 pt-2"
        value={typed}
        maxLength={80}
        onChange={setTyped}
      />
      <ul aria-label="The other pumps" ref={list} className={stale ? "opacity-60" : ""}>
        <li aria-hidden style={{ height: before }} />
        {indexes.map((index) => {
          const row = rows[index] as Row;
          return "heading" in row ? (
            <li key={row.heading} data-index={index} ref={measure} className="px-3 pt-3 pb-1">
              <h2 className="plate text-[18px]">
                {row.heading} <span className="text-soft">{row.count}</span>
              </h2>
            </li>
          ) : (
            <li
              key={row.own.key}
              data-index={index}
              ref={measure}
              className="border-t border-rule px-3 py-1.5"
            >
              <Way {...{ documents, job, item, weighing }} own={row.own} best={cards.best} />
            </li>
          );
        })}
        <li aria-hidden style={{ height: after }} />
      </ul>
    </>
  );
}

/** One thing that may be put there, with its reason and the button that does it. */
function Way({
  own,
  best,
  documents,
  job,
  item,
  weighing,
  large,
}: Omit<Shown, "cards" | "stale"> & { own: Chosen; best: Chosen | undefined; large?: boolean }) {
  const units = useUnits();
  const pumps = own.ids.flatMap((id) => documents.get(id) ?? []);
  const [first] = pumps;
  if (!first) return null;
  const name = arrangementName(own, pumps);
  const isChosen =
    own.kind === "one" && item.pump === own.ids[0] && sameSpeed(item.speedRatio, own.speedRatio);
  const reason = reasonOf(own, best, WEIGHINGS[weighing], job, units);
  const said = [
    reason,
    ...warningsOf(own, job, units),
    own.kind === "after" ? "the second’s casing has to bear the head of both" : undefined,
    own.looked || own.fit?.kind !== "ranked" ? undefined : "not looked at closely",
    timeOf(own, units),
  ].filter(Boolean);
  const choose = () => {
    const arrangement = arrangementOf(own, documents);
    if (arrangement) edit((j) => withArrangement(j, item.id, arrangement) ?? j);
  };
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-2">
      <div className="min-w-0">
        <p className="flex flex-wrap items-baseline gap-x-2">
          <Link
            to={`/pumps/${first.id}`}
            className={`plate leading-tight hover:underline ${large ? "text-[22px]" : "text-[18px]"}`}
          >
            {name}
          </Link>
          <span className="text-[13px] text-soft">{PUMP_KINDS[first.kind]}</span>
        </p>
        <p className="flex flex-wrap items-center gap-x-3 text-[14px]">
          {own.looked && <StatusMark severity={own.worst} size={15} />}
          {own.flow !== undefined && (
            <strong className={`font-semibold ${large ? "text-[17px]" : ""}`}>
              {format(own.flow, "flow", units)}
            </strong>
          )}
          {own.power !== undefined && own.flow !== undefined && (
            <span>{format(own.power, "power", units)}</span>
          )}
          {own.fit?.kind === "ranked" && own.price !== undefined && (
            <span>{own.price === 0 ? "owned" : `price ${own.price.toFixed(0)}`}</span>
          )}
          {large && own.mass !== undefined && <span>{format(own.mass, "mass", units)}</span>}
        </p>
        {said.length > 0 && <p className="text-[14px] text-soft">{said.join("; ")}</p>}
      </div>
      <Button
        look={isChosen ? "quiet" : large ? "strong" : "plain"}
        aria-pressed={isChosen}
        aria-label={`${isChosen ? "Chosen" : "Choose"} ${name}`}
        onClick={() => !isChosen && choose()}
      >
        {isChosen ? "Chosen" : "Choose"}
      </Button>
    </div>
  );
}

const sameSpeed = (a: number | undefined, b: number | undefined) =>
  Math.abs((a ?? 1) - (b ?? 1)) < 1e-6;

/** Limits of the place that a silent plate, or a silent job, leaves open. */
const PLACING: ReadonlySet<CheckCode> = new Set(OF_THE_PLACE);

/** What is to be known of one that may be chosen; what cannot be judged is said too, beside what is worse. */
function warningsOf(
  { fit, judgements, worst }: Chosen,
  job: JobDocument,
  units: UnitSystem,
): string[] {
  if (fit && fit.kind !== "ranked") return [];
  // Whether it may stand there at all comes before how it runs.
  const open = judgements.filter(
    ({ severity, code }) => severity === "unknown" && PLACING.has(code),
  );
  const worth = judgements.filter(
    ({ severity, code }) => severity === worst && code !== "wanted-flow",
  );
  const titles = [...open, ...worth].map((each) =>
    checkWords(each, job, units).title.toLowerCase(),
  );
  return [...new Set(titles)].slice(0, 3);
}

function timeOf({ run, fit }: Chosen, units: UnitSystem): string | undefined {
  if (!run || fit?.kind !== "ranked") return undefined;
  const { starts, dry, full, survives } = run;
  return [
    ...(dry === undefined ? [] : [`dry after ${formatDuration(dry)}`]),
    ...(full === undefined ? [] : [`full after ${formatDuration(full)}`]),
    ...(starts ? [`up to ${starts.most.toFixed(0)} starts an hour of ${starts.limit}`] : []),
    ...(survives === undefined ? [] : [`holds ${format(survives, "flow", units)}`]),
  ].join(", ");
}
