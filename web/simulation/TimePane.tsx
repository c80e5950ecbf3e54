import { useEffect, useMemo, useState } from "react";
import type { BodyOfWater, JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import { findingsIn } from "#core/finding/registry.ts";
import { lastAtOrBefore } from "#core/numeric/sorted.ts";
import { hasPump } from "#core/simulation/runningSet.ts";
import type { RunResult } from "#model/simulation/result.ts";
import { itemName } from "#words/items.ts";
import { answerLines, type Called, clockOf, eventWords } from "#words/simulation.ts";
import { useFigureDerivation } from "../derivation/FigureDerivation.tsx";
import { BodyDrawing } from "../drawings/BodyDrawing.tsx";
import { Found, HeadedFinding } from "../findings/Found.tsx";
import { wallClock } from "../lib/clock.ts";
import { useResult } from "../openJob/useResult.ts";
import { useUnits } from "../state/settings.ts";
import { Button } from "../ui/Button.tsx";
import { Figure } from "../ui/Figure.tsx";
import { Loading, NotWorkedOut } from "../ui/Notices.tsx";
import { EventList } from "./EventList.tsx";
import { Range } from "./Range.tsx";
import { RunDerivation } from "./RunDerivation.tsx";
import { Stages } from "./Stages.tsx";
import { Strip } from "./Strip.tsx";

/** The job over time: what is to be said of it, the strip, its figures and everything that happens. */
export default function TimePane({ job }: { job: JobDocument }) {
  const { kind, value, stale, error, again } = useResult("run", { job });
  if (kind === "failed") {
    return <NotWorkedOut {...{ error, again }} className="p-3" />;
  }
  if (!value) return <Loading what="the run" />;
  switch (value.kind) {
    case "still":
      return (
        <p className="p-4 text-soft">
          Say under “Bodies of water” how large the water is that the pump stands in, or that it
          fills: then this shows how long it lasts, how often the pump starts, and when it runs
          over.
        </p>
      );
    case "no-line":
      return (
        <p className="p-4 text-soft">
          The line cannot be solved as it stands; what stops it is beside the section. Choose a pump
          there, or say how much water is wanted.
        </p>
      );
    case "wrong":
      return (
        <ul aria-label="What is wrong over time" className="p-3">
          {value.troubles.flatMap((trouble) =>
            findingsIn("run-trouble", trouble).map((finding) => (
              <li key={`${trouble.at} ${trouble.code}`} className="py-1">
                <Found finding={finding} />
              </li>
            )),
          )}
        </ul>
      );
    case "run":
      return <Run run={value} stale={stale} job={job} />;
  }
}

function Run({ run, stale, job }: { run: RunResult; stale: boolean; job: JobDocument }) {
  const units = useUnits();
  const { timeline, answers, span, troubles, pumps, bodies, watched } = run;
  const show = useFigureDerivation("time");
  const called = useMemo(
    (): Called => ({
      pump: (k) => itemName(job.path, pumps[k] ?? "", units),
      body: (k) => bodyName(job.bodies, bodies[k]?.id),
      system: units,
    }),
    [job.path, job.bodies, pumps, bodies, units],
  );
  const [marker, setMarker] = useState(0);
  const at = Math.min(marker, span);
  const { playing, toggle } = usePlay(span, at, setMarker);
  const index = useMemo(() => lastAtOrBefore(timeline.times, at), [timeline.times, at]);
  const own = bodies[watched];
  const body = job.bodies?.find(({ id }) => id === own?.id);
  const level = levelAt(run, index, at, watched);
  const running = pumps.flatMap((_, k) =>
    hasPump(timeline.running[index] as number, k) ? [called.pump(k)] : [],
  );
  return (
    <div className={`grid gap-3 p-3 ${stale ? "opacity-60" : ""}`} aria-busy={stale}>
      <ul aria-label="What is said of it" className="grid gap-2">
        {answers.findings.map((finding, i) => (
          <li key={i} className="text-[15px]">
            <HeadedFinding finding={finding} body={called.body} />
          </li>
        ))}
        {troubles.flatMap((trouble) =>
          findingsIn("run-trouble", trouble).map((finding) => (
            <li key={trouble.at} className="text-[15px]">
              <Found finding={finding} />
            </li>
          )),
        )}
      </ul>
      {run.asked && (
        <p className="text-[14px] text-soft">
          No pump is chosen yet: one is taken that moves what is wanted at every level.
        </p>
      )}
      <div className="flex items-center gap-3">
        {body && own && <BodyDrawing body={body} told={own} level={level} />}
        <div className="min-w-0 flex-1">
          <p className="plate text-[28px] leading-tight" data-testid="marker">
            {clockOf(at)}
          </p>
          <p>
            {called.body(watched)} at{" "}
            <span className="font-medium">{format(level, "length", units)}</span>
            {(run.inflow[index] ?? 0) > 0 && (
              <>
                ;{" "}
                <span className="font-medium">{format(run.inflow[index] ?? 0, "flow", units)}</span>{" "}
                come in
              </>
            )}
            ; {running.length > 0 ? `${running.join(" and ")} running` : "no pump runs"}
          </p>
          <Button className="mt-1" onClick={toggle}>
            {playing ? "Pause" : "Play"}
          </Button>
        </div>
      </div>
      <Strip
        {...{ run, at }}
        pumpName={called.pump}
        bodyName={called.body}
        onAt={(time) => setMarker(time)}
      />
      {answers.dry && !answers.stages && (
        <p className="text-[15px]">Begun now, it is dry {clockAt(answers.dry.at)}.</p>
      )}
      <dl className="grid grid-cols-2 gap-x-4 gap-y-2" data-testid="over-time">
        {answerLines(answers, units).map(({ name, value, note, worked }) => (
          <Figure key={name} {...{ name, value, note }} onShow={worked && (() => show(worked))} />
        ))}
      </dl>
      <Range job={job} />
      {answers.stages && answers.stages.length > 0 && <Stages stages={answers.stages} />}
      <RunDerivation answers={answers} />
      <section aria-label="Events">
        <h2 className="text-[19px]">
          What happens <span className="text-soft">{timeline.events.length}</span>
        </h2>
        <EventList
          events={timeline.events}
          wordsOf={(event) => eventWords(event, called)}
          onAt={setMarker}
        />
      </section>
    </div>
  );
}

/** The clock so many seconds from now: "at 16:40", or with the day where that is another. */
function clockAt(seconds: number): string {
  const now = new Date();
  const then = new Date(now.getTime() + seconds * 1000);
  const clock = `at ${wallClock(then)}`;
  if (then.toDateString() === now.toDateString()) return clock;
  return `${clock} on ${then.toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" })}`;
}

/** s a whole run takes to be played */
const PLAYED_IN = 24;

/** Moves the marker on with the clock; a run that is at its end begins again. */
function usePlay(span: number, at: number, setAt: (time: (before: number) => number) => void) {
  const [playing, setPlaying] = useState(false);
  useEffect(() => {
    if (!playing) return;
    let last: number | undefined;
    let frame = requestAnimationFrame(function step(now) {
      const passed = last === undefined ? 0 : (now - last) / 1000;
      last = now;
      setAt((before) => Math.min(before + (span * passed) / PLAYED_IN, span));
      frame = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, span, setAt]);
  useEffect(() => {
    if (playing && at >= span) setPlaying(false);
  }, [playing, at, span]);
  return {
    playing,
    toggle: () => {
      if (!playing && at >= span) setAt(() => 0);
      setPlaying(!playing);
    },
  };
}

function levelAt({ timeline }: RunResult, index: number, time: number, body: number): number {
  const { times, levels } = timeline;
  const [t0, t1] = [times[index] as number, times[index + 1]];
  const z0 = levels[index]?.[body] as number;
  const z1 = levels[index + 1]?.[body];
  if (t1 === undefined || z1 === undefined || t1 <= t0) return z0;
  return z0 + ((z1 - z0) * (time - t0)) / (t1 - t0);
}

function bodyName(bodies: readonly BodyOfWater[] = [], id: string | undefined): string {
  const found = bodies.findIndex((body) => body.id === id);
  return bodies[found]?.name || `Water ${found + 1}`;
}
