import type { ComponentProps } from "react";
import { JobQuantity } from "./JobQuantity.tsx";

type Props = Omit<Extract<ComponentProps<typeof JobQuantity>, { optional: true }>, "optional"> & {
  /** SI, what is taken while nothing is typed */
  usual: number;
};

/** An entry that may be left as it usually is: what is taken stands in it, and is said to be assumed. */
export function Usual({ usual, label, value, ...rest }: Props) {
  return (
    <JobQuantity
      {...rest}
      optional
      label={value === undefined ? `${label} (assumed)` : label}
      value={value ?? usual}
    />
  );
}
