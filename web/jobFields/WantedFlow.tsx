import { RANGES } from "#contract/documents/ranges.ts";
import { edit } from "../openJob/jobStore.ts";
import { JobQuantity } from "./JobQuantity.tsx";

/** What the job is there for: m³/s at the outlets. */
export function WantedFlow({
  label,
  wantedFlow,
}: {
  label: string;
  wantedFlow: number | undefined;
}) {
  return (
    <JobQuantity
      label={label}
      optional
      quantity="flow"
      range={RANGES.flow}
      value={wantedFlow}
      onChange={(wanted) =>
        // A flow that is typed is no longer the one the need was found from.
        edit(({ wantedFlow: _flow, need: _need, ...job }) =>
          wanted === undefined
            ? job
            : { ...job, wantedFlow: wanted, need: { kind: "typed", flow: wanted } },
        )
      }
    />
  );
}
