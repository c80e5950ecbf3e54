import type { JobDocument } from "#contract/documents/job.ts";
import type { Severity } from "#core/check/check.ts";
import type { Judgement } from "#core/check/registry.ts";
import type { PathItem } from "#core/line/path.ts";
import { finish, type Steps } from "#core/numeric/steps.ts";
import { type Arrangement, pumpsOf } from "#core/pump/arrangement.ts";
import type { Pump } from "#core/pump/pump.ts";
import {
  type Candidate,
  type Fit,
  isOwned,
  massOf,
  priceOf,
  rankPumpsInSteps,
  workPerVolume,
} from "#core/selection/rankPumps.ts";
import { WEIGHINGS, type Weighing } from "#core/selection/weights.ts";
import type { RunFinding } from "../simulation/answers.ts";
import type { SimulatedJob } from "../simulation/overTime.ts";
import { simulationOf } from "../simulation/result.ts";
import {
  type ArrangementOfDocuments,
  atRatedSpeed,
  placeOf,
  withArrangement,
} from "./arrangement.ts";

/** What may be put in a place, as plain data by the ids of its pumps. */
export interface Chosen {
  /** tells it from all others */
  key: string;
  kind: Arrangement["kind"];
  ids: string[];
  /** running speed over rated speed, where it is chosen */
  speedRatio?: number;
  /** m³/s at the outlets, m at the pump, W taken; money still to be spent; kg */
  flow?: number;
  head?: number;
  power?: number;
  /** J for a m³, from the plug or out of the tank */
  work?: number;
  price?: number;
  mass?: number;
  owned: boolean;
  looked: boolean;
  worst: Severity;
  judgements: Judgement[];
  fit?: ChosenFit;
  /** what came of it over time */
  run?: ChosenRun;
}

export type ChosenFit =
  | Fit
  /** over time there is something to stop for */
  | { kind: "fails"; why: RunFinding };

export interface ChosenRun {
  /** starts an hour at the worst, and what the motor bears */
  starts?: { most: number; limit: number };
  /** s until it is dry, or the other body full */
  dry?: number;
  full?: number;
  /** m³/s it holds at the rim */
  survives?: number;
}

/** What choosing depends on: all that the job's run over time does. */
export type JobToChooseFor = SimulatedJob;

/** How many of the best are solved in full, and followed over time where the job moves in it. */
export const CLOSELY = 20;

/**
 * Everything that may be put in a place of a job, the best first: pumps, their speeds, twins and pairs of what is
 * owned. The best twenty of them are followed over time where the water moves, and what fails there goes behind.
 */
export const choosePumps = (
  job: JobToChooseFor,
  library: readonly Pump[],
  itemId: string,
  weighing: Weighing,
): Chosen[] => finish(choosePumpsInSteps(job, library, itemId, weighing));

/** The same in its steps, one a pump that is looked at closely or followed. */
export function* choosePumpsInSteps(
  job: JobToChooseFor,
  library: readonly Pump[],
  itemId: string,
  weighing: Weighing,
): Steps<Chosen[], Chosen[]> {
  // A speed chosen for what stands there now is no speed of the others.
  const line = { ...job, path: atRatedSpeed(job.path as PathItem[], itemId) };
  const ranking = rankPumpsInSteps(line, library, job.wantedFlow, {
    place: placeOf(job, itemId),
    weights: WEIGHINGS[weighing],
    ...(library.length > ALL_CLOSELY && { closely: CLOSELY }),
    wider: true,
    early: true,
  });
  let ranked: Candidate[] | undefined;
  while (!ranked) {
    const { done, value } = ranking.next();
    if (done) ranked = value;
    else {
      yield {
        done: value.done * RANKED,
        ...(value.soFar && { soFar: value.soFar.slice(0, SOON).map(chosenOf) }),
      };
    }
  }
  const chosen = ranked.map(chosenOf);
  if (!job.bodies?.length) return chosen;
  yield { done: RANKED, soFar: chosen.slice(0, SOON) };
  let followed = 0;
  for (const [i, own] of chosen.entries()) {
    if (!own.looked || own.fit?.kind !== "ranked" || followed >= CLOSELY) continue;
    followed++;
    yield { done: RANKED + ((1 - RANKED) * followed) / (CLOSELY + 1) };
    follow(own, job, (ranked[i] as Candidate).arrangement, itemId);
  }
  const behind = (own: Chosen) => Number(own.fit?.kind === "fails");
  const apart = (own: Chosen) => Number(own.fit?.kind !== "ranked" && own.fit?.kind !== "fails");
  // What fails over time stands after what does not, and before what cannot do it at all.
  return chosen
    .map((own, i) => ({ own, i }))
    .sort((a, b) => apart(a.own) - apart(b.own) || behind(a.own) - behind(b.own) || a.i - b.i)
    .map(({ own }) => own);
}

/** Of what is known before all is, so many of the first: enough for what is in sight. */
const SOON = 40;
/** part of the work that is done once all are ranked */
const RANKED = 0.5;

/** A library so small that all of it is solved in full. */
const ALL_CLOSELY = 60;

function follow(own: Chosen, job: JobToChooseFor, arrangement: Arrangement, itemId: string): void {
  const tried = withArrangement(job as JobDocument, itemId, arrangement as ArrangementOfDocuments);
  const told = tried && simulationOf(tried);
  if (told?.kind !== "run") return;
  const { switching, dry, full, survives, findings } = told.answers;
  own.run = {
    ...(switching && { starts: { most: switching.worst.startsPerHour, limit: switching.limit } }),
    ...(dry && { dry: dry.at }),
    ...(full && { full: full.at }),
    ...(survives !== undefined && { survives }),
  };
  // A shell that floats up does so whatever pump empties it.
  const why = findings.find(({ severity, code }) => severity === "stop" && code !== "floats-up");
  if (why) own.fit = { kind: "fails", why };
}

function chosenOf(candidate: Candidate): Chosen {
  const { arrangement, flow, head, power, fit, judgements, worst, looked } = candidate;
  const ids = pumpsOf(arrangement).map(({ id }) => id);
  const speedRatio = arrangement.kind === "one" ? arrangement.speedRatio : undefined;
  const price = priceOf(candidate);
  const mass = massOf(candidate);
  const work = workPerVolume(candidate);
  return {
    key: `${arrangement.kind} ${ids.join(" ")}${speedRatio === undefined ? "" : " slowed"}`,
    ...{ kind: arrangement.kind, ids, looked, worst },
    owned: isOwned(candidate),
    ...(speedRatio !== undefined && { speedRatio }),
    ...(flow !== undefined && { flow }),
    ...(head !== undefined && { head }),
    ...(power !== undefined && { power }),
    ...(work !== undefined && { work }),
    ...(price !== undefined && { price }),
    ...(mass !== undefined && { mass }),
    judgements: judgements.filter(({ severity }) => severity !== "good"),
    ...(fit && { fit }),
  };
}
