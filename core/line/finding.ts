/** Why a line cannot be solved as it stands. `itemId` is the place on the path, where there is one. */
export interface Finding {
  code: FindingCode;
  itemId?: string;
}

export type FindingCode =
  | "no-pump"
  | "pump-not-chosen"
  | "pump-unknown"
  | "several-pumps"
  | "no-outlet"
  | "several-outlets"
  | "outlet-not-last"
  | "no-pipe"
  | "pipe-unknown"
  | "pipe-without-length"
  | "rise-exceeds-length"
  | "fitting-unknown"
  | "fitting-without-pipe"
  | "split-not-solved"
  | "hole-in-suction"
  | "not-balanced"
  | "levels-out-of-order"
  | "outlet-levels-out-of-order"
  | "nozzle-wider-than-pipe";
