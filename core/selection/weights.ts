/** What counts between pumps that may all stand there and do it. */
export const MERITS = ["flow", "efficiency", "energy", "weight", "price", "van", "spares"] as const;
export type Merit = (typeof MERITS)[number];
export type Weights = Record<Merit, number>;

/** How much each counts, by what somebody is after; each set adds up to 1. Common practice, no source. */
export const WEIGHINGS = {
  balanced: {
    ...{ flow: 0.25, efficiency: 0.2, energy: 0.2, weight: 0.08 },
    ...{ price: 0.15, van: 0.06, spares: 0.06 },
  },
  "runs-much": {
    ...{ flow: 0.15, efficiency: 0.25, energy: 0.42, weight: 0.02 },
    ...{ price: 0.06, van: 0.02, spares: 0.08 },
  },
  "runs-seldom": {
    ...{ flow: 0.2, efficiency: 0.08, energy: 0.04, weight: 0.1 },
    ...{ price: 0.46, van: 0.08, spares: 0.04 },
  },
  carried: {
    ...{ flow: 0.18, efficiency: 0.08, energy: 0.06, weight: 0.5 },
    ...{ price: 0.1, van: 0.06, spares: 0.02 },
  },
  today: {
    ...{ flow: 0.2, efficiency: 0.08, energy: 0.04, weight: 0.06 },
    ...{ price: 0.06, van: 0.5, spares: 0.06 },
  },
} as const satisfies Record<string, Weights>;
export type Weighing = keyof typeof WEIGHINGS;
