/** What a number measures. Inside, every one of them is SI; the unit a reader sees is chosen at the edge. */
export type Quantity =
  | "flow"
  | "length"
  | "diameter"
  | "head"
  | "pressure"
  | "velocity"
  | "volume"
  | "power"
  | "temperature"
  | "time"
  | "mass"
  | "speed"
  | "density"
  | "viscosity"
  | "acceleration"
  | "modulus"
  | "ratio";
