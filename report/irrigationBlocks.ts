import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import { duration } from "#words/duration.ts";
import { findingWords } from "#words/findings.ts";
import { depthOf, groundOf } from "#words/irrigation.ts";
import { itemName } from "#words/items.ts";
import { amountOf } from "#words/simulation.ts";
import { type Block, left, right } from "./blocks.ts";
import { alsoSaid, stopBlocks } from "./findingBlocks.ts";

/** What a watering comes to, on the sheet: each gun, the sets once round, and what stops it. */
export function irrigationBlocks(
  job: Pick<JobDocument, "path" | "field">,
  told: IrrigationResult,
  system: UnitSystem,
): Block[] {
  const { guns, sets, timing } = told;
  if (guns.length === 0) return [];
  const voice = { system, keepOff: () => "What is kept dry" };
  const once =
    sets?.kind === "planned" && timing
      ? [
          `${sets.sets} sets of ${duration(timing.perSet)} lay ${depthOf(timing.depth, system)} on ${groundOf(sets.area, system)}: ${amountOf(timing.volume, system)} in ${duration(timing.whole)} with the moves.`,
          alsoSaid(told.findings, voice, "sets", "day-plan"),
        ]
          .filter(Boolean)
          .join(" ")
      : undefined;
  return [
    { kind: "heading", level: 2, text: "The ground" },
    {
      ...{ kind: "table", caption: "Guns at normal water" },
      columns: [left("Gun"), right("At its base"), right("Through it"), right("Throws")],
      rows: guns.map(({ itemId, gun, pressure, flow, thrown, finding }) => [
        gun.model ?? itemName(job.path, itemId, system),
        format(pressure, "pressure", system),
        format(flow, "flow", system),
        thrown.kind === "throws"
          ? `${format(thrown.low, "length", system)} to ${format(thrown.high, "length", system)}`
          : (findingWords(finding, voice).title ?? ""),
      ]),
    },
    ...stopBlocks([...guns.map(({ finding }) => finding), ...told.findings], voice),
    ...(once ? [{ kind: "paragraph" as const, text: once }] : []),
    {
      kind: "caution",
      text: "Pin the gun: it tips. Keep the jet off power lines and roads. Let a hot engine cool before fuel; its exhaust kills where it cannot blow away.",
    },
  ];
}
