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

export type FlowMeasurement = BucketMeasurement | TimedMeasurement | MeterMeasurement;

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
