import type { JobDocument, JobPathItem } from "#contract/documents/job.ts";
import type { JobKindId } from "#contract/documents/jobKinds.ts";
import type { CheckCode } from "#core/check/registry.ts";
import type { FindingCode, JobFindings } from "#core/finding/registry.ts";
import type { Side } from "#core/line/compiledLine.ts";
import { everyItem } from "#core/line/path.ts";
import { meanVelocity } from "#core/pipe/darcyWeisbach.ts";
import { yardAtWork } from "../demand/yard.ts";
import type { IrrigationResult } from "../irrigation/irrigation.ts";
import { waters } from "../irrigation/waters.ts";
import { type JobSolution, lineOf, type SolvableJob, solutionOf } from "../job/solveJob.ts";
import type { Decided, Decision, DecisionId, DecisionState, Stop } from "../kinds/decision.ts";
import { KINDS } from "../kinds/kinds.ts";
import type { SimulationResult } from "../simulation/result.ts";
import { shownCable } from "../well/derivations.ts";
import { hasWell } from "../well/settle.ts";
import type { WellResult } from "../well/well.ts";

/** What of a job its decisions are read off. */
export type DecidingJob = SolvableJob &
  Pick<JobDocument, "need" | "bodies" | "house" | "yard" | "field">;

/** What they are read off besides. */
interface Known {
  solved: JobSolution;
  run: SimulationResult;
  well: WellResult | undefined;
  irrigation: IrrigationResult;
  findings: JobFindings;
}
type LookAt = <K extends keyof Known>(name: K) => Known[K];

/** What a decision is as the job stands, before it is held against what there is to stop for. */
type Deciding = {
  [D in DecisionId]: (job: DecidingJob, look: LookAt) => Omit<Decided<D>, "id" | "stop">;
};

/** The kind of a job; of one from before there were kinds, what it looks like. */
export function kindOf(
  job: Pick<JobDocument, "kind" | "source" | "path" | "field" | "overTime" | "bodies">,
): JobKindId {
  if (job.kind) return job.kind;
  if (hasWell(job)) return "well-to-tank";
  if (waters(job)) return "pond-to-field";
  // A float that starts a pump as the source rises keeps a pit dry; one that starts it as a tank sinks fills that.
  const source = "body" in job.source ? job.source.body : undefined;
  const empties = job.overTime?.controls?.some(
    (own) =>
      own.kind === "float" && own.role !== "guard" && own.body === source && own.on > own.off,
  );
  if (empties) return "sump-riser";
  return job.bodies && job.bodies.length > 1 ? "tank-to-tank" : "plain-line";
}

/** What is decided on a job of this kind, in the order it is. */
export const decisionsOf = (job: Parameters<typeof kindOf>[0]): readonly DecisionId[] =>
  KINDS[kindOf(job)].decisions;

/** Every decision of a job as it stands. */
export function decide(job: DecidingJob, look: LookAt): Decision[] {
  const findings = look("findings");
  const sides = new Map(
    lineOf(look("solved")).segments.flatMap(({ itemId, kind, side }) =>
      kind === "pipe" || kind === "fitting" ? [[itemId, side] as const] : [],
    ),
  );
  return decisionsOf(job).map((id) => {
    const own = { id, ...DECIDING[id](job, look) } as Decision;
    const stop = stopOf(own, job, findings, sides);
    return stop ? { ...own, state: "stopped", stop } : own;
  });
}

/** Taken as it usually is while one of these fields of the job is assumed. */
const stateOf = ({ assumed = [] }: DecidingJob, ...fields: string[]): DecisionState =>
  assumed.some((own) => fields.some((field) => own === field || own.startsWith(`${field}.`)))
    ? "advised"
    : "chosen";

const answersOf = (look: LookAt) => {
  const run = look("run");
  return run.kind === "run" ? run.answers : undefined;
};

/** What keeps a job from being run, where something does. */
function waitsOf(look: LookAt): { waitsFor?: "line" | "floats" } {
  const { kind } = look("run");
  if (kind === "no-line") return { waitsFor: "line" };
  return kind === "wrong" ? { waitsFor: "floats" } : {};
}

