import { useDeferredValue, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import type { JobDocument } from "#contract/documents/job.ts";
import type { JobKindId } from "#contract/documents/jobKinds.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { inBareUnit, type Measure } from "#model/kinds/kind.ts";
import {
  beginJob,
  clashOf,
  KINDS,
  LINE_KINDS,
  stillToMeasure,
  usualOf,
} from "#model/kinds/kinds.ts";
import { type ArrangementOfDocuments, withArrangement } from "#model/selection/arrangement.ts";
import { JOB_KIND_NAMES, nameFor } from "#words/kinds.ts";
import { DRAWN } from "../drawings/drawings.tsx";
import { PlaceFields } from "../jobFields/PlaceFields.tsx";
import { useSolution } from "../openJob/useSolution.ts";
import { useSettings, useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { TextField } from "../ui/Fields.tsx";
import { Empty } from "../ui/Notices.tsx";
import { QuantityField } from "../ui/QuantityField.tsx";
import { useRefused } from "../ui/refusals.ts";
import { Drawing } from "./NewPage.tsx";
import { SketchField } from "./SketchField.tsx";
import { SketchVerdict, VerdictStrip } from "./SketchVerdict.tsx";
import { isBegun } from "./sketchDraft.ts";
import { CARDS, clashWords, DEMANDS } from "./sketchWords.ts";
import { startJob } from "./startJob.ts";
import { useSketch } from "./useSketch.ts";

/** It is as it was drawn until something was typed on it. */
export const prepare = async (_: URLSearchParams, kind = ""): Promise<boolean> => !isBegun(kind);

/** The sketch that begins a job: the dimensions of its drawing are the fields. */
export default function SketchPage() {
  const { kind } = useParams();
  const known = LINE_KINDS.find((each) => each === kind);
  return known ? (
    <Card key={known} kind={known} />
  ) : (
    <Empty title="There is no such kind of job">
      <Link className="underline" to="/new">
        Choose one
      </Link>
    </Empty>
  );
}

function Card({ kind }: { kind: JobKindId }) {
  const units = useUnits();
  const navigate = useNavigate();
  const { draft, change, type, entries, sketch, forget, clear } = useSketch(kind);
  const [problem, setProblem] = useState<string>();
  const [starting, setStarting] = useState(false);
  const { demands, asks, offers } = KINDS[kind];
  const { fields, note } = CARDS[kind];
  const usual = usualOf(kind, units);
  // The key is painted before anything is worked out from it.
  const settled = useDeferredValue(sketch);
  // Its name is made when it is started: a browser's own way of writing a date takes a tenth of a second to be ready.
  const job = useMemo(
    () => beginJob(settled, JOB_KIND_NAMES[kind].says, units),
    [settled, kind, units],
  );
  const { solved } = useSolution(job);
  const clash = clashOf(sketch, units);
  const asked = [...asks(draft.demand), ...offers(draft.demand)];
  const refused = useRefused();
  const isWrong =
    clash !== undefined ||
    refused !== undefined ||
    asked.some((each) => entries[each].problem !== undefined);
  const site = { ...job.site, ...draft.site };
  const rise = sketch.typed.rise ?? usual.rise ?? 0;
  const label = (measure: Measure) => {
    const [words = measure] = fields[measure] ?? [];
    return measure === "riseTime" ? `${words} ${inBareUnit("rise", rise, units)}` : words;
  };

  // What was typed last counts, worked out or not.
  async function start(arrangement?: ArrangementOfDocuments): Promise<void> {
    if (isWrong) return setProblem("Put right what is marked first: nothing typed is lost.");
    setProblem(undefined);
    setStarting(true);
    try {
      const begun = beginJob(sketch, nameFor(kind, sketch.place, new Date()), units);
      const id = await startJob(withChosen(begun, arrangement));
      forget();
      await navigate(`/jobs/${id}`);
    } catch (error) {
      setStarting(false);
      setProblem(`Not started: ${(error as Error).message} What you typed stays here.`);
    }
  }

  return (
    <form
      className="relative h-full max-lg:flex max-lg:flex-col max-lg:overflow-y-auto max-lg:*:shrink-0 lg:grid lg:grid-cols-[auto_minmax(0,1fr)_340px]"
      onSubmit={(event) => {
        event.preventDefault();
        void start();
      }}
    >
      <div className="relative p-4 max-sm:p-2 lg:overflow-y-auto">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-2">
          <h1 className="text-3xl max-sm:text-2xl">{JOB_KIND_NAMES[kind].says}</h1>
          {demands.length > 1 && (
            <div role="group" aria-label="How the flow is known" className="flex">
              {demands.map((each) => (
                <Button
                  key={each}
                  look={draft.demand === each ? "strong" : "plain"}
                  aria-pressed={draft.demand === each}
                  className="rounded-none first:rounded-l last:rounded-r"
                  onClick={() => change({ demand: each })}
                >
                  {DEMANDS[each]}
                </Button>
              ))}
            </div>
          )}
          {Object.keys(draft.typed).length > 0 && (
            <Button look="quiet" className="text-soft" onClick={clear}>
              Clear
            </Button>
          )}
        </div>
        <div
          className="relative w-full shrink-0 rounded border border-rule bg-sheet sm:w-[min(32rem,calc((100dvh-8.5rem)*0.82))] lg:max-w-[calc(100vw-36rem)]"
          style={{ aspectRatio: `${DRAWN.width} / ${DRAWN.height}` }}
        >
          <Drawing {...{ kind }} className="size-full" />
          {asks(draft.demand).map((measure, i) => {
            const [, x, y] = fields[measure] ?? ["", 0, 0];
            return (
              <SketchField
                key={measure}
                {...{ measure, x, y }}
                label={label(measure)}
                entry={entries[measure]}
                clash={clash?.at === measure ? clashWords(clash, units) : undefined}
                autoFocus={i === 0}
                onType={(text) => type(measure, text)}
              />
            );
          })}
        </div>
      </div>
      <div className="grid content-start gap-3 p-4 max-lg:order-3 max-sm:p-2 lg:overflow-y-auto lg:pl-0 lg:pt-15">
        {offers(draft.demand).length > 0 && (
          <fieldset className="grid grid-cols-2 gap-2">
            <legend className="text-[13px] text-soft">Taken so until you know better</legend>
            {offers(draft.demand).map((measure) => (
              <SketchField
                key={measure}
                {...{ measure }}
                label={fields[measure]?.[0] ?? measure}
                entry={entries[measure]}
                usual={usual[measure]}
                clash={undefined}
                onType={(text) => type(measure, text)}
              />
            ))}
          </fieldset>
        )}
        <Steps entries={Object.values(entries).map(({ text }) => text)} />
        <PlaceFields
          site={site}
          onChange={(next) => change({ site: { ...draft.site, ...next } })}
        />
        <div className="grid grid-cols-2 gap-2">
          <TextField
            label="Place"
            value={draft.place}
            maxLength={80}
            onChange={(place) => change({ place })}
          />
          <TextField
            label="Customer"
            value={draft.customer}
            maxLength={120}
            onChange={(customer) => change({ customer })}
          />
        </div>
        <p className="text-[14px] text-soft">{note}</p>
      </div>
      <SketchVerdict
        {...{ job, solved, problem, isWrong, starting }}
        missing={stillToMeasure(sketch).map(label)}
        behind={settled !== sketch}
        onChoose={(arrangement) => void start(arrangement)}
      />
      <VerdictStrip {...{ solved, isWrong }} missing={stillToMeasure(sketch).length} />
    </form>
  );
}

/** What a pace or a brick is taken for, where one was typed. */
function Steps({ entries }: { entries: readonly string[] }) {
  const { steps, setStep } = useSettings();
  const used = (["pace", "brick"] as const).filter((step) =>
    entries.some((text) => (step === "pace" ? /pace|step/i : /brick|course/i).test(text)),
  );
  if (used.length === 0) return null;
  return (
    <div className="grid grid-cols-2 gap-2">
      {used.map((step) => (
        <QuantityField
          key={step}
          label={step === "pace" ? "One pace" : "One brick with its joint"}
          quantity="length"
          range={{ ...RANGES.depth, max: 2, what: "It" }}
          value={steps[step]}
          onChange={(length) => setStep(step, length)}
        />
      ))}
    </div>
  );
}

/** The job with what was chosen in the first place for a pump. */
function withChosen(job: JobDocument, arrangement: ArrangementOfDocuments | undefined) {
  const place = job.path.find(({ kind }) => kind === "pump");
  return (arrangement && place && withArrangement(job, place.id, arrangement)) ?? job;
}
