import type { PumpOnLine, Solution } from "../hydraulics/solveLine.ts";
import { suctionOf } from "../line/compiledLine.ts";
import {
  drainBackVolume,
  highPoints,
  pipeVolume,
  unguardedFromOutlet,
  unguardedOutlets,
} from "../line/profile.ts";
import { PRACTICE, type Verdict } from "./verdict.ts";

/** What runs back or runs dry when a pump stops. */
export function waterHeldVerdicts({ line, pumps }: Solution): Verdict[] {
  const base = { levelCase: "low", quantity: "volume", source: PRACTICE } as const;
  const { low } = line.source.level;
  return line.pumps.flatMap((placed, i): Verdict[] => {
    const { pump } = pumps[i] as PumpOnLine;
    const itemId = placed.item.id;
    const verdicts: Verdict[] = [];
    const suction = suctionOf(line, placed);
    const foot = suction.some(({ fitting }) => fitting?.group === "check");
    if (!placed.fed && !pump.submersible && placed.elevation > low && suction.length > 0) {
      const value = pipeVolume(suction);
      verdicts.push({
        ...base,
        code: "loses-prime",
        level: foot ? "good" : "watch",
        itemId,
        value,
      });
    }
    if (foot || placed.fed) return verdicts;
    const value = drainBackVolume(line, placed, low);
    if (line.pumps.length === 1 && value > 0 && unguardedOutlets(line, placed).size > 0) {
      verdicts.push({ ...base, code: "drains-back", level: "watch", value });
    }
    if (line.pumps.length > 1 && unguardedFromOutlet(line, placed)) {
      verdicts.push({ ...base, code: "backflow-unguarded", level: "stop", itemId, value });
    }
    return verdicts;
  });
}

/** Humps where air gathers, way by way. */
export function trappedAirVerdicts({ line }: Solution): Verdict[] {
  return highPoints(line).map(
    ({ itemId, elevation, side }): Verdict => ({
      code: "traps-air",
      level: "watch",
      levelCase: "normal",
      itemId,
      quantity: "head",
      value: elevation,
      extra: { suction: side === "suction" ? 1 : 0 },
      source: PRACTICE,
    }),
  );
}
