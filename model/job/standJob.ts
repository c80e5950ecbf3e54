import { type JobDocument, type JobInput, jobSchema } from "#contract/documents/job.ts";
import type { PumpDocument } from "#contract/documents/pump.ts";
import { PIPE_STOCK } from "#core/catalogue/pipes.ts";

/**
 * The stand in the shop as a job: the pump at a tub, a short pipe of its own size with a valve, and the open end over
 * the tub. A pump that draws up has a metre of hose before it. Common practice, no source.
 */
export function standJob(pump: PumpDocument): JobDocument {
  const { submersible, suctionPort, dischargePort, maker, model } = pump;
  const nearest = (family: string, bore: number) =>
    PIPE_STOCK.filter((stock) => stock.family === family).reduce((best, stock) =>
      Math.abs(stock.bore - bore) < Math.abs(best.bore - bore) ? stock : best,
    ).id;
  const out = nearest("pvc-sch40", dischargePort ?? suctionPort ?? USUAL_PORT);
  const input: JobInput = {
    format: "upright-gusher/job",
    version: 2,
    name: `On the stand: ${maker} ${model}`,
    datum: "Water in the tub",
    source: { kind: "open", name: "Tub", level: { low: 0, normal: 0, high: 0 }, intake: -0.3 },
    path: [
      ...(submersible
        ? []
        : ([
            { kind: "fitting", id: "foot-valve", fitting: "foot-valve-hinged", count: 1 },
            {
              kind: "pipe",
              id: "suction",
              stock: nearest("suction-hose", suctionPort ?? USUAL_PORT),
              length: 1.2,
              rise: 0.9,
            },
          ] as const)),
      { kind: "pump", id: "pump", pump: pump.id },
      { kind: "pipe", id: "pipe", stock: out, length: 1.5, rise: 0.5 },
      { kind: "fitting", id: "valve", fitting: "gate-valve", count: 1 },
      { kind: "pipe", id: "end", stock: out, length: 0.5, rise: 0 },
      { kind: "outlet", id: "outlet", outlet: { type: "free" } },
    ],
    site: { altitude: 0, waterTemperature: 288.15, specificGravity: 1 },
    method: { friction: "darcy-weisbach", fittings: "coefficient" },
    pumps: [pump],
  };
  return jobSchema.parse(input) as JobDocument;
}

/** m, where no port is published */
const USUAL_PORT = 0.05;
