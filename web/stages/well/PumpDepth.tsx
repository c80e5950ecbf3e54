import { useRef } from "react";
import type { JobDocument } from "#contract/documents/job.ts";
import { RANGES } from "#contract/documents/ranges.ts";
import { pumpDepth, withPumpDepth } from "#model/well/settle.ts";
import { edit, visit } from "../../openJob/jobStore.ts";
import { QuantityField } from "../../ui/QuantityField.tsx";

/**
 * How deep the intake hangs; the drop pipe goes with it. Each key counts from the job as it stood when the entry was
 * entered, so that a half-typed depth leaves nothing of itself in the pipe.
 */
export function PumpDepth({ job, label }: { job: JobDocument; label: string }) {
  const before = useRef<JobDocument>(undefined);
  return (
    <QuantityField
      label={label}
      quantity="length"
      range={RANGES.depth}
      value={pumpDepth(job)}
      onVisit={(inside) => {
        before.current = inside ? job : undefined;
        visit(inside);
      }}
      onChange={(depth) =>
        edit((j) => {
          const { source, path, site } = withPumpDepth(before.current ?? j, depth);
          return { ...j, source, path, site };
        })
      }
    />
  );
}
