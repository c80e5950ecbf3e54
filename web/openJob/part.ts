/** The parts of a job's line, in the order the water meets them. */
export const PARTS = ["source", "suction", "pump", "discharge", "outlet"] as const;
export type Part = (typeof PARTS)[number];
