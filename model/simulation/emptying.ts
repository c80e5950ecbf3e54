import type { JobDocument } from "#contract/documents/job.ts";
import { findPipeStock } from "#core/catalogue/pipes.ts";
import { everyItem, type PathItem } from "#core/line/path.ts";
import { FOOT, GALLON } from "#core/quantity/constants.ts";
import type { Answers } from "#core/simulation/answers.ts";
import type { Timeline } from "#core/simulation/dynamics.ts";

/** m of hose in a piece, and m³ a wet vacuum holds. Common practice, no source: 20 ft, 4 to 5 gal. */
const PIECE = 20 * FOOT;
const VACUUM = 4.5 * GALLON;

/** What somebody who empties a room carries, and how far the water comes down each day. */
export function emptyingOf(
  timeline: Timeline,
  source: number,
  moved: number,
  job: Pick<JobDocument, "path" | "overTime">,
): Pick<Answers, "stages" | "hose" | "vacuum" | "hire"> {
  const perDay = job.overTime?.lowering?.perDay;
  const stages = perDay ? stagesOf(timeline, source, perDay) : undefined;
  const rate = job.overTime?.hirePerDay;
  const days = stages?.length ?? Math.ceil((timeline.times.at(-1) as number) / 86_400);
  const hose = hosePieces(job.path as PathItem[]);
  return {
    ...(stages && { stages }),
    ...(rate !== undefined && { hire: rate * days }),
    ...(hose && { hose }),
    ...(moved > 0 && { vacuum: { trips: Math.ceil(moved / VACUUM), each: VACUUM } }),
  };
}

/** Levels reached day by day, never more than so much lower, with the pumping each takes. */
export function stagesOf(
  { times, levels }: Timeline,
  store: number,
  perDay: number,
): { to: number; pumping: number }[] {
  const stages: { to: number; pumping: number }[] = [];
  const first = levels[0]?.[store] as number;
  const last = levels.at(-1)?.[store] as number;
  let began = 0;
  for (let day = 1; first - (day - 1) * perDay > last + 1e-6; day++) {
    const to = Math.max(first - day * perDay, last);
    const reached = crossing(times, levels, store, to);
    stages.push({ to, pumping: reached - began });
    began = reached;
  }
  return stages;
}

/** s at which a falling level is first at or below another. */
function crossing(
  times: readonly number[],
  levels: readonly (readonly number[])[],
  store: number,
  to: number,
): number {
  for (let i = 1; i < times.length; i++) {
    const [before, after] = [levels[i - 1]?.[store] as number, levels[i]?.[store] as number];
    if (after > to) continue;
    const part = before > after ? Math.min((before - to) / (before - after), 1) : 1;
    return (times[i - 1] as number) + part * ((times[i] as number) - (times[i - 1] as number));
  }
  return times.at(-1) as number;
}

/** Pieces of the hoses on a line, what joins them, and two clamps a coupling with one at the pump. */
export function hosePieces(path: readonly PathItem[]): Answers["hose"] {
  const hose = everyItem<PathItem>(path).reduce((sum, item) => {
    const rolled = item.kind === "pipe" && findPipeStock(item.stock)?.family.includes("hose");
    return rolled ? sum + item.length : sum;
  }, 0);
  if (!(hose > 0)) return undefined;
  const pieces = Math.ceil(hose / PIECE - 1e-9);
  return { pieces, couplings: pieces - 1, clamps: 2 * (pieces - 1) + 1 };
}
