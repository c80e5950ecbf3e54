/** The parts of a job, in the order the water meets them. */
export type Part = "source" | "suction" | "pump" | "discharge" | "outlet";
