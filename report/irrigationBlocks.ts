import type { JobDocument } from "#contract/documents/job.ts";
import { format } from "#contract/units/format.ts";
import type { UnitSystem } from "#contract/units/units.ts";
import type { IrrigationResult } from "#model/irrigation/irrigation.ts";
import { duration } from "#words/duration.ts";
import { dayRefused, depthOf, groundOf, setNoteWords, throwWords } from "#words/irrigation.ts";
import { itemName } from "#words/items.ts";
import { amountOf } from "#words/simulation.ts";
import { type Block, left, right } from "./blocks.ts";

/** What a watering comes to, on the sheet: each gun, the sets once round, and what stops it. */
export function irrigationBlocks(
  job: Pick<JobDocument, "path" | "field">,
  told: IrrigationResult,
  system: UnitSystem,
): Block[] {
  const { guns, sets, timing, day } = told;
  if (guns.length === 0) return [];
  const say = guns.map(({ thrown, pressure }) => throwWords(thrown, pressure, system));
  const stops = say.filter(({ severity }) => severity === "stop");
  const once =
    sets?.kind === "planned" && timing
      ? [
          `${sets.sets} sets of ${duration(timing.perSet)} lay ${depthOf(timing.depth, system)} on ${groundOf(sets.area, system)}: ${amountOf(timing.volume, system)} in ${duration(timing.whole)} with the moves.`,
          ...sets.notes.map((note) =>
            setNoteWords(note, () => "What is kept dry", system, sets.outside),
          ),
          ...(day?.kind === "refused" ? [dayRefused(day)] : []),
        ].join(" ")
      : undefined;
  return [
    { kind: "heading", level: 2, text: "The ground" },
    {
      ...{ kind: "table", caption: "Guns at normal water" },
      columns: [left("Gun"), right("At its base"), right("Through it"), right("Throws")],
      rows: guns.map(({ itemId, gun, pressure, flow, thrown }, i) => [
        gun.model ?? itemName(job.path, itemId, system),
        format(pressure, "pressure", system),
        format(flow, "flow", system),
        thrown.kind === "throws"
          ? `${format(thrown.low, "length", system)} to ${format(thrown.high, "length", system)}`
          : (say[i]?.title ?? ""),
      ]),
    },
    ...stops.map(
      ({ title, sentence }): Block => ({
        kind: "finding",
        severity: "stop",
        title,
        text: sentence,
      }),
    ),
    ...(once ? [{ kind: "paragraph" as const, text: once }] : []),
    {
      kind: "caution",
      text: "Pin the gun: it tips. Keep the jet off power lines and roads. Let a hot engine cool before fuel; its exhaust kills where it cannot blow away.",
    },
  ];
}
