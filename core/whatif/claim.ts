import { findPipeStock, PIPE_STOCK } from "../catalogue/pipes.ts";
import { leastOutletPressure } from "../hydraulics/headLine.ts";
import type { Solution } from "../hydraulics/solveLine.ts";
import { changeItems, type Line } from "../line/path.ts";
import type { Pump } from "../pump/pump.ts";
import { GRAVITY } from "../quantity/constants.ts";
import { deliveredBy, type Tried } from "./changes.ts";

/** What the box or the seller says, as it was understood. */
export type Claim =
  | { kind: "flow"; flow: number }
  | { kind: "pressure"; pressure: number }
  /** so many times the flow, with the line laid in another size */
  | { kind: "times"; times: number; nominal: string };

export type Checked =
  /** `remedy`: the cheapest single change with which it is true, if there is one; else `best`, the one that brings most */
  | { kind: "flow"; claimed: number; arrives: number; holds: boolean; remedy?: Tried; best?: Tried }
  /** Pa: before the outlet while it runs, and the most at the pump with everything shut */
  | { kind: "pressure"; claimed: number; arrives: number; shut: number; holds: boolean }
  | { kind: "times"; claimed: number; nominal: string; times: number; holds: boolean }
  /** no run of the line comes in that size */
  | { kind: "no-such-size"; nominal: string };

/** How far off a claim may be and still be called true, as a fraction. */
const ROUNDED = 0.02;

/**
 * What of a claim arrives on this line.
 * @param changes single changes that were tried on it, the most for their price first
 */
export function checkClaim(
  claim: Claim,
  { line, pumps, solution }: { line: Line; pumps: readonly Pump[]; solution: Solution },
  changes: readonly Tried[],
): Checked | undefined {
  const { running } = solution.cases.normal;
  if (!running) return undefined;
  const arrives = running.state.delivered;
  switch (claim.kind) {
    case "flow": {
      const enough = (flow: number) => flow >= claim.flow * (1 - ROUNDED);
      const cost = ({ price = Number.POSITIVE_INFINITY }: Tried) => price;
      const [remedy] = changes
        .filter(({ flow }) => enough(flow))
        .toSorted((a, b) => cost(a) - cost(b));
      const best = changes.reduce<Tried | undefined>(
        (most, tried) => (most && most.flow >= tried.flow ? most : tried),
        undefined,
      );
      return {
        ...{ kind: "flow", claimed: claim.flow, arrives, holds: enough(arrives) },
        ...(remedy && { remedy }),
        ...(best && { best }),
      };
    }
    case "pressure": {
      const { line: compiled, pumps: on, water } = solution;
      const least = leastOutletPressure(compiled, running.headLine, water) ?? 0;
      const shut = Math.max(...on.map(({ curve }) => curve.peak.head)) * water.density * GRAVITY;
      return {
        ...{ kind: "pressure", claimed: claim.pressure, arrives: Math.max(least, 0), shut },
        holds: least >= claim.pressure * (1 - ROUNDED),
      };
    }
    case "times": {
      let swapped = false;
      const path = changeItems(line.path, (item) => {
        if (item.kind !== "pipe") return item;
        const own = findPipeStock(item.stock);
        const other = PIPE_STOCK.find(
          ({ family, nominal }) => family === own?.family && nominal === claim.nominal,
        );
        if (other && other.id !== item.stock) swapped = true;
        return other ? { ...item, stock: other.id } : item;
      });
      if (!swapped) return { kind: "no-such-size", nominal: claim.nominal };
      const then = deliveredBy({ ...line, path }, pumps);
      if (then === undefined) return undefined;
      const { times: claimed, nominal } = claim;
      const times = then / arrives;
      return { kind: "times", claimed, nominal, times, holds: times >= claimed * (1 - ROUNDED) };
    }
  }
}
