import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { JobQuantity } from "../../jobFields/JobQuantity.tsx";
import { Button } from "../../ui/Button.tsx";
import { Plus } from "../../ui/icons.ts";
import { Rows } from "../../ui/Rows.tsx";
import { setWell } from "./edits.ts";

/** What lines the well beside its first casing, and whether it has a screen. */
export function Casings({ job, deepest }: { job: JobDocument; deepest: number }) {
  const { casings = [], screen, bottom } = job.well ?? {};
  const more = casings.slice(1);
  return (
    <div className="grid gap-2 pt-2">
      <Rows
        rows={more}
        onChange={(next) => setWell({ casings: [...casings.slice(0, 1), ...next] })}
        columns="grid-cols-[1fr_1fr_1fr_auto]"
        called={(_, i) => `liner ${i + 1}`}
        add={{
          name: "A narrower casing or liner",
          disabled: casings.length === 0 || casings.length >= 20,
          row: () => ({
            bore: (casings.at(-1)?.bore ?? 0.15) * 0.67,
            from: Math.round(0.4 * deepest),
            to: bottom ?? deepest,
          }),
        }}
        beside={
          !screen && (
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
          )
        }
      >
        {(own, set, i) => (
          <>
            <JobQuantity
              label={`Liner ${i + 1}, across`}
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
          </>
        )}
      </Rows>
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
