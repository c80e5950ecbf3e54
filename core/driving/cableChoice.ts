import { alikeConductors, type Conductor, voltageDrop } from "./conductor.ts";
import { DROP, START_VOLTAGE } from "./motor.ts";

/** What a cable down a well has to do. m, A and V. */
export interface CableAsked {
  /** from the supply to the well's head, and from there down to the motor */
  run: number;
  down: number;
  /** the run lies in the ground, and is laid one size heavier */
  heavier: boolean;
  current: number;
  starting: number;
  volts: number;
  phase: 1 | 3;
  /** A; a cable carries what its breaker lets through; taken a quarter over the running current when absent */
  breaker?: number | undefined;
  /** what the electrician says each size carries, in A, and what it costs a m where that is known */
  typed: ReadonlyMap<string, { ampacity?: number | undefined; price?: number | undefined }>;
}

export interface CableRow {
  conductor: Conductor;
  /** of the run to the well's head */
  ground: Conductor;
  /** V lost while it runs, and part of the supply; V at the motor running and starting, and the part left then */
  drop: number;
  part: number;
  atMotor: number;
  atStart: number;
  startPart: number;
  /** money, of run and drop together; invented where nobody typed it */
  price: number;
  priceTyped: boolean;
  /** what keeps it from being taken; none where it passes */
  fails: readonly ("drop" | "start" | "ampacity")[];
  /** A it carries, and what it has to */
  ampacity: number;
  carries: number;
  /** of these, what nobody told: the one by a cautious table, the other by the motor's current and a quarter more */
  assumed: readonly ("ampacity" | "breaker")[];
}

/** Invented price of a m of submersible cable: by its copper. */
export const cablePrice = ({ resistance }: Conductor): number =>
  Math.round(100 * (0.5 + 0.0075 / resistance)) / 100;

/** Times the running current a cable carries while its breaker is not told. Common practice, no source. */
const OVER_RUNNING = 1.25;

/** Every size measured the same way, thin to thick, with what it does here. */
export function cableRows(alike: Conductor, asked: CableAsked): CableRow[] {
  const sizes = alikeConductors(alike);
  const { run, down, heavier, current, starting, volts, phase, breaker, typed } = asked;
  return sizes.map((conductor, i): CableRow => {
    const ground = heavier && run > 0 ? (sizes[i + 1] ?? conductor) : conductor;
    const lost = (amps: number) =>
      voltageDrop(down, amps, conductor.resistance, phase) +
      voltageDrop(run, amps, ground.resistance, phase);
    const drop = lost(current);
    const atStart = Math.max(volts - lost(starting), 0);
    const own = typed.get(conductor.id);
    const { price } = own ?? {};
    const ampacity = own?.ampacity ?? conductor.ampacity;
    const carries = Math.max(breaker ?? OVER_RUNNING * current, current);
    const fails: CableRow["fails"][number][] = [];
    if (drop / volts > DROP.most) fails.push("drop");
    if (atStart / volts < START_VOLTAGE) fails.push("start");
    if (ampacity < carries) fails.push("ampacity");
    const assumed: CableRow["assumed"][number][] = [];
    if (own?.ampacity === undefined) assumed.push("ampacity");
    if (breaker === undefined) assumed.push("breaker");
    const each = (of: Conductor) => typed.get(of.id)?.price ?? cablePrice(of);
    return {
      ...{ conductor, ground, drop, part: drop / volts, atMotor: Math.max(volts - drop, 0) },
      ...{ atStart, startPart: atStart / volts },
      price: down * each(conductor) + run * each(ground),
      priceTyped: price !== undefined,
      ...{ fails, ampacity, carries, assumed },
    };
  });
}

export type CableChoice = { kind: "found"; row: CableRow } | { kind: "none" };

/** The cheapest that keeps the voltage up and carries what it has to. */
export function cheapestCable(rows: readonly CableRow[]): CableChoice {
  const [row] = rows
    .filter(({ fails }) => fails.length === 0)
    .toSorted((a, b) => a.price - b.price);
  return row ? { kind: "found", row } : { kind: "none" };
}
