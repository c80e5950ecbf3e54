import type { JobDocument } from "#contract/documents/job.ts";
import { SWEEP_POINTS } from "#core/measurement/sweep.ts";
import type { SweepState } from "#model/measurement/fieldTests.ts";
import { nextPointWords } from "#words/fieldTests.ts";
import { useUnits } from "../../state/settings.ts";
import { Button } from "../../ui/Button.tsx";
import { TriangleAlert } from "../../ui/icons.ts";
import type { PartProps } from "./reading/part.ts";

/** Where the next point of a sweep is best taken, and how far the valve may go. */
export function SweepCard({
  sweep,
  needle,
  job,
  draft,
  change,
}: PartProps & {
  sweep: SweepState;
  /** Pa the gauge will show there */
  needle: number | undefined;
  job: JobDocument;
}) {
  const units = useUnits();
  const { next, allowed, taken } = sweep;
  const { title, sentence, caution } = nextPointWords(next, allowed, job.path, needle, units);
  const valve =
    next.kind === "throttle" ? "throttled" : next.kind === "shut" ? "shut" : ("open" as const);
  return (
    <section
      aria-label="Next point"
      className="grid gap-1 rounded border border-rule bg-sheet p-2.5"
      data-next={next.kind}
    >
      <p className="flex items-center justify-between gap-2 text-[13px] text-soft">
        <span>Next point of a sweep</span>
        <span role="img" aria-label={`${taken} of ${SWEEP_POINTS} points taken`}>
          {"●".repeat(Math.min(taken, SWEEP_POINTS))}
          {"○".repeat(Math.max(SWEEP_POINTS - taken, 0))}
        </span>
      </p>
      <p className="plate text-2xl leading-tight">{title}</p>
      <p className="text-[14px]">{sentence}</p>
      {caution && (
        <p className="flex items-start gap-1.5 text-[14px] font-medium text-signal">
          <TriangleAlert size={17} className="mt-0.5 shrink-0" aria-hidden />
          {caution}
        </p>
      )}
      {next.kind !== "done" && draft.valve !== valve && (
        <div>
          <Button onClick={() => change({ valve })}>Valve: {valve}</Button>
        </div>
      )}
    </section>
  );
}
