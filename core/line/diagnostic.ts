/** Why a line cannot be solved as it stands. `itemId` is the place on the path, where there is one. */
export interface Diagnostic {
  code: DiagnosticCode;
  itemId?: string;
}

export type DiagnosticCode =
  /** no one has drawn it yet: what stands there was never measured */
  | "line-unknown"
  | "no-pump"
  | "pump-not-chosen"
  | "pump-unknown"
  | "no-outlet"
  | "loop-without-outlet"
  | "branch-without-outlet"
  | "branches-meet-apart"
  | "pump-faces-shut-valve"
  | "suction-shut"
  | "check-valve-reversed"
  | "pump-droops"
  | "outlet-not-last"
  | "no-pipe"
  | "pipe-unknown"
  | "pipe-without-length"
  | "rise-exceeds-length"
  | "fitting-unknown"
  | "fitting-without-pipe"
  | "hole-in-suction"
  | "not-balanced"
  | "levels-out-of-order"
  | "outlet-levels-out-of-order"
  | "nozzle-wider-than-pipe";
