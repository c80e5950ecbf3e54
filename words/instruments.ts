import type { FirmDocument } from "#contract/documents/firm.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { Unfit } from "#core/measurement/reach.ts";

/** "Drum, 100 L, ± 1 %, checked 2026-03-01" */
export function instrumentLine(
  {
    name,
    fullScale,
    volume,
    greatestFlow,
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
    ...(greatestFlow === undefined ? [] : [`up to ${format(greatestFlow, "flow", system)}`]),
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

/** Why a reading is not taken with an instrument, and what to take instead. */
export function unfitWords(unfit: Unfit, system: UnitSystem): string {
  switch (unfit.of) {
    case "gauge": {
      const most = format(unfit.most, "pressure", system);
      return `This gauge ends at ${format(unfit.fullScale, "pressure", system)}, and the pump makes ${most} there with the line shut: it would be ruined, and may burst. Fit one that reads over ${most}.`;
    }
    case "off-the-dial":
      return `That is past the gauge’s last mark, ${format(unfit.fullScale, "pressure", system)}: let the pressure off and fit one that reads further.`;
    case "bucket":
      return `Filled in ${unfit.seconds.toFixed(1)} s nobody can time it: take a drum, count a set time, or fit a meter.`;
    case "meter":
      return `That is past what this meter is made for, ${format(unfit.greatestFlow, "flow", system)}: take another, or a drum and watch.`;
  }
}
