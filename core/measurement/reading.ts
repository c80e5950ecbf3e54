/**
 * One measurement of a running pump, in SI. Uncertainties are standard uncertainties unless a comment
 * says otherwise.
 */
export interface Reading {
  flow: FlowMeasurement;
  /** with a gauge the pump can be held against its curve; a flow alone against what the line was promised */
  discharge?: GaugeMeasurement | undefined;
  suction?: SuctionMeasurement | undefined;
  /** running speed over rated speed; 1 when absent */
  speedRatio?: number | undefined;
  /** half-width of what the speed was read with, as a fraction */
  speedTolerance?: number | undefined;
  /** the discharge valve was partly closed for it, by how much nobody knows: it tells of the pump and not of the line */
  throttled?: boolean | undefined;
  electric?: ElectricMeasurement | undefined;
  /** m a gun threw, and its half-width as a fraction */
  throwDistance?: number | undefined;
  throwTolerance?: number | undefined;
  /** which outlet it was taken at, where there are several */
  outletId?: string | undefined;
  /** items of the pumps that ran, where others on the line stood; all of them when absent */
  running?: readonly string[] | undefined;
}

/** A reading with what the pump's head is made of. */
export interface GaugedReading extends Reading {
  discharge: GaugeMeasurement;
  suction: SuctionMeasurement;
}

export function isGauged(reading: Reading): reading is GaugedReading {
  return reading.discharge !== undefined && reading.suction !== undefined;
}

export type FlowMeasurement =
  | BucketMeasurement
  | TimedMeasurement
  | MeterMeasurement
  | CounterMeasurement
  | DrawdownMeasurement
  /** the discharge was shut: nothing ran */
  | { method: "shut" };

/** Whether the valve stood as the line has it, so that the reading tells of the line beyond it. */
export function isOpen({ flow, throttled }: Pick<Reading, "flow" | "throttled">): boolean {
  return flow.method !== "shut" && !throttled;
}

/** Bucket and watch: the same volume filled several times. */
export interface BucketMeasurement {
  method: "bucket";
  /** m³ */
  volume: number;
  /** half-width of the bucket's mark as a fraction of the volume, e.g. 0.02 */
  volumeTolerance: number;
  /** s, one for each fill */
  times: number[];
  /** half-width of starting and stopping the watch by hand, s */
  timingTolerance: number;
}

/** A set time into whatever holds it, measured afterwards. */
export interface TimedMeasurement {
  method: "timed";
  /** m³ that ran in that time */
  volume: number;
  /** half-width of what it was measured with, as a fraction */
  volumeTolerance: number;
  /** s */
  time: number;
  /** half-width of starting and stopping by hand, s */
  timingTolerance: number;
}

export interface MeterMeasurement {
  method: "meter";
  /** m³/s */
  flow: number;
  /** half-width as a fraction of the reading */
  tolerance: number;
}

/** A meter that counts: what it showed at the start and at the end of a time. */
export interface CounterMeasurement {
  method: "counter";
  /** m³ */
  start: number;
  end: number;
  /** s */
  time: number;
  /** half-width as a fraction of what it counted */
  tolerance: number;
  /** half-width of starting and stopping by hand, s */
  timingTolerance: number;
}

/** The fall of the water the pump draws from. */
export interface DrawdownMeasurement {
  method: "draw-down";
  /** m², of its surface */
  area: number;
  /** half-width as a fraction */
  areaTolerance: number;
  /** m it fell in `time` s */
  fall: number;
  /** half-width of the fall, m */
  fallTolerance: number;
  time: number;
  timingTolerance: number;
  /** m³/s that ran in meanwhile, found with the pump off */
  inflow: number;
  /** half-width as a fraction */
  inflowTolerance: number;
}

/** What was read at the supply while the pump ran. Tolerances are half-widths, as fractions. */
export interface ElectricMeasurement {
  /** V, between the conductors that feed it */
  volts?: number | undefined;
  /** A of each of them, one on one phase and up to three on three */
  currents?: readonly number[] | undefined;
  /** W off a power meter */
  power?: number | undefined;
  powerFactor?: number | undefined;
  voltsTolerance?: number | undefined;
  currentTolerance?: number | undefined;
  powerTolerance?: number | undefined;
}

/** A pressure gauge on the discharge line. */
export interface GaugeMeasurement {
  /** Pa above air pressure; negative for a vacuum */
  pressure: number;
  /** Pa, the last mark on the dial */
  fullScale: number;
  /** accuracy class: half-width as a fraction of full scale, e.g. 0.016 for class 1.6 */
  accuracyClass: number;
  /** centre of the dial, m above datum */
  elevation: number;
  /** item of the path after which the gauge is tapped in; the pump's own item when it is at the port */
  afterItemId: string;
}

export type SuctionMeasurement =
  | ({ kind: "gauge" } & Omit<GaugeMeasurement, "afterItemId">)
  /** no suction gauge: the water level at the time, m above datum, with its half-width */
  | { kind: "water-level"; level: number; tolerance: number };
