/**
 * Standard gravity in m/s², exact by definition.
 * Source: 3rd General Conference on Weights and Measures, 1901.
 */
export const GRAVITY = 9.80665;
