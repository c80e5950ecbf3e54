import { type JobDocument, jobSchema } from "#contract/documents/job.ts";
import { type PumpDocument, pumpSchema } from "#contract/documents/pump.ts";
import { PIPE_STOCK } from "#core/catalogue/pipes.ts";
import { solveLine } from "#core/hydraulics/solveLine.ts";
import { changeItems } from "#core/line/path.ts";
import type { Pump } from "#core/pump/pump.ts";
import { frontThatHolds, pumpAndPipe } from "#core/selection/front.ts";
import { rankPumps } from "#core/selection/rankPumps.ts";
import { GLASSHOUSES } from "#demo/jobs.ts";
import { LIBRARY } from "#library/pumps.ts";
import { choosePumpsInSteps } from "#model/selection/choose.ts";
import { slimPump } from "#model/selection/slim.ts";

const job = jobSchema.parse(GLASSHOUSES) as JobDocument;
const shipped = LIBRARY.map((pump) => slimPump(pumpSchema.parse(pump) as PumpDocument));
const place = { itemId: "pump", others: [] };
const SIZES = 12;
/** Of the naive way so many pumps are timed, and the rest reckoned from them. */
const NAIVE = 40;

/** A library of so many pumps, no two alike: the shipped ones, each a little stronger or weaker. */
function library(count: number): Pump[] {
  return Array.from({ length: count }, (_, i) => {
    const own = shipped[i % shipped.length] as Pump;
    const by = 0.8 + (0.4 * ((i * 61) % 101)) / 100;
    const points = own.points.map((point) => ({
      ...point,
      ...{ flow: point.flow * by, head: point.head * by },
    }));
    return { ...own, id: `p-${i}`, points };
  });
}

/** npm run bench: a library tried on a line, in every size, and how that grows. */
export function benchChoosing(row: (name: string, value: string, note?: string) => void): void {
  console.log("\nChoosing a pump\n");
  const sizes = PIPE_STOCK.filter(({ bore }) => bore > 0.02 && bore < 0.16).slice(0, SIZES);
  const itemIds = job.path.flatMap((item) =>
    item.kind === "pipe" && item.length > 20 ? [item.id] : [],
  );
  const asked = { place, itemIds, sizes, wanted: job.wantedFlow };
  const times = (work: () => unknown): number[] =>
    Array.from({ length: 5 }, () => {
      const start = performance.now();
      work();
      return performance.now() - start;
    });
  const middle = (all: readonly number[]) => all.toSorted((a, b) => a - b)[2] as number;
  const ranked = (count: number) => {
    const pumps = library(count);
    return times(() => pumpAndPipe(job, pumps, asked));
  };
  const cold = ranked(1000);
  const thousand = middle(cold);
  const pumps = library(1000);
  const naive = times(() => {
    for (const pump of pumps.slice(0, NAIVE)) {
      for (const stock of sizes) {
        const path = changeItems(job.path, (item) => {
          if (item.kind === "pump") return { ...item, pump: pump.id };
          return item.kind === "pipe" && itemIds.includes(item.id)
            ? { ...item, stock: stock.id }
            : item;
        });
        solveLine({ ...job, path }, [pump]);
      }
    }
  });
  const allNaive = (middle(naive) * 1000) / NAIVE;
  row(
    `1000 pumps × ${SIZES} sizes × 3 levels`,
    `${thousand.toFixed(0)} ms`,
    `first time ${cold[0]?.toFixed(0)} ms; each solved by itself ${(allNaive / 1000).toFixed(1)} s, ratio ${(thousand / allNaive).toFixed(3)}`,
  );
  const found = pumpAndPipe(job, pumps, asked);
  row(
    "the front of them that every check lets stand",
    `${middle(times(() => frontThatHolds(job, found, "price", asked))).toFixed(0)} ms`,
    `of ${found.length} pairs`,
  );
  const ten = middle(ranked(10_000));
  row("10 000 pumps", `${ten.toFixed(0)} ms`, `×${(ten / thousand).toFixed(1)} for ×10 pumps`);

  const first: number[] = [];
  const choosing = times(() => {
    const start = performance.now();
    let told = false;
    const dry = { ...job, bodies: undefined } as never;
    for (const { soFar } of choosePumpsInSteps(dry, pumps, "pump", "balanced")) {
      if (soFar && !told) first.push(performance.now() - start);
      told ||= soFar !== undefined;
    }
  });
  row(
    "1000 pumps, pairs and speeds, twenty solved in full",
    `${middle(choosing).toFixed(0)} ms`,
    `first cards after ${middle(first).toFixed(0)} ms, the very first time ${first[0]?.toFixed(0)} ms`,
  );
  const every = middle(times(() => rankPumps(job, pumps, job.wantedFlow, { place })));
  row(
    "the same thousand, all solved in full",
    `${every.toFixed(0)} ms`,
    `ratio ${(middle(times(() => rankPumps(job, pumps, job.wantedFlow, { place, closely: 20 }))) / every).toFixed(2)} for twenty`,
  );
  globalThis.gc?.();
  const heap = process.memoryUsage();
  row("memory of this process by now", `${(heap.heapUsed / 1e6).toFixed(0)} MB`, "heap in use");
}
