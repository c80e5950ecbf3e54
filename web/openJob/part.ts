/** The parts of a job, in the order the water meets them. */
export type Part = "source" | "suction" | "pump" | "discharge" | "outlet";

/** The stages of a job, in the order of the work. */
export const STAGES = ["need", "well", "line", "pump", "ground", "measure"] as const;
export type Stage = (typeof STAGES)[number];
