import type { Line } from "#core/line/path.ts";
import type { Pump } from "#core/pump/pump.ts";
import { type Band, dutyBand, USUAL_DOUBT } from "#core/uncertainty/dutyBand.ts";

export interface BandQuestion {
  id: number;
  line: Line;
  pumps: Pump[];
}

export interface BandAnswer {
  id: number;
  band: Band | undefined;
}

const DRAWS = 1000;

addEventListener("message", ({ data }: MessageEvent<BandQuestion>) => {
  const band = dutyBand(data.line, data.pumps, USUAL_DOUBT, DRAWS);
  postMessage({ id: data.id, band } satisfies BandAnswer);
});
