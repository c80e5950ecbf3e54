import type { CurveTrace, CurveWay, PumpDocument } from "#contract/documents/pump.ts";
import type { DrawnPoint } from "#core/pump/curveFrom.ts";

/** A curve that was got in some way, ready to stand in the pump. */
export interface GotCurve {
  points: DrawnPoint[];
  from: CurveWay;
  curveDoubt?: number;
  /** of one traced: the picture it was traced on, and how it was read */
  picture?: Blob;
  trace?: CurveTrace;
  otherLines?: NonNullable<PumpDocument["otherLines"]>;
}
