import type { PipeStock } from "../catalogue/pipes.ts";
import { checkContext, judge, OF_NO_PUMP } from "../check/registry.ts";
import { FUEL_PER_JOULE } from "../driving/engine.ts";
import { WATER_LEVELS, type WaterLevel } from "../fluid/levels.ts";
import { lineModel, solveLine } from "../hydraulics/solveLine.ts";
import { quickDuty, type SystemCurve, systemCurve } from "../hydraulics/systemCurve.ts";
import { changeItems, everyItem, type Line } from "../line/path.ts";
import { finish, type Steps } from "../numeric/steps.ts";
import { type PumpCurve, pumpCurve, shaftPower } from "../pump/curve.ts";
import type { Pump } from "../pump/pump.ts";
import { priceOf } from "./rankPumps.ts";

/** A pump and a size of pipe, together. */
export interface Together {
  pump: Pump;
  stock: PipeStock;
  /** m³/s at the outlets at normal water, and the least of the three levels */
  flow: number;
  least: number;
  /** W, where it is published */
  power?: number;
  /** money for the pump, where it has a price, and the pipe */
  price?: number;
  /** money a year: energy, and the price over the years it lasts */
  yearly?: number;
}

/** What a year asks of it, and what that costs. */
export interface Year {
  /** m³ to move */
  volume: number;
  /** money for a J from the plug, and for a m³ of fuel */
  energyPrice: number;
  fuelPrice: number;
  /** years over which its price is spread */
  lasts: number;
}

export interface TogetherAsked {
  place: { itemId: string; others: readonly Pump[] };
  /** runs of pipe that are laid in the size, and the sizes */
  itemIds: readonly string[];
  sizes: readonly PipeStock[];
  wanted?: number | undefined;
  year?: Year | undefined;
}

/**
 * Every pump with every size of the pipe, at the three levels: the line of each size is solved once for all pumps. What
 * does not lift at low water, or runs past its published curve, is left out.
 * @param allowed pumps that may stand there
 */
export const pumpAndPipe = (
  line: Line,
  allowed: readonly Pump[],
  asked: TogetherAsked,
): Together[] => finish(pumpAndPipeInSteps(line, allowed, asked));

/** The same in its steps, one a size. */
export function* pumpAndPipeInSteps(
  line: Line,
  allowed: readonly Pump[],
  { place, itemIds, sizes, wanted = 0, year }: TogetherAsked,
): Steps<Together[]> {
  const runs = new Set(itemIds);
  const length = everyItem(line.path).reduce(
    (sum, item) => (item.kind === "pipe" && runs.has(item.id) ? sum + item.length : sum),
    0,
  );
  const curves = allowed.map((pump) => ({ pump, curve: pumpCurve(pump) }));
  const most = allowed.reduce((flow, { points }) => Math.max(flow, points.at(-1)?.flow ?? 0), 0);
  const found: Together[] = [];
  for (const [n, stock] of sizes.entries()) {
    const systems = systemsOf(line, allowed, place, runs, stock, most);
    if (systems) {
      for (const own of curves) {
        const together = over(own, systems, stock, length, line.site.specificGravity, year);
        if (together && together.flow >= wanted) found.push(together);
      }
    }
    yield { done: (n + 1) / sizes.length };
  }
  return found;
}

type Systems = Record<WaterLevel, SystemCurve>;

function systemsOf(
  line: Line,
  [any]: readonly Pump[],
  place: TogetherAsked["place"],
  runs: ReadonlySet<string>,
  stock: PipeStock,
  most: number,
): Systems | undefined {
  if (!any) return undefined;
  const path = laidIn(line, any, stock, runs, place.itemId);
  const others = place.others.filter(({ id }) => id !== any.id);
  const ready = lineModel({ ...line, path }, [any, ...others]);
  if (ready.kind === "refused") return undefined;
  const at = ready.pumps.findIndex(({ itemId }) => itemId === place.itemId);
  const normal = systemCurve(ready, at, most);
  if (!normal) return undefined;
  const systems: Partial<Systems> = { normal };
  for (const level of WATER_LEVELS) {
    if (level === "normal") continue;
    const own = ready.line.single
      ? shifted(normal, ready, level)
      : systemCurve(ready, at, most, level);
    if (!own) return undefined;
    systems[level] = own;
  }
  return systems as Systems;
}

