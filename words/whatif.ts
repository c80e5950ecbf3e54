import { format, formatSize } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { OfferSaid } from "#model/whatif/offers.ts";
import { formatDuration } from "./simulation.ts";

/** The label of a what-if, as it stands over its column. */
export function offerLabel(offer: OfferSaid, system: UnitSystem): string {
  switch (offer.kind) {
    case "bigger-pipe":
      return `${offer.to} for ${offer.from}`;
    case "second-gun":
      return "Second gun, 20 m on";
    case "one-gun":
      return "One gun only";
    case "trash-pump":
      return `Trash pump: ${offer.name}`;
    case "pressure-pump":
      return `Pressure pump: ${offer.name}`;
    case "second-pump":
      return "Second pump beside it";
    case "half-and-booster":
      return `${offer.name} to an open tank, ${offer.booster} as booster`;
    case "other-pump":
      return offer.name;
    case "float-higher":
      return `Floats ${formatSize(offer.by, system, "nearest")} higher`;
    case "no-check":
      return "No check valve";
    case "power-cut":
      return `Power gone for ${formatDuration(offer.to - offer.from)}`;
    case "no-power-cut":
      return "Power stays";
    case "water-higher":
      return `Outside water up ${format(offer.by, "length", system)}`;
    case "more-rain":
      return `${offer.times} times the rain`;
  }
}
