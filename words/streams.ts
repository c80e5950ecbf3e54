import type { BoxTruth } from "#contract/streams/stream.ts";
import { format, formatPercent } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";

/** What was hidden in a simulated installation. */
export function truthWords({ strength, bore, level }: BoxTruth, system: UnitSystem): string {
  const wrong = [
    ...(strength < 1 ? [`the pump made ${formatPercent(strength)} of its published heads`] : []),
    ...(bore < 1 ? [`the longest run was narrowed to ${formatPercent(bore)} of its bore`] : []),
    ...(level !== 0
      ? [
          `the water stood ${format(Math.abs(level), "length", system)} ${level < 0 ? "below" : "above"} its usual level`,
        ]
      : []),
  ];
  return wrong.length === 0 ? "Nothing was wrong in it." : `Hidden in it: ${wrong.join(", and ")}.`;
}
