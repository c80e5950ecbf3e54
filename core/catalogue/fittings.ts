/**
 * Fittings by the length of straight pipe that would take the same head, in diameters (L/D), or by a
 * loss coefficient K that does not depend on size.
 *
 * Source of the L/D column: the resistance tables of Crane Technical Paper 410, from memory.
 * Entrances and the free or submerged exit: the customary textbook coefficients, same source.
 */
export interface FittingStock {
  id: string;
  label: string;
  group: "bend" | "tee" | "valve" | "check" | "coupling" | "strainer" | "entrance";
  resistance:
    | { kind: "diameters"; diameters: number }
    | { kind: "coefficient"; k: number }
    /** a short throat of this fraction of the pipe's bore: narrowing and widening again */
    | { kind: "throat"; boreRatio: number }
    /** eases the change of bore to the next pipe; the whole angle of its cone in degrees */
    | { kind: "taper"; angle: number };
  /**
   * Velocity in m/s below which the disc of a check or foot valve flutters instead of staying open,
   * for clean water.
   */
  opensFullyAt?: number;
  /** goes up and down with the water and keeps itself covered */
  floats?: boolean;
  /** the pocket a submersible lies in, so that it draws through a pipe; its own size is its bore */
  sleeve?: boolean;
  /** how a valve's loss grows as it is shut; absent where nothing can be shut */
  throttles?: "gate" | "plug" | "linear";
  source: string;
}

const TABLE = "Crane TP 410 resistance table, from memory";
const PRACTICE = "Common practice, no source";

/** 35√v and 15√v in ft/s with v in ft³/lb, for water at 62.4 lb/ft³; from the same table. */
const SWING_OPENS = 35 * Math.sqrt(1 / 62.4) * 0.3048;
const POPPET_OPENS = 15 * Math.sqrt(1 / 62.4) * 0.3048;

function byDiameters(
  group: FittingStock["group"],
  id: string,
  label: string,
  diameters: number,
  opensFullyAt?: number,
  source = TABLE,
): FittingStock {
  const base = { id, label, group, source } as const;
  const resistance = { kind: "diameters", diameters } as const;
  return opensFullyAt === undefined
    ? { ...base, resistance }
    : { ...base, resistance, opensFullyAt };
}

function byCoefficient(
  group: FittingStock["group"],
  id: string,
  label: string,
  k: number,
  source = TABLE,
): FittingStock {
  return { id, label, group, resistance: { kind: "coefficient", k }, source };
}

export const FITTING_STOCK: readonly FittingStock[] = [
  byDiameters("bend", "elbow-90", "Elbow 90°", 30),
  byDiameters("bend", "elbow-90-long", "Elbow 90°, long radius", 14),
  byDiameters("bend", "elbow-45", "Elbow 45°", 16),
  byDiameters("bend", "return-bend", "Return bend 180°", 50),
  byDiameters("tee", "tee-run", "Tee, straight through", 20),
  byDiameters("tee", "tee-branch", "Tee, through the branch", 60),
  byDiameters("tee", "wye-run", "Wye, straight through", 12, undefined, PRACTICE),
  byDiameters("tee", "wye-branch", "Wye, through the branch", 35, undefined, PRACTICE),
  { ...byDiameters("valve", "gate-valve", "Gate valve", 8), throttles: "gate" },
  { ...byDiameters("valve", "ball-valve", "Ball valve", 3), throttles: "plug" },
  { ...byDiameters("valve", "globe-valve", "Globe valve", 340), throttles: "linear" },
  { ...byDiameters("valve", "angle-valve", "Angle valve", 150), throttles: "linear" },
  byDiameters("check", "check-swing", "Check valve, swing", 100, SWING_OPENS),
  byDiameters("check", "check-lift", "Check valve, lift", 600),
  byDiameters("check", "foot-valve-hinged", "Foot valve with strainer, hinged", 75, SWING_OPENS),
  byDiameters("check", "foot-valve-poppet", "Foot valve with strainer, poppet", 420, POPPET_OPENS),
  {
    id: "barbed-coupling",
    label: "Barbed coupling with two clamps",
    group: "coupling",
    // The barb goes inside the hose: about four fifths of its bore is left.
    resistance: { kind: "throat", boreRatio: 0.8 },
    source: PRACTICE,
  },
  {
    id: "barbed-coupling-narrow",
    label: "Barbed coupling, thick wall",
    group: "coupling",
    // Moulded couplings for small hose leave about three fifths of its bore.
    resistance: { kind: "throat", boreRatio: 0.6 },
    source: PRACTICE,
  },
  {
    id: "reducer-tapered",
    label: "Reducer, tapered, before the next size",
    group: "coupling",
    resistance: { kind: "taper", angle: 20 },
    source:
      "Crane TP 410, gradual change of bore, from memory; 20° cone common practice, no source",
  },
  byCoefficient("coupling", "lever-coupling", "Lever coupling, full bore", 0.1, PRACTICE),
  {
    ...byCoefficient("strainer", "floating-intake", "Floating intake with strainer", 2, PRACTICE),
    floats: true,
  },
  {
    ...byCoefficient("strainer", "sleeve", "Sleeve round a submersible", 0.5, PRACTICE),
    sleeve: true,
  },
  byCoefficient("strainer", "strainer-clean", "Strainer, clean", 1.5, PRACTICE),
  byCoefficient("strainer", "strainer-half-blind", "Strainer, half blind", 6, PRACTICE),
  byCoefficient("entrance", "entrance-sharp", "Entrance, square edge", 0.5),
  byCoefficient("entrance", "entrance-projecting", "Entrance, pipe end projecting", 0.78),
  byCoefficient("entrance", "entrance-bell", "Entrance, bell mouth", 0.04),
];

const BY_ID = new Map(FITTING_STOCK.map((fitting) => [fitting.id, fitting]));

export function findFitting(id: string): FittingStock | undefined {
  return BY_ID.get(id);
}
