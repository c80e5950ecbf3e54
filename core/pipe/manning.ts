/** A round pipe laid to a fall that runs by its own weight. */
export interface GravityPipe {
  /** m */
  bore: number;
  /** m of fall for each m along */
  slope: number;
  /** n of its wall, s/m^(1/3) */
  n: number;
}

/** n of walls as they are laid. Common practice, no source: 0.009 to 0.011 for smooth plastic, 0.015 and over for ribbed. */
export const MANNING_N = { smooth: 0.011, concrete: 0.013, ribbed: 0.018 } as const;

/**
 * Flow in m³/s of a round pipe running just full: Q = (1/n) A R^(2/3) S^(1/2), with R = d/4.
 * Source: R. Manning, Trans. Inst. Civ. Eng. Ireland 20 (1891) 161–207.
 * @example fullFlow({ bore: 0.1, slope: 0.01, n: 0.011 }) // 0.0061
 */
export function fullFlow({ bore, slope, n }: GravityPipe): number {
  if (!(slope > 0)) return 0;
  const area = (Math.PI / 4) * bore ** 2;
  return (area / n) * (bore / 4) ** (2 / 3) * Math.sqrt(slope);
}

/**
 * m the water has to stand higher at the upper end than at the lower for a pipe running full to pass a flow: the fall it
 * would need, S = (Q / Q_full)² times the fall it has.
 */
export function headToPass(pipe: GravityPipe, length: number, flow: number): number {
  const unit = fullFlow({ ...pipe, slope: 1 });
  return length * (flow / unit) ** 2;
}
