import { format } from "#contract/units/format.ts";
import type { Answers } from "#core/simulation/answers.ts";
import { formatDuration } from "#words/simulation.ts";
import { localDay } from "../lib/clock.ts";
import { edit, useJobStore } from "../openJob/jobStore.ts";
import { useUnits } from "../state/settings.ts";

/** The water let down day by day, each ticked when the ground outside has followed. */
export function Stages({ stages }: { stages: NonNullable<Answers["stages"]> }) {
  const units = useUnits();
  // As ticked, where the run beside it follows a moment later.
  const done = useJobStore((s) => s.job.overTime?.lowering?.done) ?? [];
  const tick = (to: number, on: string | undefined) =>
    edit((j) => {
      const { lowering } = j.overTime ?? {};
      if (!lowering) return j;
      const others = (lowering.done ?? []).filter((own) => !isAt(own.to, to));
      const all = on ? [...others, { to, on }] : others;
      return { ...j, overTime: { ...j.overTime, lowering: { ...lowering, done: all } } };
    });
  return (
    <section aria-label="Stages">
      <h2 className="text-[19px]">Let down in stages</h2>
      <ol className="border-t border-rule">
        {stages.map(({ to, pumping }, i) => {
          const ticked = done.find((own) => isAt(own.to, to));
          return (
            <li key={to} className="border-b border-rule">
              <label className="target flex items-center gap-3 py-1">
                <input
                  type="checkbox"
                  className="size-6 shrink-0"
                  checked={ticked !== undefined}
                  onChange={(event) =>
                    tick(to, event.target.checked ? localDay(new Date()) : undefined)
                  }
                />
                <span className="min-w-0 flex-1">
                  Day {i + 1}: down to {format(to, "length", units)}, {formatDuration(pumping)} of
                  pumping; then wait until the water outside is down too
                </span>
                {ticked && <span className="text-[13px] text-soft">{ticked.on}</span>}
              </label>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

/** Levels of a stage are the same while they differ by less than anybody sees. */
const isAt = (a: number, b: number) => Math.abs(a - b) < 5e-3;
