import type { ComponentProps } from "react";
import { visit } from "../openJob/jobStore.ts";
import { QuantityField } from "../ui/QuantityField.tsx";

/** An entry of the job on the bench: one visit is one step of undo. */
export function JobQuantity(props: ComponentProps<typeof QuantityField>) {
  return <QuantityField onVisit={visit} {...props} />;
}
