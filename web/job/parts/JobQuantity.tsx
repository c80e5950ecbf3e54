import type { ComponentProps } from "react";
import { QuantityField } from "../../ui/QuantityField.tsx";
import { visit } from "../jobStore.ts";

/** An entry of the job on the bench: one visit is one step of undo. */
export function JobQuantity(props: ComponentProps<typeof QuantityField>) {
  return <QuantityField onVisit={visit} {...props} />;
}
