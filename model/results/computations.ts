import type { JobDocument } from "#contract/documents/job.ts";
import { dutyBandInSteps, USUAL_DRAWS } from "#core/condition/uncertainty.ts";
import type { Pump } from "#core/pump/pump.ts";
import { singleChangesInSteps } from "#core/whatif/changes.ts";
import { decide } from "../decisions/decisions.ts";
import { irrigationOf } from "../irrigation/irrigation.ts";
import { judgeTests } from "../measurement/fieldTests.ts";
import { yearsOf } from "../measurement/years.ts";
import { choosePumpsInSteps } from "../selection/choose.ts";
import { togetherInSteps } from "../selection/together.ts";
import { TIME_DRAWS, timeRangeInSteps } from "../simulation/range.ts";
import { simulationOf } from "../simulation/result.ts";
import { dayUnder, wellDayOf } from "../well/day.ts";
import type { KnownOfWell } from "../well/known.ts";
import { otherPumpsOf } from "../well/otherPumps.ts";
import { hasWell } from "../well/settle.ts";
import { pumpToTankOf } from "../well/tankLine.ts";
import { wellOf } from "../well/well.ts";
import { columnsInSteps } from "../whatif/columns.ts";
import { remediesInSteps } from "../whatif/remedies.ts";
import { findingsBeside } from "./findings.ts";
import { type Computations, type Look, ResultGraph } from "./graph.ts";
import { DRIVING_COMPUTATIONS } from "./ofDriving.ts";
import { LINE_COMPUTATIONS } from "./ofLine.ts";
import { OFFER_COMPUTATIONS } from "./ofOffers.ts";
import { SIZE_COMPUTATIONS } from "./ofSizes.ts";
import type { Beside } from "./results.ts";

const ofWell = (look: Look<"solved" | "filledBy">): KnownOfWell => ({
  solved: look("solved"),
  filledBy: () => look("filledBy"),
});

/** How everything that follows from a job is worked out. */
export const COMPUTATIONS: Computations = {
  ...LINE_COMPUTATIONS,
  ...SIZE_COMPUTATIONS,
  ...DRIVING_COMPUTATIONS,
  ...OFFER_COMPUTATIONS,
  band: (_, look) => dutyBandInSteps(look("line"), look("uncertainty"), USUAL_DRAWS),
  run: (job, look) => simulationOf(job, look("line")),
  timeRange: (job, look) => timeRangeInSteps(job, look("uncertainty"), TIME_DRAWS, look("line")),
  irrigation: (job, look) => irrigationOf(job, look("solved")),
  filledBy: pumpToTankOf,
  well: (job, look) => (hasWell(job) ? wellOf(job, ofWell(look)) : undefined),
  switchedDay: (job, look) => dayUnder(job, "switched", "low", ofWell(look)),
  valvedDay: (job, look) => dayUnder(job, "valved", "low", ofWell(look)),
  wellDay: (job, look) =>
    wellDayOf(job, "low", ofWell(look), (control) =>
      control === "valved" ? look("valvedDay") : look("switchedDay"),
    ),
  otherPumps: (job, look) => {
    const well = look("well");
    return well && otherPumpsOf(job, look("solved"), well.seasons, job.jets);
  },
  findings: (job, look) => {
    const solved = look("solved");
    const line = solved.kind === "refused" ? [] : solved.judgements;
    return { line, beside: findingsBeside(job, look) };
  },
  decisions: (job, look) => decide(job, look),
  remedies: (job, look) =>
    remediesInSteps(
      job,
      // What of the line mends it was tried there.
      { line: look("tried").judgements, beside: look("findings").beside },
      look("well"),
      (changed) => resultsOf(changed),
    ),
  columns: (job, look) =>
    columnsInSteps(job, job.variants ?? [], look, (changed) => resultsOf(changed)),
  library: ({ libraryText }) => JSON.parse(libraryText) as Pump[],
  chosen: (job, look) => choosePumpsInSteps(job, look("library"), job.place, job.weighing),
  together: (job, look) => togetherInSteps(job, look("library"), job.pairing, job.money),
  changes: ({ documents, ...job }, look) => {
    const solved = look("solved");
    return solved.kind === "solved" ? singleChangesInSteps(job, job.pumps, documents, solved) : [];
  },
  judged: (job, look) => {
    const solved = look("solved");
    return solved.kind === "solved"
      ? judgeTests(solved, job, job.readings, look("uncertainty"), job.limits)
      : [];
  },
  years: (job, look) => yearsOf(job, job.visits, look("uncertainty"), look("solved")),
};

/**
 * What follows from a job, worked out as it is looked at.
 * @example
 * const look = resultsOf(job);
 * look("solved").kind; // "solved"
 * look("run").kind; // "run"
 */
export const resultsOf = (job: JobDocument, beside: Partial<Beside> = {}): Look =>
  new ResultGraph(COMPUTATIONS).look({ job, ...beside });
