import { Button } from "../../../ui/Button.tsx";
import { legend, type PartProps } from "./part.ts";
import type { ReadingDraft } from "./readingDraft.ts";
import { ShutClock } from "./ShutClock.tsx";

const VALVES: Record<ReadingDraft["valve"], string> = {
  open: "Open",
  throttled: "Throttled",
  shut: "Shut",
};

/** How the discharge valve stood: throttled, a reading tells of the pump and not of the line. */
export function ValvePart({ draft, change, mayShut }: PartProps & { mayShut: boolean }) {
  return (
    <fieldset className="grid gap-2">
      <legend className={legend}>Discharge valve</legend>
      <div role="group" aria-label="Discharge valve" className="flex flex-wrap gap-1.5">
        {(Object.entries(VALVES) as [ReadingDraft["valve"], string][]).map(([valve, name]) => (
          <Button
            key={valve}
            look={draft.valve === valve ? "strong" : "plain"}
            aria-pressed={draft.valve === valve}
            disabled={valve === "shut" && !mayShut && draft.valve !== "shut"}
            onClick={() => change({ valve })}
          >
            {name}
          </Button>
        ))}
      </div>
      {draft.valve === "shut" && <ShutClock />}
    </fieldset>
  );
}
