import type { PumpFamily, PumpInput } from "#contract/documents/pump.ts";
import type { Plate } from "./curveFromPlate.ts";

/** What an invented pump is made from: its name, its size, and what it differs in from others of its family. */
export interface Row extends Partial<Omit<PumpInput, "format" | "version" | "points" | "kind">> {
  id: string;
  maker: string;
  model: string;
  kind: PumpFamily;
  /** m³/s and m at best efficiency */
  best: [flow: number, head: number];
  /** numbers of its curve that its family does not set */
  plate?: Partial<Plate>;
}

/** What pumps of a family have in common. All of it is invented, in the proportions of real pumps of the kind. */
interface Family {
  drive: "electric" | "engine";
  submersible: boolean;
  rpm: number;
  /** shut-off head over the head at best efficiency, and run-out over the flow there */
  droop: number;
  runout: number;
  /** best efficiency of a large one, and m³/s by which two thirds of what a small one lacks is made up */
  efficiency: number;
  grows: number;
  /** power at shut-off over that at best efficiency */
  atShutOff: number;
  tolerance: PumpInput["tolerance"];
  /** m it lifts by suction, and what passes it, m, for 1 m³/s to the power ½ */
  lift?: number;
  passes?: number;
  /** money for a watt, and beside */
  price: [base: number, perWatt: number];
  /** kg, and for a watt */
  mass: [base: number, perWatt: number];
  startsPerHour?: number;
  /** as a part of the flow at best efficiency */
  leastFlow?: number;
  leastDepth?: number;
  immersion?: number;
  warmest: number;
  film?: number;
}

const WARM = 313.15;
const HOT = 333.15;

export const FAMILIES: Record<PumpFamily, Family> = {
  sump: {
    ...{ drive: "electric", submersible: true, rpm: 2850, droop: 1.5, runout: 1.6 },
    ...{ efficiency: 0.5, grows: 2.5e-3, atShutOff: 0.6, tolerance: "small", passes: 0.2 },
    ...{ price: [70, 0.19], mass: [3.5, 0.011], startsPerHour: 20, leastDepth: 0.1 },
    ...{ immersion: 7, warmest: WARM, film: 0.03 },
  },
  effluent: {
    ...{ drive: "electric", submersible: true, rpm: 2880, droop: 1.6, runout: 1.5 },
    ...{ efficiency: 0.48, grows: 4e-3, atShutOff: 0.6, tolerance: "2B", passes: 0.55 },
    ...{ price: [160, 0.33], mass: [10, 0.014], startsPerHour: 15, leastDepth: 0.18 },
    ...{ immersion: 10, warmest: WARM, film: 0.06 },
  },
  puddle: {
    ...{ drive: "electric", submersible: true, rpm: 2800, droop: 1.45, runout: 1.6 },
    ...{ efficiency: 0.36, grows: 1.5e-3, atShutOff: 0.6, tolerance: "small", passes: 0.06 },
    ...{ price: [60, 0.24], mass: [2.6, 0.008], startsPerHour: 20, leastDepth: 0.005 },
    ...{ immersion: 4, warmest: 308.15, film: 0.003 },
  },
  battery: {
    ...{ drive: "electric", submersible: true, rpm: 3200, droop: 1.75, runout: 1.5 },
    ...{ efficiency: 0.34, grows: 1.8e-3, atShutOff: 0.65, tolerance: "small", passes: 0.2 },
    ...{ price: [85, 0.5], mass: [1.9, 0.012], startsPerHour: 30, leastDepth: 0.06 },
    ...{ immersion: 3, warmest: 308.15, film: 0.03 },
  },
  transfer: {
    ...{ drive: "electric", submersible: false, rpm: 2900, droop: 1.3, runout: 1.6 },
    ...{ efficiency: 0.66, grows: 2.2e-3, atShutOff: 0.6, tolerance: "2B", lift: 7, passes: 0.07 },
    ...{ price: [110, 0.2], mass: [6, 0.012], startsPerHour: 20, leastFlow: 0.1, warmest: HOT },
  },
  jet: {
    ...{ drive: "electric", submersible: false, rpm: 2850, droop: 1.6, runout: 1.5 },
    ...{
      efficiency: 0.34,
      grows: 1e-3,
      atShutOff: 0.75,
      tolerance: "small",
      lift: 8,
      passes: 0.03,
    },
    ...{ price: [120, 0.17], mass: [7, 0.01], startsPerHour: 20, leastFlow: 0.1, warmest: WARM },
  },
  well: {
    ...{ drive: "electric", submersible: true, rpm: 2870, droop: 1.4, runout: 1.5 },
    ...{ efficiency: 0.6, grows: 8e-4, atShutOff: 0.6, tolerance: "small", passes: 0.03 },
    ...{ price: [240, 0.42], mass: [7, 0.009], startsPerHour: 20, leastFlow: 0.15 },
    ...{ leastDepth: 0.5, immersion: 120, warmest: 303.15 },
  },
  circulation: {
    ...{ drive: "electric", submersible: false, rpm: 3800, droop: 1.45, runout: 1.7 },
    // Water has to run to it: it does not draw any up.
    ...{
      efficiency: 0.55,
      grows: 1.2e-3,
      atShutOff: 0.5,
      tolerance: "small",
      lift: 0,
      passes: 0.03,
    },
    ...{ price: [150, 0.9], mass: [2.5, 0.02], warmest: HOT },
  },
  "engine-pressure": {
    ...{ drive: "engine", submersible: false, rpm: 3600, droop: 1.38, runout: 1.5 },
    ...{ efficiency: 0.55, grows: 4e-3, atShutOff: 0.6, tolerance: "3B", lift: 7.6, passes: 0.06 },
    ...{ price: [310, 0.16], mass: [14, 0.0055], warmest: WARM },
  },
  "engine-trash": {
    ...{ drive: "engine", submersible: false, rpm: 3600, droop: 1.6, runout: 1.55 },
    ...{ efficiency: 0.52, grows: 6e-3, atShutOff: 0.6, tolerance: "3B", lift: 7.6, passes: 0.24 },
    ...{ price: [380, 0.19], mass: [22, 0.0075], warmest: WARM },
  },
};
