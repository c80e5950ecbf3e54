/** A nozzle, or a gun with a range nozzle and often a spreader beside it: q = Cd A √(2p/ρ) through both together. */
export interface NozzleOutlet {
  type: "nozzle";
  /** m, of the range nozzle */
  bore: number;
  /** m, of the spreader */
  spreaderBore?: number | undefined;
  dischargeCoefficient: number;
  /** Pa at its base between which it throws as it should */
  leastPressure?: number | undefined;
  greatestPressure?: number | undefined;
  /** degrees over which it turns; the whole circle when absent */
  arc?: number | undefined;
  /** degrees above level at which the water leaves */
  trajectory?: number | undefined;
  /** as its maker calls it */
  model?: string | undefined;
  /** its maker's chart: Pa at the base, m³/s and m of throw */
  chart?: GunPoint[] | undefined;
}

export interface GunPoint {
  pressure: number;
  flow: number;
  radius: number;
}

/**
 * m: the bore of one nozzle that passes what both of a gun's pass.
 * @example jetBore({ type: "nozzle", bore: 0.012, spreaderBore: 0.005, dischargeCoefficient: 0.95 }) // 0.013
 */
export function jetBore({ bore, spreaderBore = 0 }: NozzleOutlet): number {
  return spreaderBore > 0 ? Math.hypot(bore, spreaderBore) : bore;
}
