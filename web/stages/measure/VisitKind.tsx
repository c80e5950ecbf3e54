import { Button } from "../../ui/Button.tsx";
import type { PartProps } from "./reading/part.ts";
import { CONFIGURATIONS } from "./todaysTest.ts";

/** Before anything was touched, or after: the two are judged apart and held against each other. */
export function VisitKind({ draft, change }: PartProps) {
  return (
    <div role="group" aria-label="This visit" className="flex flex-wrap gap-1.5">
      {(["", "as-found", "as-left"] as const).map((configuration) => (
        <Button
          key={configuration}
          look={draft.configuration === configuration ? "strong" : "quiet"}
          aria-pressed={draft.configuration === configuration}
          onClick={() => change({ configuration })}
        >
          {CONFIGURATIONS[configuration]}
        </Button>
      ))}
    </div>
  );
}
