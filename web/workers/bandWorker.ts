import type { Line } from "#core/line/path.ts";
import type { Pump } from "#core/pump/pump.ts";
import { type Band, type Doubt, dutyBand, USUAL_DRAWS } from "#core/whatif/uncertainty.ts";

export interface BandQuestion {
  id: number;
  line: Line;
  pumps: Pump[];
  doubt: Doubt;
}

export interface BandAnswer {
  id: number;
  band: Band | undefined;
}

addEventListener("message", ({ data }: MessageEvent<BandQuestion>) => {
  const band = dutyBand(data.line, data.pumps, data.doubt, USUAL_DRAWS);
  postMessage({ id: data.id, band } satisfies BandAnswer);
});