/** On a line of one way the level only lifts or lowers the curve. */
function shifted(
  { head, delivered }: SystemCurve,
  {
    boundaries,
  }: { boundaries: Record<WaterLevel, { source: number; outlets: readonly number[] }> },
  level: WaterLevel,
): SystemCurve {
  const lift = (at: WaterLevel) => (boundaries[at].outlets[0] as number) - boundaries[at].source;
  const by = lift(level) - lift("normal");
  return { head: { ...head, y: head.y.map((own) => own + by) }, delivered };
}

function over(
  { pump, curve }: { pump: Pump; curve: PumpCurve },
  systems: Systems,
  stock: PipeStock,
  length: number,
  specificGravity: number,
  year: Year | undefined,
): Together | undefined {
  const normal = quickDuty(systems.normal, curve);
  if (normal.kind !== "runs") return undefined;
  let least = normal.delivered;
  for (const level of ["low", "high"] as const) {
    const duty = quickDuty(systems[level], curve);
    if (duty.kind !== "runs") return undefined;
    least = Math.min(least, duty.delivered);
  }
  const shaft = shaftPower(curve, normal.flow);
  const power = shaft && shaft * specificGravity;
  const own = priceOf({ arrangement: { kind: "one", pump } });
  const price = own === undefined ? undefined : own + stock.price * length;
  const yearly =
    year && power !== undefined && price !== undefined
      ? ((power * year.volume) / normal.delivered) * priceOfJoule(pump, year) + price / year.lasts
      : undefined;
  return {
    ...{ pump, stock, flow: normal.delivered, least },
    ...(power !== undefined && { power }),
    ...(price !== undefined && { price }),
    ...(yearly !== undefined && { yearly }),
  };
}

/** Money for a J at the motor's terminals, or at the engine's shaft. */
const priceOfJoule = ({ drive }: Pump, { energyPrice, fuelPrice }: Year): number =>
  drive === "engine" ? FUEL_PER_JOULE * fuelPrice : energyPrice;

/** How what costs money is held against the flow it gives. */
export type Money = "price" | "yearly";

/** Those that nothing else gives more than for as little: the front, cheapest first. */
export function frontOf(all: readonly Together[], money: Money): Together[] {
  const priced = all.filter((own) => own[money] !== undefined);
  const sorted = priced.toSorted(
    (a, b) => (a[money] as number) - (b[money] as number) || b.flow - a.flow,
  );
  const front: Together[] = [];
  for (const own of sorted) {
    const last = front.at(-1);
    if (!last || own.flow > last.flow * (1 + 1e-9)) front.push(own);
  }
  return front;
}

/**
 * The front with everything taken off it that a check has something to stop for: each of it is solved in full, and
 * what takes its place as well, until the front holds.
 */
export function frontThatHolds(
  line: Line,
  all: readonly Together[],
  money: Money,
  { place, itemIds, wanted }: Pick<TogetherAsked, "place" | "itemIds" | "wanted">,
): Together[] {
  const runs = new Set(itemIds);
  const judged = new Map<Together, boolean>();
  let left = [...all];
  for (;;) {
    const front = frontOf(left, money);
    const open = front.filter((own) => !judged.has(own));
    if (open.length === 0) return front;
    for (const own of open) judged.set(own, stands(line, own, runs, place, wanted));
    left = left.filter((own) => judged.get(own) !== false);
  }
}

function stands(
  line: Line,
  { pump, stock }: Together,
  runs: ReadonlySet<string>,
  place: TogetherAsked["place"],
  wanted: number | undefined,
): boolean {
  const own = { ...line, path: laidIn(line, pump, stock, runs, place.itemId) };
  const result = solveLine(own, [pump, ...place.others.filter(({ id }) => id !== pump.id)]);
  if (result.kind === "refused") return false;
  return judge(checkContext(result.solution, own, wanted)).every(
    ({ severity, code }) => severity !== "stop" || OF_NO_PUMP.has(code),
  );
}

/** The path with a pump in its place and the runs laid in a size. */
export function laidIn(
  line: Pick<Line, "path">,
  pump: Pick<Pump, "id">,
  stock: Pick<PipeStock, "id">,
  runs: ReadonlySet<string>,
  itemId: string,
) {
  return changeItems(line.path, (item) => {
    if (item.kind === "pipe" && runs.has(item.id)) return { ...item, stock: stock.id };
    return item.kind === "pump" && item.id === itemId ? { ...item, pump: pump.id } : item;
  });
}
