import type { FirmDocument } from "#contract/documents/firm.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";

/** "Drum, 100 L, ± 1 %, checked 2026-03-01" */
export function instrumentLine(
  {
    name,
    fullScale,
    volume,
    tolerance,
    checkedOn,
    kind,
  }: NonNullable<FirmDocument["instruments"]>[number],
  system: UnitSystem,
): string {
  return [
    name,
    ...(volume === undefined ? [] : [format(volume, "volume", system)]),
    ...(fullScale === undefined ? [] : [`to ${format(fullScale, "pressure", system)}`]),
    ...(tolerance === undefined
      ? []
      : [
          kind === "gauge"
            ? `class ${(tolerance * 100).toFixed(1)}`
            : `± ${formatPercent(tolerance, 1)}`,
        ]),
    ...(checkedOn ? [`checked ${checkedOn}`] : []),
  ].join(", ");
}
