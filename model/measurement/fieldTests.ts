import { coreReading, type ReadingDocument } from "#contract/documents/fieldTest.ts";
import type { Uncertainty } from "#core/condition/uncertainty.ts";
import { pressureHead, sourcePressure } from "#core/hydraulics/boundary.ts";
import type { Comparison } from "#core/measurement/acceptance.ts";
import { type MeasuredInput, measuredInput, wireToWater } from "#core/measurement/electric.ts";
import { type Estimate, measuredFlow } from "#core/measurement/instruments.ts";
import { judgeTest, type TestJudgement } from "#core/measurement/judgeTest.ts";
import { fitTest, type Test } from "#core/measurement/pumpOrLine.ts";
import { isOpen } from "#core/measurement/reading.ts";
import { type NextPoint, nextPoint, type Throttling, throttling } from "#core/measurement/sweep.ts";
import { type HeadInput, headModel } from "#core/measurement/totalHead.ts";
import { powerAt, publishedValue, pumpCurve } from "#core/pump/curve.ts";
import type { Pump, Tolerance } from "#core/pump/pump.ts";
import { GRAVITY } from "#core/quantity/constants.ts";
import type { SolvableJob, Solved } from "../job/solveJob.ts";
import { pumpOfReading, takenOnAnother } from "./readings.ts";

/** A reading under the id it is kept by. */
export interface KeptReading {
  id: string;
  document: ReadingDocument;
}

/** The readings of one visit that are of one pump of the line, in the order they were taken. */
export interface PumpTest {
  /** which of the line's pumps */
  at: number;
  ids: string[];
  test: Test;
}

/**
 * The readings of a test by the pump they are of. Left out are those somebody left out, those of another pump than
 * stands there, and those of no one pump.
 */
export function pumpTests(
  solved: Solved,
  readings: readonly KeptReading[],
  uncertainty: Uncertainty,
  limits?: Tolerance,
): PumpTest[] {
  const { solution } = solved;
  const found: PumpTest[] = [];
  const inTime = readings.toSorted((a, b) => a.document.takenAt.localeCompare(b.document.takenAt));
  for (const { id, document } of inTime) {
    if (document.leftOut !== undefined || takenOnAnother(solved, document)) continue;
    const of = pumpOfReading(solved, document);
    if (typeof of === "string") continue;
    const { at } = of;
    const own = found.find((test) => test.at === at);
    const reading = coreReading(document);
    if (own) {
      own.ids.push(id);
      own.test = { ...own.test, readings: [...own.test.readings, reading] };
      continue;
    }
    const pump = solution.pumps[at]?.pump;
    if (!pump) continue;
    found.push({
      at,
      ids: [id],
      test: {
        on: solution,
        pump: limits ? { ...pump, limits } : pump,
        at,
        readings: [reading],
        uncertainty: uncertainty,
      },
    });
  }
  return found;
}

/** What a visit's readings say of one pump and its line. */
export interface Judged extends TestJudgement {
  at: number;
  /** of its readings, in the order that numbers them in what is said */
  ids: string[];
  /** m the water stands over its normal level, where a gauge was read without knowing it; the pump taken as published */
  level?: Estimate;
  /** what the parties agreed on that day */
  limits?: Tolerance;
  /** whether the discharge may be shut */
  mayShut: boolean;
  /** m³/s through the pump between which it was read */
  range?: { from: number; to: number };
}

export function judgeTests(
  solved: Solved,
  job: Pick<SolvableJob, "site">,
  readings: readonly KeptReading[],
  uncertainty: Uncertainty,
  limits?: Tolerance,
): Judged[] {
  return pumpTests(solved, readings, uncertainty, limits).map(({ at, ids, test }) => {
    const allowed = throttling(solved.solution, at, job.site.waterTemperature);
    const unknown = test.readings.some(({ discharge, suction }) => discharge && !suction);
    const level = unknown ? fitTest(test, ["level"]) : undefined;
    const judged = judgeTest(test, allowed.kind === "to-shut");
    const flows = judged.points.map(({ comparison }) => comparison.flow.value);
    return {
      at,
      ids,
      ...judged,
      mayShut: allowed.kind === "to-shut",
      ...(limits && { limits }),
      ...(flows.length > 1 && { range: { from: Math.min(...flows), to: Math.max(...flows) } }),
      ...(level?.kind === "found" && level.values.level && { level: level.values.level }),
    };
  });
}

/** Pa a gauge will show where a pump makes a head in m at a flow in m³/s: at a place of the line, and a height. */
export function needleAt(
  { solution }: Solved,
  at: number,
  { flow, head }: { flow: number; head: number },
  gauge: { afterItemId: string; elevation: number },
): number | undefined {
  const { model, boundaries, water } = solution;
  const level = boundaries.normal.source - pressureHead(sourcePressure(model.line.source), water);
  // The gauge that makes a reading of nothing else: what it lacks of the head is what it shows.
  const total = headModel(
    model,
    {
      flow: { method: "meter", flow, tolerance: 0 },
      discharge: { ...gauge, pressure: 0, fullScale: 1, accuracyClass: 0 },
      suction: { kind: "water-level", level, tolerance: 0 },
    },
    [],
    at,
  );
  const values = Object.fromEntries(total.inputs.map(({ name, value }) => [name, value]));
  const without = total.head(values as Record<HeadInput, number>);
  return without === undefined ? undefined : (head - without) * water.density * GRAVITY;
}

/** What was read at the supply, and wire to water where the head was read too; the published power is at the reading's speed, else at the job's own for this pump (`ownSpeedRatio`). */
export function electricOf(
  { electric, speedRatio }: ReadingDocument,
  comparison: Comparison | undefined,
  pump: Pump | undefined,
  ownSpeedRatio = 1,
): { input: MeasuredInput; efficiency?: Estimate; published?: number } | undefined {
  if (!electric) return undefined;
  const input = measuredInput(electric, pump?.electric);
  const at = comparison?.flow.value;
  const published =
    pump && at !== undefined
      ? publishedValue(powerAt(pumpCurve(pump, speedRatio ?? ownSpeedRatio), at))
      : undefined;
  const water = comparison?.waterPower;
  return {
    input,
    ...(water && input.power && { efficiency: wireToWater(water, input.power) }),
    ...(published !== undefined && { published }),
  };
}

/** Where a sweep stands, and how far it may go. */
export interface SweepState {
  next: NextPoint;
  allowed: Throttling;
  /** how many readings with a gauge there are of this pump today */
  taken: number;
}

/** The next point of a sweep of a pump of the line, after the readings taken of it today. */
export function sweepOf(
  { solution }: Solved,
  job: Pick<SolvableJob, "site">,
  at: number,
  tests: readonly PumpTest[],
): SweepState | undefined {
  const own = solution.pumps[at];
  if (!own) return undefined;
  const readings = (tests.find((test) => test.at === at)?.test.readings ?? []).filter(
    ({ discharge }) => discharge,
  );
  const flowOf = ({ flow }: (typeof readings)[number]) => measuredFlow(flow).value;
  const open = readings.filter(isOpen).map(flowOf);
  const allowed = throttling(solution, at, job.site.waterTemperature);
  const speed = solution.line.pumps[at]?.item.speedRatio ?? 1;
  return {
    next: nextPoint(
      pumpCurve(own.pump, speed),
      readings.map(flowOf),
      open.length > 0 ? Math.max(...open) : undefined,
      allowed,
    ),
    allowed,
    taken: readings.length,
  };
}