const DECIDING: Deciding = {
  pump: (job, look) => {
    const places = everyItem<JobPathItem>(job.path).filter((item) => item.kind === "pump");
    const names = places.flatMap(({ pump }) => {
      const found = job.pumps.find(({ id }) => id === pump);
      return found ? [`${found.maker} ${found.model}`] : [];
    });
    const normal = solutionOf(look("solved"))?.cases.normal;
    const flow = normal?.running?.state.delivered;
    const isChosen = places.length > 0 && names.length === places.length;
    const takes = look("solved").kind === "asked" ? normal?.running?.duty.head : undefined;
    return {
      state: isChosen ? "chosen" : "open",
      ...{ itemId: places[0]?.id ?? "", pumps: names },
      ...(isChosen && flow !== undefined && { flow }),
      ...(job.wantedFlow !== undefined && { wanted: job.wantedFlow }),
      ...(takes !== undefined && { takes }),
    };
  },
  suction: (job, look) => pipeOf("suction", job, look),
  discharge: (job, look) => pipeOf("discharge", job, look),
  floats: (job, look) => {
    const lead = job.overTime?.controls?.find((own) => own.kind === "float" && own.role === "lead");
    const { worst, limit } = answersOf(look)?.switching ?? {};
    return {
      state: lead ? stateOf(job, "overTime.controls") : "open",
      ...(lead?.kind === "float" && { on: lead.on, off: lead.off }),
      ...(worst && { starts: worst.startsPerHour }),
      ...(limit !== undefined && { limit }),
    };
  },
  "stays-dry": (_, look) => {
    const answers = answersOf(look);
    const kept = answers?.findings.find(({ code }) => code === "keeps-up");
    return {
      state: answers && (kept || answers.wet) ? "chosen" : "open",
      ...waitsOf(look),
      ...(kept?.code === "keeps-up" && { under: kept.under }),
      ...(answers?.wet && { wetAt: answers.wet.at }),
    };
  },
  "power-cut": (_, look) => {
    const floods = answersOf(look)?.unpumped?.fromOn;
    return {
      state: floods === undefined ? "open" : "chosen",
      ...waitsOf(look),
      ...(floods !== undefined && { floods }),
    };
  },
  backup: (job, look) => {
    const answers = answersOf(look);
    const flatAt = answers?.battery?.flatAt;
    const pit = job.bodies?.find(({ id }) => "body" in job.source && id === job.source.body);
    const pumps = everyItem(job.path).filter(({ kind }) => kind === "pump").length;
    const has = job.overTime?.battery
      ? "battery"
      : pit?.overflowTo
        ? "overflow"
        : pumps > 1
          ? "second-pump"
          : "none";
    return {
      state: has === "none" ? "open" : "chosen",
      has,
      ...(flatAt !== undefined && { flatAt }),
    };
  },
  drains: (job) => {
    const runs = yardAtWork(job);
    const parts = runs.map(({ flow, capacity }) => flow / capacity);
    return {
      state: runs.length > 0 ? "chosen" : "open",
      runs: runs.length,
      ...(runs.length > 0 && { fullest: Math.max(...parts) }),
    };
  },
  "dry-after": (_, look) => {
    const dry = answersOf(look)?.dry?.at;
    return {
      state: dry === undefined ? "open" : "chosen",
      ...waitsOf(look),
      ...(dry !== undefined && { dry }),
    };
  },
  "full-after": (_, look) => {
    const full = answersOf(look)?.full?.at;
    return {
      state: full === undefined ? "open" : "chosen",
      ...waitsOf(look),
      ...(full !== undefined && { full }),
    };
  },
  hang: (job, look) => {
    const well = look("well");
    const { from = 0, to = 0 } = well?.window ?? {};
    return { state: stateOf(job, "source.intake"), depth: well?.depth ?? 0, from, to };
  },
  "drop-pipe": (job, look) => {
    const run = look("well")?.dropPipe.runs[0];
    const known = (run?.holds ?? []).flatMap(({ pressure }) => pressure ?? []);
    return {
      state: run ? stateOf(job, `path.${run.itemId}.stock`) : "open",
      ...(run && { stock: run.stock }),
      ...(run?.rating !== undefined && { rating: run.rating }),
      ...(known.length > 0 && { pressure: Math.max(...known) }),
    };
  },
  cable: (job, look) => {
    const well = look("well");
    const conductor = well && shownCable(well);
    const row = well?.cable.rows.find((own) => own.conductor.id === conductor);
    return {
      state: job.site.cable ? "chosen" : row ? "advised" : "open",
      ...(row && { conductor: row.conductor.id, part: row.part }),
    };
  },
  "pre-charge": (job, look) => {
    const tank = job.pressureTank && look("well")?.tank.tank;
    return {
      state: tank ? stateOf(job, "pressureTank") : "open",
      ...(tank && { preCharge: tank.preCharge, cutIn: tank.cutIn }),
    };
  },
  tank: (job, look) => {
    const told = job.pressureTank && look("well")?.tank;
    const starts = told?.switched?.worst?.startsPerHour;
    return {
      state: told ? stateOf(job, "pressureTank") : "open",
      ...(told && { volume: told.tank.volume }),
      ...(starts !== undefined && { starts }),
      ...(told?.startsLimit !== undefined && { limit: told.startsLimit }),
    };
  },
  gun: (job, look) => {
    const { guns } = look("irrigation");
    const [first] = guns;
    return {
      state: first ? stateOf(job, `path.${first.itemId}`) : "open",
      guns: guns.length,
      ...(first && {
        itemId: first.itemId,
        gun: { thrown: first.thrown, pressure: first.pressure },
      }),
    };
  },
  sets: (_, look) => {
    const { sets, timing } = look("irrigation");
    const planned = sets?.kind === "planned" ? sets.sets : undefined;
    return {
      state: planned === undefined ? "open" : "chosen",
      ...(planned !== undefined && { sets: planned }),
      ...(timing && { perSet: timing.perSet, whole: timing.whole }),
    };
  },
  fuel: (_, look) => {
    const { day } = look("irrigation");
    if (day?.kind !== "planned") return { state: "open" };
    const first = day.steps.find(({ kind }) => kind === "fuel")?.from;
    return {
      state: "chosen",
      stops: day.fuelStops,
      ...(first !== undefined && { first }),
    };
  },
};

