import type { PipeStock } from "../catalogue/pipes.ts";
import { type Outcome, settledDuty } from "../hydraulics/operatingPoint.ts";
import { lineModel, type SolvedCase, solveCase } from "../hydraulics/solveLine.ts";
import type { Line, PathItem, Source } from "../line/path.ts";
import { isWayOut } from "../outlet/outlets.ts";
import { meanVelocity } from "../pipe/darcyWeisbach.ts";
import type { Pump } from "../pump/pump.ts";

/** What feeds the hose. */
export type HoseSupply =
  | { kind: "pump"; pump: Pump }
  /** a house tap: Pa with it shut, and m³/s with it wide open and no hose on it */
  | { kind: "tap"; pressure: number; openFlow: number };

export interface HoseRun {
  /** m, of the whole way */
  length: number;
  /** m, outlet above the tap or above the water the pump stands in */
  rise: number;
  /** m, of one piece of hose */
  section: number;
  /** id of the fitting at every joint */
  joint: string;
}

export interface HoseRow {
  stock: PipeStock;
  outcome: Outcome["kind"];
  /** m³/s and m/s; absent where the supply does not settle */
  flow?: number;
  velocity?: number;
  /** fraction of the hose's whole loss that its joints take */
  jointShare?: number;
  sections: number;
  couplings: number;
  clamps: number;
  /** of the hose, invented */
  price: number;
}

/**
 * Hoses side by side on one supply, each a line of its own solved at its own flow, with what has to be brought
 * along: pieces of hose, a coupling at every joint, two clamps a coupling and one where the hose goes on.
 */
export function compareHoses(
  supply: HoseSupply,
  run: HoseRun,
  hoses: readonly PipeStock[],
  temperature: number,
): HoseRow[] {
  return hoses.map((stock): HoseRow => {
    const sections = Math.max(1, Math.ceil(run.length / run.section - 1e-9));
    const couplings = sections - 1;
    const { outcome, running } = hoseCase(supply, run, stock, couplings, temperature);
    const row: HoseRow = {
      stock,
      outcome: outcome.kind,
      sections,
      couplings,
      clamps: 2 * couplings + 1,
      price: stock.price * run.length,
    };
    if (!settledDuty(outcome) || !running) return row;
    const { delivered } = running.state;
    const taken = (itemId: string) =>
      running.ledger.reduce(
        (sum, entry) => (entry.itemId === itemId && !isWayOut(entry) ? sum + entry.head : sum),
        0,
      );
    row.flow = delivered;
    row.velocity = meanVelocity(delivered, stock.bore);
    row.jointShare = taken(JOINTS) / (taken(JOINTS) + taken(HOSE));
    return row;
  });
}

const HOSE = "hose";
const JOINTS = "joints";
const PUMP = "pump";

/** One hose as a line: from the tap, or from the water the pump stands in, into the open. */
function hoseCase(
  supply: HoseSupply,
  run: HoseRun,
  stock: PipeStock,
  couplings: number,
  temperature: number,
): Pick<SolvedCase, "outcome" | "running"> {
  // A pump that stands in the water draws from its surface: the drop to it is no part of the comparison.
  const level = { low: 0, normal: 0, high: 0 };
  const source: Source =
    supply.kind === "tap"
      ? { kind: "mains", intake: 0, pressure: supply.pressure, openFlow: supply.openFlow }
      : { kind: "open", level, intake: 0 };
  const hose: PathItem = {
    kind: "pipe",
    id: HOSE,
    stock: stock.id,
    length: run.length,
    rise: run.rise,
  };
  const joints: PathItem = { kind: "fitting", id: JOINTS, fitting: run.joint, count: couplings };
  const pump: PathItem | undefined =
    supply.kind === "pump" ? { kind: "pump", id: PUMP, pump: supply.pump.id } : undefined;
  const line: Line = {
    source,
    path: [
      ...(pump ? [pump] : []),
      hose,
      ...(couplings > 0 ? [joints] : []),
      { kind: "outlet", id: "end", outlet: { type: "free" } },
    ],
    site: { altitude: 0, waterTemperature: temperature, specificGravity: 1 },
    method: { friction: "darcy-weisbach", fittings: "coefficient" },
  };
  const ready = lineModel(line, supply.kind === "pump" ? [supply.pump] : []);
  const result = ready.kind === "ready" ? solveCase(ready, line, "normal") : ready;
  if (result.kind === "solved") return result.solved;
  // Only a rise longer than its hose is refused here: such a hose brings no water.
  const bestHead = 0;
  const staticHead = run.rise;
  return {
    outcome: {
      kind: "cannot-lift",
      staticHead,
      bestHead,
      shortfall: staticHead,
      short: "static-head",
    },
  };
}
