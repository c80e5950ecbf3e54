import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { Button, IconButton } from "../../ui/Button.tsx";
import { Plus, Trash2 } from "../../ui/icons.ts";
import { setWell } from "./edits.ts";

/** What lines the well beside its first casing, and whether it has a screen. */
export function Casings({ job, deepest }: { job: JobDocument; deepest: number }) {
  const { casings = [], screen, bottom } = job.well ?? {};
  const more = casings.slice(1);
  return (
    <div className="grid gap-2 pt-2">
      {more.map((own, k) => {
        const i = k + 1;
        const set = (patch: Partial<typeof own>) =>
          setWell({ casings: casings.with(i, { ...own, ...patch }) });
        return (
          <div key={i} className="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2">
            <JobQuantity
              label={`Liner ${i}, across`}
              quantity="diameter"
              range={RANGES.bore}
              value={own.bore}
              onChange={(bore) => set({ bore })}
            />
            <JobQuantity
              label="from"
              quantity="length"
              range={RANGES.depthOrNone}
              value={own.from}
              onChange={(from) => set({ from })}
            />
            <JobQuantity
              label="to"
              quantity="length"
              range={RANGES.depth}
              value={own.to}
              onChange={(to) => set({ to })}
            />
            <IconButton
              label={`Take liner ${i} out`}
              onClick={() => setWell({ casings: casings.toSpliced(i, 1) })}
            >
              <Trash2 size={16} aria-hidden />
            </IconButton>
          </div>
        );
      })}
      <div className="flex flex-wrap gap-2">
        <Button
          disabled={casings.length === 0 || casings.length >= 20}
          onClick={() =>
            setWell({
              casings: [
                ...casings,
                {
                  bore: (casings.at(-1)?.bore ?? 0.15) * 0.67,
                  from: Math.round(0.4 * deepest),
                  to: bottom ?? deepest,
                },
              ],
            })
          }
        >
          <Plus size={16} aria-hidden /> A narrower casing or liner
        </Button>
        {!screen && (
          <Button
            onClick={() =>
              setWell({
                screen: {
                  from: Math.round(0.85 * (bottom ?? deepest)),
                  to: Math.round(0.98 * (bottom ?? deepest)),
                },
              })
            }
          >
            <Plus size={16} aria-hidden /> A screen
          </Button>
        )}
      </div>
      <div className="max-w-40">
        <JobQuantity
          label="Casing’s top over level 0"
          optional
          quantity="length"
          range={RANGES.elevation}
          value={job.well?.top}
          onChange={(top) => setWell({ top })}
        />
      </div>
      <p className="text-[13px] text-soft">
        Slotted all the way up is no screen: leave it out, and fit a sleeve so that water passes the
        motor.
      </p>
    </div>
  );
}