/** The run of pipe that takes most head on one side of the pump. */
function pipeOf(
  side: "suction" | "discharge",
  job: DecidingJob,
  look: LookAt,
): Omit<Decided<"discharge">, "id" | "stop"> {
  const solution = solutionOf(look("solved"));
  const running = solution?.cases.normal.running;
  const head = new Map<string, number>();
  for (const { itemId, head: own } of running?.ledger ?? []) {
    if (itemId !== undefined) head.set(itemId, (head.get(itemId) ?? 0) + own);
  }
  const runs = lineOf(look("solved")).segments.flatMap((segment, i) =>
    segment.kind === "pipe" && segment.side === side ? [{ segment, i }] : [],
  );
  const weight = ({ segment }: (typeof runs)[number]) =>
    head.get(segment.itemId) ?? (segment.run?.length ?? 0) * 1e-9;
  const [most] = runs.toSorted((a, b) => weight(b) - weight(a));
  if (!most) return { state: "open" };
  const { itemId, stock, bore } = most.segment;
  const flow = running?.state.bySegment[most.i];
  const own = head.get(itemId);
  return {
    state: stateOf(job, `path.${itemId}.stock`),
    ...{ itemId, ...(stock && { stock: stock.id }) },
    ...(flow !== undefined && { velocity: meanVelocity(Math.abs(flow), bore) }),
    ...(own !== undefined && { head: own }),
  };
}

/** Findings beside the line, by the decision they are about. */
const ABOUT: Partial<Record<FindingCode, DecisionId>> = {
  "floor-wet": "stays-dry",
  "falls-behind": "stays-dry",
  "too-many-events": "floats",
  "run-trouble": "floats",
  "never-dry": "dry-after",
  "floats-up": "dry-after",
  "pipe-pulled": "drop-pipe",
  "cable-size": "cable",
  "cable-choice": "cable",
  "cord-drop": "cable",
  "start-voltage": "cable",
  "tank-upside-down": "tank",
  "tank-over-charged": "pre-charge",
  "tank-never-stops": "tank",
  "draws-short": "tank",
  "draws-held-for-water": "hang",
  "step-not-drawn": "hang",
  "sets-refused": "sets",
  "ground-refused": "sets",
  "day-refused": "fuel",
  "yard-pipe": "drains",
  "yard-grate": "drains",
};
/** The same of judgements of the line that are about no pump and no pipe. */
const ABOUT_LINE: Partial<Record<CheckCode, DecisionId>> = {
  "gun-pressure": "gun",
  "well-dry": "hang",
  "well-setting": "hang",
  "cut-out-reached": "tank",
};

/** The first there is to stop for that is about a decision; what is about none of a kind's is about its pump. */
function stopOf(
  own: Decision,
  job: DecidingJob,
  { line, beside }: JobFindings,
  sides: ReadonlyMap<string, Side>,
): Stop | undefined {
  const ids = decisionsOf(job);
  const either = (id: DecisionId | undefined): DecisionId =>
    id !== undefined && ids.includes(id) ? id : "pump";
  const judgement = line.find(({ severity, code, itemId = "" }) => {
    if (severity !== "stop") return false;
    // What a pipe cannot hold is said of the pipe the pump hangs on too.
    if (own.id === "drop-pipe" && own.stock !== undefined && code === "pressure-rating")
      return true;
    return either(ABOUT_LINE[code] ?? sides.get(itemId)) === own.id;
  });
  if (judgement) return { of: "line", judgement };
  const finding = beside.find(
    ({ severity, code }) => severity === "stop" && either(ABOUT[code]) === own.id,
  );
  return finding && { of: "beside", finding };
}
