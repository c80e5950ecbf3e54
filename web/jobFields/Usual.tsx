import type { ComponentProps } from "react";
import { SHOWN, toUnit, unitOf } from "#contract/units/units.ts";
import { useUnits } from "../state/settings.ts";
import { JobQuantity } from "./JobQuantity.tsx";

type Props = Omit<Extract<ComponentProps<typeof JobQuantity>, { optional: true }>, "optional"> & {
  /** SI, what is taken while nothing is typed */
  usual: number;
};

/** An entry that may be left as it usually is: what is taken stands in it, and is said to be assumed. */
export function Usual({ usual, label, value, ...rest }: Props) {
  const { quantity, unit } = rest;
  const units = useUnits();
  // Three figures of what nobody measured are enough.
  const own = unitOf(quantity, unit ?? SHOWN[units][quantity]);
  const rounded = Number(toUnit(usual, own).toPrecision(3)) * own.factor + (own.offset ?? 0);
  return (
    <JobQuantity
      {...rest}
      optional
      label={value === undefined ? `${label} (assumed)` : label}
      value={value ?? rounded}
    />
  );
}
