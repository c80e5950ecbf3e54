/** What is taken of a watering until somebody says otherwise. Common practice, no source, unless said. */

/** m laid once round: half an inch */
export const DEPTH = 0.0127;
export const WIND = "light";
/** s from midnight */
export const START = 8 * 3600;
/** s */
export const MOVE = 600;
export const PRIME = 180;
export const COOLING = 900;
export const FILLING = 300;
/** parts of the water that never get to the roots: from guns, and from drip */
export const LOSS = 0.2;
export const DRIP_LOSS = 0.1;
/** m a week */
export const WEEKLY = 0.025;
/** half-widths, as a part of the flow, and Pa of the gauge */
export const FLOW_UNCERTAINTY = 0.05;
export const GAUGE_UNCERTAINTY = 10_000;
/** one standard deviation of the flow the line says a gun passes, as a part of it */
export const MODEL_UNCERTAINTY = 0.05;
