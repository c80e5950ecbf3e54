/**
 * Standard gravity in m/s², exact by definition.
 * Source: 3rd General Conference on Weights and Measures, 1901.
 */
export const GRAVITY = 9.80665;

/** m; exact by definition (international inch and foot, 1959) */
export const INCH = 0.0254;
export const FOOT = 0.3048;

/** m³, US gallon of 231 in³; exact by definition */
export const GALLON = 231 * INCH ** 3;

/** kg/m³, of cold fresh water, where a job's own temperature does not matter */
export const WATER_DENSITY = 1000;

/** kg, avoirdupois; exact by definition */
export const POUND = 0.45359237;

/** Pa: pound-force per square inch, and bar; exact by definition */
export const PSI = (POUND * GRAVITY) / INCH ** 2;
export const BAR = 1e5;

/** K at 0 °C */
export const ZERO_CELSIUS = 273.15;

/** m², of 43 560 square feet; exact by definition */
export const ACRE = 43_560 * FOOT ** 2;
